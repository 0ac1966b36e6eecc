import { request as httpRequest } from 'node:http';
import { makeNode, makeText, type Component, type ContentNode } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('What cannot be used', () => {
  let server: RunningServer;
  let writer: Client;

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  const topic = (...blocks: ContentNode[]): ContentNode =>
    makeNode('topic', null, [makeNode('title', null, [makeText('T')]), ...blocks]);
  const create = (body: unknown, title = 'T') =>
    writer.post<Component & ProblemDetails>('/components', { kind: 'topic', title, body });
  const paragraph = (text: string): ContentNode => makeNode('paragraph', null, [makeText(text)]);

  it('is refused with its place: signs that cannot be stored, and halves of signs', async () => {
    const nul = await create(topic(paragraph('a\0b')));
    expect([nul.status, nul.json.detail]).toEqual([
      422,
      'body.content.1.content.0.text holds the sign U+0000, which cannot be stored.',
    ]);
    const half = await create(topic(paragraph('x')), 'a\ud800');
    expect([half.status, half.json.detail]).toEqual([422, 'title holds half of a sign (a lone surrogate).']);
    expect((await writer.get('/components?find=%00')).status).toBe(422);
    expect((await writer.get('/components/a%00b')).status).toBe(422);
    expect((await writer.get('/components/%ff')).status).toBe(400);
  });

  it('is refused where it nests without end', async () => {
    const depth = 100_000;
    const deep = `{"kind":"topic","title":"T","body":${'{"type":"topic","content":['.repeat(depth)}${']}'.repeat(depth)}}`;
    const { status, json } = await writer.request<ProblemDetails>('POST', '/api/components', deep);
    expect([status, json.detail]).toEqual([422, 'What was sent nests too deep.']);
  });

  it('is refused where a number is larger than any that can be stored', async () => {
    expect((await writer.get('/components/x/revisions/99999999999')).status).toBe(400);
    const placement = makeNode('placement', { component: 'x', mode: 'held', revision: 99_999_999_999 });
    const { status } = await create(topic(placement));
    expect([400, 422]).toContain(status);
    expect((await writer.get('/components?offset=1e300')).status).toBe(400);
  });

  it('is refused where an attribute is not what the schema says', async () => {
    const cases: readonly ContentNode[] = [
      makeNode('admonition', { kind: '"><script>alert(1)</script>' }, [paragraph('x')]),
      { ...paragraph('x'), attrs: { when: 5 } },
      { ...paragraph('x'), attrs: { id: '"><img src=x>' } },
      makeNode('table', null, [
        makeNode('table_grid', null, [
          makeNode('table_row', null, [makeNode('table_cell', { colspan: 1e9 }, [paragraph('x')])]),
        ]),
      ]),
    ];
    for (const each of cases) {
      const { status, json } = await create(topic(each));
      expect(status).withContext(JSON.stringify(each)).toBe(422);
      expect(json.detail).toContain('The attribute');
    }
  });

  it('breaks no upload: a form that ends early or is none is one sentence', async () => {
    const cookies = await writer.cookieHeaders();
    const send = (body: string): Promise<number> =>
      fetch(`${server.origin}/api/images`, {
        method: 'POST',
        headers: { ...cookies, 'content-type': 'multipart/form-data; boundary=x' },
        body,
      }).then(({ status }) => status);
    expect(await send('--x\r\ncontent-disposition: form-data; name="file"; filename="a.png"\r\n\r\nabc')).toBe(400);
    expect(await send('no form at all')).toBe(400);
  });

  it('is not read at all where it says that it is too large, or comes from somebody who may not', async () => {
    const reader = await server.as('reader');
    const cases = [
      { cookies: await writer.cookieHeaders(), status: 413 },
      { cookies: await reader.cookieHeaders(), status: 403 },
      { cookies: {}, status: 401 },
    ];
    for (const { cookies, status } of cases) {
      // Nothing of the body is ever sent: whoever answers has not waited for it.
      const answered = await new Promise<number | undefined>((resolve, reject) => {
        const call = httpRequest(`${server.origin}/api/images`, {
          method: 'POST',
          headers: { ...cookies, 'content-type': 'multipart/form-data; boundary=x', 'content-length': 500 << 20 },
        });
        call.on('response', (response) => {
          resolve(response.statusCode);
          call.destroy();
        });
        call.on('error', reject);
        call.flushHeaders();
      });
      expect(answered).toBe(status);
    }
  });
});
