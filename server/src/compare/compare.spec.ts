import type { Comparison, StoredVariant } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('Comparing variants of the demo library', () => {
  let server: RunningServer;
  let reader: Client;
  let variants: readonly StoredVariant[];

  beforeAll(async () => {
    server = await startServer('demo');
    reader = await server.as('reader');
    variants = (await reader.get<StoredVariant[]>('/variants')).json;
  });
  afterAll(() => server.stop());

  const id = (title: string): string =>
    variants.find((variant) => variant.publication === 'observer-handbook' && variant.title === title)?.id ?? '';
  const compare = (before: string, after: string) =>
    reader.get<Comparison & ProblemDetails>(`/compare?before=${before}&after=${after}`);

  it('names the entries and the words that differ, with where they come from', async () => {
    const { json } = await compare(id('Dunlin 2, Europe'), id('Dunlin 4X, North America'));
    const entry = (topic: string) => json.entries.find((each) => each.topic === topic);
    expect(entry('export')?.kind).toBe('added');
    expect(entry('glossary')?.kind).toBe('same');
    const wind = entry('readings')?.passages.filter((passage) => passage.kind === 'added');
    expect(
      wind?.some(({ after }) => after?.text.startsWith('Wind speed is shown in mph') && after.component === 'readings'),
    ).toBeTrue();
    const mains = entry('safety')?.passages.find((passage) => passage.kind === 'changed');
    expect(mains?.after?.component).toBe('warning-mains');
    expect(mains?.words.filter((run) => run.kind === 'removed').map((run) => run.text.trim())).toContain('230');
  });

  it('finds a variant equal to itself', async () => {
    const { json } = await compare(id('Dunlin 4, Europe'), id('Dunlin 4, Europe'));
    expect(json.entries.length).toBeGreaterThan(10);
    expect(new Set(json.entries.map((entry) => entry.kind))).toEqual(new Set(['same']));
  });

  it('refuses variants that are not there', async () => {
    const nobody = '00000000-0000-4000-8000-000000000000';
    expect((await compare(nobody, nobody)).status).toBe(404);
    expect((await compare('x', nobody)).status).toBe(400);
  });
});
