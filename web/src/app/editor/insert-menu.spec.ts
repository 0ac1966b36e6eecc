import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { HttpTestingController } from '@angular/common/http/testing';
import { makeNode, makeText, type Component, type ComponentRow } from '@allomorph/core';
import { configure, requestsTo } from '../shared/testing';
import { EditorLibrary } from './editor-library';
import { InsertMenu, type Insertion } from './insert-menu';

const own: Component = {
  key: 'own',
  kind: 'topic',
  title: 'Own',
  revision: 1,
  body: makeNode('topic', null, [
    makeNode('title', null, [makeText('Own')]),
    makeNode('section', { id: 's1' }, [makeNode('title', null, [makeText('First steps')])]),
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
  changedBy: '',
  changedAt: '',
});

describe('The insert menu', () => {
  let server: HttpTestingController;
  let fixture: ComponentFixture<InsertMenu>;
  let chosen: Insertion[];
  let host: HTMLElement;
  const options = (): string[] => [...host.querySelectorAll('[role=option] b')].map((each) => each.textContent ?? '');
  const answer = async (items: readonly ComponentRow[]): Promise<void> => {
    for (const request of await requestsTo(server, '/api/components')) request.flush({ total: items.length, items });
  };
  const type = async (text: string, items: readonly ComponentRow[]): Promise<void> => {
    const box = host.querySelector('input') as HTMLInputElement;
    box.value = text;
    box.dispatchEvent(new Event('input'));
    await answer(items);
    await fixture.whenStable();
  };
  const press = async (key: string): Promise<void> => {
    host.querySelector('input')?.dispatchEvent(new KeyboardEvent('keydown', { key }));
    await fixture.whenStable();
  };

  const open = async (blocks = true): Promise<void> => {
    server = configure(EditorLibrary);
    fixture = TestBed.createComponent(InsertMenu);
    fixture.componentRef.setInput('at', { left: 10, top: 10 });
    fixture.componentRef.setInput('own', own);
    fixture.componentRef.setInput('blocks', blocks);
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
    expect(options()).toEqual(['First steps']);
    await press('Enter');
    expect(chosen).toEqual([{ kind: 'refer', component: null, target: 's1' }]);
    await press('Escape');
    expect(options()).not.toContain('First steps');
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
