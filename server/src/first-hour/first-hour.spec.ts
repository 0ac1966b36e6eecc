import type {
  Axis,
  Component,
  ContentNode,
  FirstHourMade,
  StoredProfile,
  StoredPublication,
  StoredVariant,
} from '@allomorph/core';
import type { Client } from '../../../tests/support/client.js';
import { startServer, waitForBuilds, type RunningServer } from '../../../tests/support/running-server.js';

const told = {
  axes: [
    { title: 'Model', values: 'Basic\nPlus' },
    { title: 'Reader', values: 'Owner\nInstaller' },
  ],
  documents: [
    {
      title: 'Owner’s guide',
      languages: ['en', 'de'],
      formats: ['html', 'pdf'],
      madeFor: { Model: 'each', Reader: ['Owner'] },
    },
    { title: 'Installation guide', languages: ['en'], formats: ['html'], madeFor: {} },
  ],
  topic: { title: 'Welcome', text: 'This is the first page.\n\nIt has two paragraphs.' },
  further: ['Safety', 'Cleaning'],
};

describe('The first hour', () => {
  let server: RunningServer;
  let keeper: Client;
  beforeAll(async () => {
    server = await startServer();
    keeper = await server.as('keeper');
  });
  afterAll(() => server.stop());

  const counts = async (): Promise<readonly number[]> => {
    const variation = await keeper.get<{ axes: readonly Axis[]; profiles: readonly StoredProfile[] }>('/variation');
    const publications = await keeper.get<readonly unknown[]>('/publications');
    const variants = await keeper.get<readonly StoredVariant[]>('/variants');
    return [variation.json.axes.length, variation.json.profiles.length, publications.json.length, variants.json.length];
  };

  it('makes a library that builds, and nothing twice', async () => {
    const before = await counts();
    const { status, json: made } = await keeper.post<FirstHourMade>('/first-hour', told);
    expect(status).toBe(200);
    expect({ ...made, topic: '', publications: made.publications.length, variants: made.variants.length }).toEqual({
      axes: 2,
      profiles: 3,
      topic: '',
      topics: 3,
      publications: 2,
      variants: 5,
    });
    const after = await counts();
    expect(after.map((count, at) => count - (before[at] ?? 0))).toEqual([2, 3, 2, 5]);
    const topic = await keeper.get<Component>(`/components/${made.topic ?? ''}`);
    expect((topic.json.body as ContentNode).content?.map(({ type }) => type)).toEqual([
      'title',
      'paragraph',
      'paragraph',
    ]);
    const publication = await keeper.get<StoredPublication>(`/publications/${made.publications[0] ?? ''}`);
    expect(publication.json.entries.length).toBe(3);

    const started = await keeper.post<{ builds: readonly string[] }>('/builds', {
      variants: made.variants.slice(0, 1),
    });
    const [build] = await waitForBuilds(keeper, started.json.builds);
    expect(build?.state).toBe('done');

    const again = await keeper.post<FirstHourMade>('/first-hour', told);
    expect({ ...again.json, publications: [] }).toEqual({
      axes: 0,
      profiles: 0,
      topic: made.topic,
      topics: 0,
      publications: [],
      variants: [],
    });
    expect(await counts()).toEqual(after);
  });

  it('makes nothing of what cannot be made, and is for keepers', async () => {
    const before = await counts();
    const wrong = {
      ...told,
      axes: [{ title: 'Colour', values: 'Red' }],
      documents: [{ ...told.documents[0], formats: [] }],
    };
    const refused = await keeper.post<{ detail: string }>('/first-hour', wrong);
    expect([refused.status, refused.json.detail]).toEqual([422, '“Owner’s guide” has no format.']);
    expect(await counts()).toEqual(before);
    const writer = await server.as('writer');
    expect((await writer.post('/first-hour', told)).status).toBe(403);
  });
});
