import { createHash } from 'node:crypto';
import { type Component, type OriginAnswer, type StoredVariant } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('Where a passage of a deliverable comes from', () => {
  let server: RunningServer;
  let keeper: Client;
  let build: string;

  beforeAll(async () => {
    server = await startServer('demo');
    keeper = await server.as('keeper');
    const { json } = await keeper.get<StoredVariant[]>('/variants');
    const variant = json.find(({ title }) => title === 'Dunlin 4, Europe');
    const { json: started } = await keeper.post<{ builds: string[] }>('/builds', { variants: [variant?.id] });
    await server.ended(keeper, started.builds);
    build = started.builds[0] ?? '';
  });
  afterAll(() => server.stop());

  const ask = (order: object, client = keeper) =>
    client.post<OriginAnswer & ProblemDetails>(`/builds/${build}/origin`, {
      entry: null,
      leftOut: false,
      outline: false,
      ...order,
    });
  const page = async ({ address }: OriginAnswer) => {
    const response = await fetch(new URL(address, server.origin));
    return { html: await response.text(), policy: response.headers.get('Content-Security-Policy') ?? '' };
  };

  it('is told for every passage of every page, with its way down from the entry', async () => {
    const { json: first } = await ask({ outline: true });
    expect(first.outline?.pages[0]?.entry).toBe(first.entry);
    let passages = 0;
    let placed = 0;
    for (const { entry } of first.outline?.pages ?? []) {
      const { json } = await ask({ entry });
      const { html } = await page(json);
      expect(json.way.at(-1)?.entry).toBe(entry);
      for (const [, name = ''] of html.matchAll(/ data-passage="([^"]+)"/g)) {
        const origin = json.origins[name];
        expect(origin).withContext(name).toBeDefined();
        passages += 1;
        if ((origin?.steps.length ?? 0) > 1) placed += 1;
      }
      expect(html).not.toContain(' data-left-out=');
    }
    expect(passages).toBeGreaterThan(50);
    expect(placed).toBeGreaterThan(5);
  });

  it('is told for what the variant leaves out, too, with a condition that is not met', async () => {
    const { json: first } = await ask({ outline: true });
    expect(first.outline?.leftOut.length).toBeGreaterThan(0);
    let out = 0;
    for (const { entry } of first.outline?.pages ?? []) {
      const { json } = await ask({ entry, leftOut: true });
      for (const { isLeftOut, steps } of Object.values(json.origins)) {
        if (!isLeftOut) continue;
        out += 1;
        expect(steps.length).toBeGreaterThan(0);
      }
    }
    expect(out).toBeGreaterThan(5);
  });

  it('is shown in a page that runs one script, which is ours, and reaches nothing', async () => {
    const { html, policy } = await page((await ask({})).json);
    const script = /<script>(.*?)<\/script>/s.exec(html)?.[1] ?? '';
    const hash = createHash('sha256').update(script).digest('base64');
    expect(policy).toContain(`script-src 'sha256-${hash}'`);
    expect(policy).toContain(`default-src 'none'`);
    expect(policy).toMatch(/; sandbox allow-scripts (?!.*allow-same-origin)/);
    expect(html.match(/<script/g)?.length).toBe(1);
  });

  it('stays as it was built when the library goes on', async () => {
    const { json: before } = await ask({});
    const key = before.origins['']?.steps[0]?.component ?? '';
    const { json: component } = await keeper.get<Component & { body: object }>(`/components/${key}`);
    const { status } = await keeper.put(`/components/${key}`, {
      base: component.revision,
      title: 'Another title',
      body: component.body,
    });
    expect(status).toBe(200);
    const { json: after } = await ask({});
    expect(after.origins).toEqual(before.origins);
    expect(after.origins['']?.steps[0]?.revision).toBe(component.revision);
  });

  it('is shown to readers, and to nobody who asks for what is not there', async () => {
    expect((await ask({}, await server.as('reader'))).status).toBe(200);
    const { status, json } = await keeper.post<ProblemDetails>('/builds/00000000-0000-4000-8000-000000000000/origin', {
      entry: null,
      leftOut: false,
      outline: false,
    });
    expect(status).toBe(404);
    expect(json.detail).toContain('build the variant again');
    // An entry that is not in leads to the first page.
    const { json: first } = await ask({ entry: 'no-such-entry' });
    expect(first.entry).toBe((await ask({})).json.entry);
  });
});
