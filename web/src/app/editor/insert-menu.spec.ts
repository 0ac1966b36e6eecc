import { Component, input } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { HttpTestingController } from '@angular/common/http/testing';
import {
  contentSchema,
  makeNode,
  makeText,
  type Component as LibraryComponent,
  type ComponentRow,
  type PlaceRow,
} from '@allomorph/core';
import { configure, requestsTo } from '../shared/testing';
import { EditorLibrary } from './editor-library';
import { InsertMenu } from './insert-menu';
import { InsertPreview } from './insert-preview';
import type { InsertMode, Insertion } from './insertion';

const own: LibraryComponent = {
  key: 'own',
  kind: 'topic',
  title: 'Own',
  revision: 1,
  body: makeNode('topic', null, [
    makeNode('title', null, [makeText('Own')]),
    makeNode('section', { id: 's1' }, [makeNode('title', null, [makeText('First steps')])]),
    makeNode('section', null, [makeNode('title', null, [makeText('Not saved')])]),
  ]),
};
const row = (key: string, kind: ComponentRow['kind']): ComponentRow => ({
  key,
  kind,
  title: `The ${key}`,
  revision: 1,
  uses: 0,
  conditions: [],
  excerpt: '',
  titleMarks: [],
  excerptMarks: [],
  through: null,
  archived: false,
  changedBy: '',
  changedAt: '',
});

@Component({ selector: 'al-insert-preview', template: '' })
class NoPreview {
  readonly row = input<ComponentRow>();
  readonly own = input<LibraryComponent>();
}

