import { randomBytes } from 'node:crypto';
import type { Component, ContentNode, Recording } from '@allomorph/core';
import { film, wave } from '../../../tests/support/recordings.js';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('Recordings', () => {
  let server: RunningServer;
  let writer: Client;

  const upload = (bytes: Uint8Array<ArrayBuffer>, name: string, client = writer) => {
    const form = new FormData();
    form.set('file', new Blob([bytes]), name);
    return client.post<Recording & ProblemDetails>('/recordings', form);
  };
  const topicOf = (recording: Readonly<Record<string, unknown>>, transcript = 'Two people lift it.'): ContentNode => ({
    type: 'topic',
    content: [
      { type: 'title', content: [{ type: 'text', text: 'Films' }] },
      {
        type: 'media',
        attrs: recording,
        content: [{ type: 'paragraph', content: [{ type: 'text', text: transcript }] }],
      },
    ],
  });

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  it('are known by their bytes, and kept once, whatever their size', async () => {
    const bytes = film(randomBytes(3 * (1 << 20) + 5));
    const { json } = await upload(bytes, '../Lifting the mast.exe');
    expect([json.mediaType, json.name]).toEqual(['video/mp4', 'Lifting the mast.exe']);
    expect((await upload(bytes, 'again.mp4')).json.digest).toBe(json.digest);
    const { bytes: shown, headers } = await writer.get(`/recordings/${json.digest}`);
    expect(shown.equals(bytes)).toBeTrue();
    expect(headers.get('content-type')).toBe('video/mp4');
    expect(headers.get('content-security-policy')).toContain("default-src 'none'");
  });

  it('of kinds that browsers do not play are refused with a sentence', async () => {
    const refused = await upload(new TextEncoder().encode('<html><script>alert(1)</script></html>'), 'film.mp4');
    expect(refused.status).toBe(422);
    expect(refused.json.detail).toContain('“film.mp4” is not a film or sound that browsers play');
    expect((await upload(new Uint8Array(0), 'nothing.mp4')).status).toBe(422);
    expect((await writer.post('/recordings', new FormData())).status).toBe(400);
    const reader = await server.as('reader');
    expect((await upload(film(randomBytes(9)), 'x.mp4', reader)).status).toBe(403);
  });

  it('are sent in parts, as players ask for them (RFC 9110, 14)', async () => {
    const bytes = film(randomBytes(2 * (1 << 20) + 100));
    const { json } = await upload(bytes, 'parts.mp4');
    const ask = async (range: string) => {
      const headers = { ...(await writer.cookieHeaders()), range };
      const answer = await fetch(`${server.origin}/api/recordings/${json.digest}`, { headers });
      const part = Buffer.from(await answer.arrayBuffer());
      return { status: answer.status, of: answer.headers.get('content-range'), part };
    };
    const size = bytes.length;
    for (const [range, begin, end] of [
      ['bytes=0-0', 0, 1],
      ['bytes=10-99', 10, 100],
      [`bytes=${(1 << 20) - 3}-${(1 << 20) + 2}`, (1 << 20) - 3, (1 << 20) + 3],
      [`bytes=${1 << 20}-`, 1 << 20, size],
      ['bytes=-7', size - 7, size],
      [`bytes=5-${size + 1000}`, 5, size],
    ] as const) {
      const { status, of, part } = await ask(range);
      expect([range, status, of]).toEqual([range, 206, `bytes ${begin}-${end - 1}/${size}`]);
      expect(part.equals(bytes.subarray(begin, end)))
        .withContext(range)
        .toBeTrue();
    }
    const behind = await ask(`bytes=${size}-`);
    expect([behind.status, behind.of]).toEqual([416, `bytes */${size}`]);
    for (const whole of ['bytes=0-1,5-9', 'pages=1-2', 'nonsense']) {
      const { status, part } = await ask(whole);
      expect([whole, status, part.length]).toEqual([whole, 200, size]);
    }
  });

  it('stand on a page as what their bytes are, and only where they were taken in', async () => {
    const { json } = await upload(wave(randomBytes(500)), 'alarm.wav');
    const attrs = { medium: 'audio', recording: json.digest, mediaType: 'text/html', name: 'alarm.wav' };
    const made = await writer.post<Component>('/components', { kind: 'topic', title: 'Sounds', body: topicOf(attrs) });
    expect(made.status).toBe(200);
    const stored = JSON.stringify(made.json.body);
    expect(stored).toContain('audio/wav');
    expect(stored).not.toContain('text/html');
    const unknown = topicOf({ ...attrs, recording: 'a'.repeat(64) });
    const refused = await writer.post<ProblemDetails>('/components', { kind: 'topic', title: 'X', body: unknown });
    expect([refused.status, refused.json.detail]).toEqual([
      422,
      'The recording “alarm.wav” is not in the library; upload it first.',
    ]);
    const noDigest = topicOf({ ...attrs, recording: '../../etc/passwd' });
    expect((await writer.post('/components', { kind: 'topic', title: 'Y', body: noDigest })).status).toBe(422);
  });
});
