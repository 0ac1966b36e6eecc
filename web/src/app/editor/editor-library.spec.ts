import { TestBed } from '@angular/core/testing';
import {
  componentFrom,
  makeNode,
  makeText,
  type Component,
  type ComponentClosure,
  type ContentNode,
} from '@allomorph/core';
import { Lens } from '../shared/lens';
import { component, configure, testAxes, testProfiles } from '../shared/testing';
import { EditorLibrary } from './editor-library';

const phrase = (text: string): ContentNode => makeNode('phrase', null, [makeText(text)]);
const closure = (shown: Component, more: Partial<ComponentClosure> = {}): ComponentClosure => ({
  component: shown,
  components: [],
  held: [],
  ...more,
});
const name = component('name', 'variable', {
  type: 'variable',
  default: phrase('any'),
  rules: [{ when: 'product is two', language: null, value: phrase('Dunlin 2') }],
});

describe('The components an editor knows', () => {
  const setUp = () => {
    sessionStorage.clear();
    const server = configure(EditorLibrary);
    TestBed.inject(Lens).variation.set({ axes: testAxes, profiles: testProfiles, designs: [], stamps: [] });
    return { server, library: TestBed.inject(EditorLibrary), lens: TestBed.inject(Lens) };
  };

  it('are read once, with what they refer to', () => {
    const { server, library } = setUp();
    const titles: string[] = [];
    const snippet = component('s', 'snippet', makeNode('fragment', null, [makeNode('paragraph')]));
    library.load('s').subscribe((found) => titles.push(found.title));
    server.expectOne('/api/components/s/closure').flush(closure(snippet, { components: [name] }));
    library.load('s').subscribe((found) => titles.push(found.title));
    server.expectNone('/api/components/s/closure');
    expect(titles).toEqual(['The s', 'The s']);
    expect(library.get('name')?.title).toBe('The name');
  });

  it('include the revisions that placements hold', () => {
    const { library } = setUp();
    const newest = component('s', 'snippet', makeNode('fragment'), 3);
    library.add(closure(newest, { held: [component('s', 'snippet', makeNode('fragment'), 2)] }));
    expect([
      library.revision('s', null)?.revision,
      library.revision('s', 2)?.revision,
      library.revision('s', 1),
    ]).toEqual([3, 2, undefined]);
  });

  it('give variables the value that the lens lets through, and none without a lens', () => {
    const { library, lens } = setUp();
    library.add(closure(name));
    expect(library.variableText('name')).toBeNull();
    lens.look('profile:small');
    expect(library.variableText('name')).toBe('Dunlin 2');
    lens.look('profile:large');
    expect(library.variableText('name')).toBe('any');
    expect(library.variableText('gone')).toBeNull();
  });

  it('follow a variable that somebody saved anew', () => {
    const { server, library, lens } = setUp();
    library.add(closure(name));
    lens.look('profile:large');
    expect(library.variableText('name')).toBe('any');
    library.refresh('name');
    server
      .expectOne('/api/components/name/closure')
      .flush(
        closure(componentFrom({ ...name, revision: 2, body: { type: 'variable', default: phrase('new'), rules: [] } })),
      );
    expect(library.variableText('name')).toBe('new');
    library.refresh('unknown');
    server.expectNone('/api/components/unknown/closure');
  });

  it('say what a reference reads: the title of a topic, a section or a figure', () => {
    const { library } = setUp();
    const topic = component(
      't',
      'topic',
      makeNode('topic', null, [
        makeNode('title', null, [makeText('T')]),
        makeNode('section', { id: 's' }, [makeNode('title', null, [makeText('Inside')])]),
        makeNode('figure', { id: 'f' }, [makeNode('picture'), makeNode('caption', null, [makeText('A view')])]),
      ]),
    );
    library.add(closure(topic));
    expect(library.targetTitle('t', null, null)).toBe('The t');
    expect(library.targetTitle('t', 's', null)).toBe('Inside');
    expect(library.targetTitle(null, 'f', topic)).toBe('A view');
    expect(library.targetTitle('t', 'gone', null)).toBe('The t, gone');
    expect(library.targetTitle('nowhere', null, null)).toBe('nowhere');
  });
});