describe('The insert menu', () => {
  let server: HttpTestingController;
  let fixture: ComponentFixture<InsertMenu>;
  let chosen: Insertion[];
  let host: HTMLElement;
  const options = (): string[] => [...host.querySelectorAll('[role=option] b')].map((each) => each.textContent ?? '');
  const answer = async (items: readonly ComponentRow[]): Promise<void> => {
    for (const request of await requestsTo(server, '/api/components')) request.flush({ total: items.length, items });
  };
  const type = async (
    text: string,
    items: readonly ComponentRow[],
    places: readonly PlaceRow[] = [],
  ): Promise<void> => {
    const box = host.querySelector('input') as HTMLInputElement;
    box.value = text;
    box.dispatchEvent(new Event('input'));
    await answer(items);
    const asksForPlaces = fixture.componentInstance.mode() !== 'variable';
    for (const asked of asksForPlaces ? await requestsTo(server, '/api/places') : []) {
      expect(asked.request.params.get('find')).toBe(text);
      asked.flush(places);
    }
    await fixture.whenStable();
  };
  const press = async (key: string): Promise<void> => {
    host.querySelector('input')?.dispatchEvent(new KeyboardEvent('keydown', { key }));
    await fixture.whenStable();
  };

  const open = async (blocks = true, mode: InsertMode = 'all', sign = ''): Promise<void> => {
    // What is marked is read and drawn by a part of its own.
    TestBed.overrideComponent(InsertMenu, { remove: { imports: [InsertPreview] }, add: { imports: [NoPreview] } });
    server = configure(EditorLibrary);
    fixture = TestBed.createComponent(InsertMenu);
    fixture.componentRef.setInput('at', { left: 10, top: 10 });
    fixture.componentRef.setInput('own', own);
    fixture.componentRef.setInput('blocks', blocks);
    fixture.componentRef.setInput('mode', mode);
    fixture.componentRef.setInput('sign', sign);
    fixture.componentRef.setInput('page', contentSchema.nodeFromJSON(own.body));
    chosen = [];
    fixture.componentInstance.chosen.subscribe((each) => chosen.push(each));
    host = fixture.nativeElement as HTMLElement;
    await answer([row('name', 'variable'), row('warning', 'snippet'), row('own', 'topic')]);
    await fixture.whenStable();
  };

  it('has structure at hand, then the library, without the component itself', async () => {
    await open();
    expect(options()[0]).toBe('Section');
    expect(options()).toContain('The warning');
    expect(options()).not.toContain('The own');
  });

  it('offers no blocks inside a line', async () => {
    await open(false);
    expect(options()).not.toContain('Section');
    expect(options()).toContain('The name');
  });

  it('is worked by the keyboard: the marked option is taken, what it takes is read first', async () => {
    await open();
    await type('name', [row('name', 'variable'), row('other', 'variable')]);
    expect(options().slice(0, 2)).toEqual(['The name', 'The other']);
    await press('ArrowDown');
    await press('Enter');
    server.expectOne('/api/components/other/closure').flush({
      component: { ...row('other', 'variable'), body: { type: 'variable', default: null, rules: [] } },
      components: [],
      held: [],
    });
    expect(chosen).toEqual([{ kind: 'variable', key: 'other' }]);
  });

  it('puts structure first where its name is typed', async () => {
    await open();
    await type('table', [row('table-of-parts', 'snippet')]);
    expect(options()[0]).toBe('Table');
    await press('Enter');
    expect(chosen[0]?.kind).toBe('structure');
  });

  it('refers to the places of a topic in a second step, and goes back', async () => {
    await open();
    await type('this component', []);
    await press('Enter');
    expect(options()).toEqual(['First steps', 'Not saved']);
    await press('Enter');
    expect(chosen).toEqual([{ kind: 'refer', component: null, target: 's1' }]);
    await press('Escape');
    expect(options()).not.toContain('First steps');
  });

  it('offers for a typed sign all that can be referred to, in one list', async () => {
    await open(true, 'refer', '@');
    expect(options()).toEqual(['First steps', 'Not saved']);
    const place: PlaceRow = {
      component: 'care',
      componentTitle: 'Care',
      id: 's9',
      kind: 'section',
      title: 'Cleaning the funnel',
    };
    const care = { ...row('care', 'topic'), titleMarks: [[0, 3]] as const };
    await type(
      'clean',
      [row('use', 'topic'), care, row('warning', 'snippet')],
      [place, { ...place, component: 'own' }],
    );
    expect(options()).toEqual(['The care', 'Cleaning the funnel', 'The use']);
    await press('ArrowDown');
    await press('Enter');
    const body = makeNode('topic', null, [makeNode('title', null, [makeText('Care')])]);
    server.expectOne('/api/components/care/closure').flush({
      component: { ...row('care', 'topic'), body },
      components: [],
      held: [],
    });
    expect(chosen).toEqual([{ kind: 'refer', component: 'care', target: 's9' }]);
  });

  it('refers to what is not saved yet by its place on the page', async () => {
    await open(true, 'refer', '@');
    await type('not saved', []);
    await press('Enter');
    expect(chosen).toEqual([{ kind: 'refer-here', position: 20 }]);
  });

  it('leaves what was typed from the sign on, on a space, on Escape and on a click elsewhere', async () => {
    await open(true, 'variable', '{');
    const given: string[] = [];
    fixture.componentInstance.literal.subscribe((text) => given.push(text));
    await press(' ');
    await press('Escape');
    await type('na', [row('name', 'variable')]);
    document.body.dispatchEvent(new MouseEvent('mousedown', { bubbles: true }));
    expect(given).toEqual(['{ ', '{', '{na']);
    expect(options()).toContain('The name');
    expect(options()).not.toContain('The warning');
  });

  it('closes on Escape and says where a component cannot be read', async () => {
    await open();
    let closed = 0;
    fixture.componentInstance.closed.subscribe(() => (closed += 1));
    await type('mains', [row('mains', 'snippet')]);
    await press('Enter');
    server
      .expectOne('/api/components/mains/closure')
      .flush({ detail: 'There is no component “mains”.' }, { status: 404, statusText: 'Not Found' });
    await fixture.whenStable();
    expect(host.textContent).toContain('There is no component “mains”.');
    await press('Escape');
    expect(closed).toBe(1);
  });
});
