import { TestBed } from '@angular/core/testing';
import { contentSchema, makeNode, type Component, type KnownLabels } from '@allomorph/core';
import { configure } from '../shared/testing';
import { EditorLibrary } from './editor-library';
import { MarkerPanel } from './marker-panel';
import { SlotPanel } from './slot-panel';

const body = makeNode('fragment', null, [makeNode('paragraph')]);
const tip = (key: string, subject: string): Component => ({
  key,
  kind: 'snippet',
  title: `Tip ${key}`,
  revision: 1,
  body,
  labels: { collection: 'tips', tags: { subject: [subject] } },
});
const topic: Component = {
  key: 't',
  kind: 'topic',
  title: 'T',
  revision: 1,
  body: makeNode('topic', null, [makeNode('title'), makeNode('paragraph')]),
  labels: { collection: null, tags: { subject: ['rain'] } },
};
const labels: KnownLabels = {
  collections: [
    { name: 'tips', count: 1 },
    { name: 'warnings', count: 1 },
  ],
  tags: [{ tag: 'subject', value: 'rain' }],
  people: [],
};
const slot = (attrs: Readonly<Record<string, unknown>>) => contentSchema.nodeFromJSON(makeNode('slot', attrs));

describe('The panel of a slot', () => {
  const show = async (attrs: Readonly<Record<string, unknown>>): Promise<HTMLElement> => {
    const server = configure(EditorLibrary);
    TestBed.inject(EditorLibrary).add({ component: topic, components: [tip('a', 'rain'), tip('b', 'wind')], held: [] });
    const fixture = TestBed.createComponent(SlotPanel);
    fixture.componentRef.setInput('node', slot(attrs));
    fixture.componentRef.setInput('own', topic);
    TestBed.tick();
    server.expectOne('/api/labels').flush(labels);
    await fixture.whenStable();
    TestBed.tick();
    return fixture.nativeElement as HTMLElement;
  };
  const candidates = (host: HTMLElement) => [...host.querySelectorAll('.candidates a')].map((each) => each.textContent);

  it('shows what its rule lets in', async () => {
    expect(candidates(await show({ collection: 'tips' }))).toEqual(['Tip a', 'Tip b']);
    TestBed.resetTestingModule();
    expect(candidates(await show({ collection: 'tips', matching: 'subject' }))).toEqual(['Tip a']);
  });

  it('says what to do where nothing fits', async () => {
    const host = await show({ collection: 'warnings' });
    expect(host.textContent).toContain('Nothing fits here yet.');
  });
});

describe('The panel of an index marker', () => {
  it('hands on what is typed, and nothing for an empty second level', async () => {
    configure();
    const fixture = TestBed.createComponent(MarkerPanel);
    const altered: Readonly<Record<string, unknown>>[] = [];
    fixture.componentInstance.altered.subscribe((each) => altered.push(each));
    fixture.componentRef.setInput(
      'node',
      contentSchema.nodeFromJSON(makeNode('index_marker', { primary: 'rain', secondary: 'gauge' })),
    );
    TestBed.tick();
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const field = (name: string) => host.querySelector<HTMLInputElement>(`#marker-${name}`) as HTMLInputElement;
    expect([field('primary').value, field('secondary').value, field('see').value]).toEqual(['rain', 'gauge', '']);
    for (const [name, text] of [
      ['primary', ' hail '],
      ['secondary', '  '],
      ['seeAlso', 'ice'],
    ] as const) {
      field(name).value = text;
      field(name).dispatchEvent(new Event('input'));
      field(name).dispatchEvent(new Event('blur'));
    }
    expect(altered).toEqual([{ primary: 'hail' }, { secondary: null }, { seeAlso: 'ice' }]);
  });
});
