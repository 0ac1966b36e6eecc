import type { TestRequest } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { contentSchema, makeNode, type Component, type ImageFile, type KnownLabels } from '@allomorph/core';
import { component, configure, signedInAs } from '../shared/testing';
import { EditorLibrary } from './editor-library';
import { MarkerPanel } from './marker-panel';
import { PicturePanel } from './picture-panel';
import { PlainComponentForm } from './plain-component-form';
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

const file: ImageFile = { digest: 'a'.repeat(64), mediaType: 'image/png', width: 10, height: 10 };
const imageOf = (key: string): Component =>
  component(key, 'image', { type: 'image', alt: 'A mast', file, versions: [] });

describe('The panel of a picture', () => {
  it('leaves the words of another picture alone that is in view when its own are kept for all places', () => {
    const server = configure(EditorLibrary);
    TestBed.inject(EditorLibrary).add({ component: topic, components: [imageOf('i')], held: [] });
    const fixture = TestBed.createComponent(PicturePanel);
    const altered: unknown[] = [];
    fixture.componentInstance.altered.subscribe((each) => altered.push(each));
    const picture = (alt: string) => contentSchema.nodeFromJSON(makeNode('picture', { component: 'i', alt }));
    const panel = fixture.componentInstance as unknown as { sayEverywhere(): void };
    const keep = (alt: string): TestRequest => {
      fixture.componentRef.setInput('node', picture(alt));
      TestBed.tick();
      panel.sayEverywhere();
      return server.expectOne('/api/components/i');
    };
    keep('Words of one').flush(imageOf('i'));
    expect(altered).toEqual([{ alt: null }]);
    const late = keep('Words of one');
    fixture.componentRef.setInput('node', picture('Words of another'));
    late.flush(imageOf('i'));
    const gone = keep('Words of one');
    fixture.destroy();
    gone.flush(imageOf('i'));
    expect(altered.length).toBe(1);
  });
});

describe('The form of an image', () => {
  it('gives a file to the image that it was chosen for, and not to the next one', () => {
    const server = configure();
    signedInAs(server, 'writer');
    const fixture = TestBed.createComponent(PlainComponentForm);
    const changes: boolean[] = [];
    fixture.componentInstance.changing.subscribe((each) => changes.push(each));
    fixture.componentRef.setInput('component', imageOf('i'));
    TestBed.tick();
    const form = fixture.componentInstance as unknown as { store(field: unknown): void };
    const choose = (): TestRequest => {
      form.store({ files: [new File(['x'], 'x.png')], value: '' });
      return server.expectOne('/api/images/files');
    };
    choose().flush({ ...file, digest: 'b'.repeat(64) });
    TestBed.tick();
    expect(changes.at(-1)).toBeTrue();
    const late = choose();
    fixture.componentRef.setInput('component', imageOf('next'));
    TestBed.tick();
    late.flush({ ...file, digest: 'c'.repeat(64) });
    TestBed.tick();
    expect(changes.at(-1)).toBeFalse();
  });
});
