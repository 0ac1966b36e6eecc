import { limits, type Component } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('Placements in placements', () => {
  let server: RunningServer;
  let writer: Client;

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  const snippet = (key: string, placed: string | null) =>
    writer.post<Component & ProblemDetails>('/components', {
      kind: 'snippet',
      title: key,
      key,
      body: {
        type: 'fragment',
        content: [
          placed === null ? { type: 'paragraph' } : { type: 'placement', attrs: { component: placed, id: 'b1' } },
        ],
      },
    });

  it('nest as deep as they may, and no deeper, from whichever end the last one comes', async () => {
    const half = limits.placementDepth / 2;
    await snippet('low0', null);
    for (let at = 1; at <= half; at += 1) expect((await snippet(`low${at}`, `low${at - 1}`)).status).toBe(200);
    await snippet('high0', null);
    for (let at = 1; at < half; at += 1) expect((await snippet(`high${at}`, `high${at - 1}`)).status).toBe(200);
    const join = (placed: string) =>
      writer.put<ProblemDetails>('/components/high0', {
        base: 1,
        title: 'high0',
        body: { type: 'fragment', content: [{ type: 'placement', attrs: { component: placed, id: 'b1' } }] },
      });
    // With the one that joins them the two halves are as deep as they may be.
    expect((await snippet('top', `low${half}`)).status).toBe(200);
    const refused = await join('top');
    expect([refused.status, refused.json.detail]).toEqual([
      422,
      `Placements and variables may nest ${limits.placementDepth} deep; these nest deeper, or hold themselves.`,
    ]);
    expect((await join(`low${half}`)).status).toBe(200);
  });

  it('count with variables in variables, of which none holds itself', async () => {
    const variable = (held: string) => ({
      type: 'variable',
      default: { type: 'phrase', content: [{ type: 'variable', attrs: { key: held } }] },
      rules: [],
    });
    const made = await writer.post('/components', { kind: 'variable', title: 'v', key: 'v', body: variable('w') });
    expect(made.status).toBe(200);
    const itself = await writer.put<ProblemDetails>('/components/v', { base: 1, title: 'v', body: variable('v') });
    expect([itself.status, itself.json.detail.slice(-16)]).toEqual([422, 'hold themselves.']);
  });
});
