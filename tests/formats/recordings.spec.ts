import {
  newRecipe,
  type Component,
  type ContentNode,
  type Recording,
  type StoredPublication,
  type StoredVariant,
} from '@allomorph/core';
import { strFromU8, unzipSync } from 'fflate';
import { parse } from 'node-html-parser';
import type { Client } from '../support/client.js';
import { film, wave } from '../support/recordings.js';
import { startServer, type RunningServer } from '../support/running-server.js';
import { faultsOfEpubs, textOfPdf, textOfWord } from './read-formats.js';

describe('Stored recordings in deliverables', () => {
  let server: RunningServer;
  let keeper: Client;
  let build = '';
  const bytes = { film: film(Buffer.from('the moving pictures')), sound: wave(Buffer.alloc(800, 127)) };
  const kept: Partial<Record<keyof typeof bytes, Recording>> = {};
  const pathOf = (of: keyof typeof bytes, ending: string): string =>
    `recordings/${kept[of]?.digest.slice(0, 16)}.${ending}`;

  const upload = async (of: keyof typeof bytes, name: string): Promise<Recording> => {
    const form = new FormData();
    form.set('file', new Blob([bytes[of]]), name);
    return (kept[of] = (await keeper.post<Recording>('/recordings', form)).json);
  };
  const block = (
    medium: string,
    { digest, mediaType, name }: Recording,
    address: string,
    said: string,
  ): ContentNode => ({
    type: 'media',
    attrs: { medium, recording: digest, mediaType, name, address },
    content: [{ type: 'paragraph', content: [{ type: 'text', text: said }] }],
  });
  const filesOf = async (format: string): Promise<Readonly<Record<string, Uint8Array>>> =>
    unzipSync(new Uint8Array((await keeper.get(`/builds/${build}/zip?format=${format}`)).bytes));
  const onlyFileOf = async (format: string): Promise<Uint8Array> => {
    const [file] = Object.values(await filesOf(format));
    if (!file) throw new Error(`There is nothing of ${format}.`);
    return file;
  };

  beforeAll(async () => {
    server = await startServer();
    keeper = await server.as('keeper');
    const moving = await upload('film', 'Mast “1”.mp4');
    const sound = await upload('sound', 'alarm.wav');
    const body = {
      type: 'topic',
      content: [
        { type: 'title', content: [{ type: 'text', text: 'Seen and heard' }] },
        block('video', moving, 'https://films.example/mast', 'Two people lift it.'),
        block('audio', sound, '', 'Three short tones.'),
      ],
    };
    const { json: topic } = await keeper.post<Component>('/components', { kind: 'topic', title: 'Seen', body });
    await keeper.put('/profiles/all', { base: 0, key: 'all', title: 'All', axes: {} });
    const { json: book } = await keeper.post<StoredPublication>('/publications', { title: 'Films' });
    const entries = [{ id: 'e1', topic: topic.key }];
    await keeper.put(`/publications/${book.key}`, { base: book.revision, title: book.title, values: {}, entries });
    const formats = ['html', 'page', 'epub', 'markdown', 'pdf', 'docx'];
    const { json: variant } = await keeper.post<StoredVariant>(`/publications/${book.key}/variants`, {
      ...newRecipe,
      title: 'All',
      profile: 'all',
      formats,
    });
    const { json } = await keeper.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    build = json.builds[0] ?? '';
    const [ended] = await server.ended(keeper, [build]);
    expect([ended?.state, ended?.formats.map(({ state }) => state)]).toEqual(['done', formats.map(() => 'done')]);
  });
  afterAll(() => server.stop());

  it('lie beside the pages of a site, which play them, and are sent in parts', async () => {
    const files = await filesOf('html');
    expect(Buffer.from(files[pathOf('film', 'mp4')] ?? []).equals(Buffer.from(bytes.film))).toBeTrue();
    expect(Buffer.from(files[pathOf('sound', 'wav')] ?? []).equals(Buffer.from(bytes.sound))).toBeTrue();
    const page = Object.entries(files).find(([path]) => path.startsWith('seen'))?.[1];
    const root = parse(strFromU8(page ?? new Uint8Array()));
    expect(root.querySelector('video')?.getAttribute('src')).toBe(pathOf('film', 'mp4'));
    expect(root.querySelector('audio')?.getAttribute('src')).toBe(pathOf('sound', 'wav'));
    expect(root.querySelectorAll('figcaption').map(({ text }) => text.trim())).toEqual([
      'Two people lift it.',
      'Three short tones.',
    ]);
    const led = await keeper.get(`/deliverables/${build}/html/${pathOf('sound', 'wav')}`);
    const part = await fetch(new URL(led.headers.get('location') ?? '', server.origin), {
      headers: { range: 'bytes=0-3' },
    });
    expect([part.status, await part.text()]).toEqual([206, 'RIFF']);
  });

  it('are in e-books where reading devices play their kind, which the checker of the standard’s makers accepts', async () => {
    const book = await onlyFileOf('epub');
    const files = unzipSync(book);
    expect(Object.keys(files)).toContain(`EPUB/${pathOf('film', 'mp4')}`);
    // No core media type of EPUB 3.3 (3.2).
    expect(Object.keys(files)).not.toContain(`EPUB/${pathOf('sound', 'wav')}`);
    const text = Object.entries(files)
      .filter(([path]) => path.endsWith('.xhtml'))
      .map(([, each]) => strFromU8(each))
      .join('');
    expect(text).toContain(`<video controls="controls" preload="none" src="${pathOf('film', 'mp4')}">`);
    expect(text).not.toContain('<audio');
    expect(text).toContain('<p>alarm.wav</p>');
    expect(faultsOfEpubs(book)).toBe('');
  });

  it('are led to from Markdown, beside which they lie', async () => {
    const files = await filesOf('markdown');
    expect(Object.keys(files)).toEqual(jasmine.arrayContaining([pathOf('film', 'mp4'), pathOf('sound', 'wav')]));
    const text = Object.entries(files)
      .filter(([path]) => path.endsWith('.md'))
      .map(([, each]) => strFromU8(each))
      .join('\n');
    expect(text).toContain(`[Mast “1”.mp4](<${pathOf('film', 'mp4')}>)`);
    expect(text).toContain(`[alarm.wav](<${pathOf('sound', 'wav')}>)`);
  });

  it('are told by their address or their name on paper, in Word and on the single page', async () => {
    const page = parse(strFromU8(await onlyFileOf('page')));
    expect(page.querySelector('video')?.getAttribute('src')).toBe('https://films.example/mast');
    for (const text of [textOfPdf(await onlyFileOf('pdf')), textOfWord(await onlyFileOf('docx'))]) {
      expect(text).toContain('https://films.example/mast');
      expect(text).toContain('alarm.wav');
      expect(text).not.toContain('mp4');
      expect(text).toContain('Three short tones.');
    }
    expect(page.querySelector('article, main, body')?.text).toContain('alarm.wav');
  });
});
