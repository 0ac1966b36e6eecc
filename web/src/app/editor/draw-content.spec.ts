import { TestBed } from '@angular/core/testing';
import {
  contentSchema,
  makeNode,
  makeText,
  Selector,
  type Component,
  type ContentNode,
  type LinkBody,
} from '@allomorph/core';
import { Lens } from '../shared/lens';
import { component, configure, testAxes, testProfiles } from '../shared/testing';
import { drawLeaf, type Drawing } from './draw-content';
import { EditorLibrary } from './editor-library';

const p = (text: string, when: string | null = null): ContentNode => makeNode('paragraph', { when }, [makeText(text)]);
const fragment = (...flow: ContentNode[]): ContentNode => makeNode('fragment', null, flow);

describe('What stands for something else on the page', () => {
  const setUp = (
    components: readonly Component[],
    held: readonly Component[] = [],
    mode: Drawing['mode'] = 'ghost',
    values: readonly string[] | null = null,
  ) => {
    sessionStorage.clear();
    configure(EditorLibrary);
    TestBed.inject(Lens).variation.set({ axes: testAxes, profiles: testProfiles, designs: [], stamps: [] });
    const library = TestBed.inject(EditorLibrary);
    for (const each of components) library.add({ component: each, components: [], held });
    const selector = values
      ? new Selector({ axes: testAxes, stamps: [] }, { axes: { product: { default: 'out', in: values } } })
      : null;
    const drawing: Drawing = { library, selector, mode, own: null };
    return (node: ContentNode): HTMLElement => drawLeaf(contentSchema.nodeFromJSON(node), drawing, []) as HTMLElement;
  };
  const place = (key: string, more = {}): ContentNode => makeNode('placement', { component: key, ...more });

  it('shows placed content in a seam that names its source and leads there', () => {
    const draw = setUp([component('s', 'snippet', fragment(p('inside')))]);
    const seam = draw(place('s'));
    expect(seam.querySelector('.seam-tab')?.textContent).toContain('The ssnippet, live');
    expect(seam.querySelector('a')?.getAttribute('href')).toBe('/edit/s');
    expect(seam.querySelector('.seam-content')?.textContent).toBe('inside');
    expect(seam.contentEditable).toBe('false');
  });

  it('draws formulas, and says of others why they cannot be drawn', () => {
    const draw = setUp([]);
    const drawn = draw(makeNode('display_formula', { source: '\\frac{a}{b}' }));
    expect(drawn.querySelector('math[display=block] mfrac')?.textContent).toBe('ab');
    expect(draw(makeNode('formula', { source: 'x^2' })).querySelector('msup')?.textContent).toBe('x2');
    const wrong = draw(makeNode('formula', { source: '<img src=x>\\frac{1' }));
    expect([wrong.className, wrong.textContent, wrong.childElementCount]).toEqual([
      'missing',
      '<img src=x>\\frac{1',
      0,
    ]);
    expect(wrong.title).toContain('cannot be drawn: unexpected end of input');
    expect(draw(makeNode('formula', { source: '' })).textContent).toBe('Formula');
  });

  it('nests, and stops where a placement stands in itself', () => {
    const draw = setUp([
      component('a', 'snippet', fragment(p('outer'), place('b'))),
      component('b', 'snippet', fragment(p('inner'), place('a'))),
    ]);
    const seam = draw(place('a'));
    expect(seam.querySelectorAll('.seam').length).toBe(2);
    expect(seam.textContent).toContain('inner');
    expect(seam.textContent).toContain('This placement stands inside itself.');
  });

  it('places topics without their title unless it is asked for', () => {
    const topic = makeNode('topic', null, [makeNode('title', null, [makeText('Heading')]), p('body')]);
    const draw = setUp([component('t', 'topic', topic)]);
    expect(draw(place('t')).querySelector('.seam-content')?.textContent).toBe('body');
    expect(draw(place('t', { withTitle: true })).querySelector('.seam-content')?.textContent).toBe('Headingbody');
  });

  it('says that held content is behind, and that a component or revision is missing', () => {
    const draw = setUp(
      [component('s', 'snippet', fragment(p('new')), 3)],
      [component('s', 'snippet', fragment(p('old')), 2)],
    );
    const held = draw(place('s', { mode: 'held', revision: 2 }));
    expect(held.classList).toContain('seam-behind');
    expect(held.textContent).toContain('held at revision 2; newest is 3');
    expect(held.textContent).toContain('old');
    expect(draw(place('s', { mode: 'held', revision: 1 })).textContent).toBe('“The s” has no revision 1');
    expect(draw(place('gone')).textContent).toBe('“gone” does not exist');
  });

  it('ghosts or folds what the lens leaves out of placed content', () => {
    const words = makeText('some', [{ type: 'condition', attrs: { when: 'product is four' } }]);
    const body = fragment(
      p('two only', 'product is two'),
      p('four only', 'product is four'),
      makeNode('paragraph', null, [words, makeText(' text')]),
    );
    const ghost = setUp([component('s', 'snippet', body)], [], 'ghost', ['two'])(place('s'));
    expect([...ghost.querySelectorAll('.out')].map((each) => [each.textContent, [...each.classList].at(-1)])).toEqual([
      ['four only', 'out-ghost'],
      ['some', 'out-inline-ghost'],
    ]);
    TestBed.resetTestingModule();
    const fold = setUp([component('s', 'snippet', body)], [], 'fold', ['two'])(place('s'));
    expect(fold.querySelectorAll('.out-fold').length).toBe(1);
    TestBed.resetTestingModule();
    expect(setUp([component('s', 'snippet', body)])(place('s')).querySelectorAll('.out').length).toBe(0);
  });

  it('names variables, and marks those that do not exist', () => {
    const draw = setUp([
      component('v', 'variable', { type: 'variable', default: makeNode('phrase', null, [makeText('x')]), rules: [] }),
    ]);
    const named = draw(makeNode('variable', { key: 'v' }));
    expect([named.textContent, named.classList.contains('by-name')]).toEqual(['The v', true]);
    expect(draw(makeNode('variable', { key: 'gone' })).className).toBe('missing');
    TestBed.inject(Lens).look('profile:small');
    expect(draw(makeNode('variable', { key: 'v' })).textContent).toBe('x');
  });

  it('draws pictures, phrases, references, links and markers', () => {
    const digest = 'a'.repeat(64);
    const file = { digest, mediaType: 'image/png', width: 1, height: 1 };
    const other = { ...file, digest: 'b'.repeat(64) };
    const link: LinkBody = { type: 'link', href: 'https://x.example/', label: 'Help' };
    const draw = setUp(
      [
        component('i', 'image', {
          type: 'image',
          alt: 'a view',
          file,
          versions: [{ when: 'product is two', file: other }],
        }),
        component('ph', 'snippet', makeNode('phrase', null, [makeText('a phrase')])),
        component('l', 'link', link),
        component('t', 'topic', makeNode('topic', null, [makeNode('title', null, [makeText('T')]), p('x')])),
      ],
      [],
      'ghost',
      ['two'],
    );
    const picture = draw(makeNode('picture', { component: 'i' })) as HTMLImageElement;
    expect([picture.getAttribute('src'), picture.alt]).toEqual([`/api/images/${other.digest}`, 'a view']);
    expect(draw(makeNode('picture', { component: 'gone' })).className).toBe('missing');
    expect(draw(makeNode('inline_placement', { component: 'ph' })).textContent).toBe('a phrase');
    expect(draw(makeNode('external_link', { component: 'l' })).textContent).toBe('Help');
    expect(draw(makeNode('cross_reference', { component: 't' })).textContent).toBe('The t');
    expect(draw(makeNode('cross_reference', { component: 't', form: 'text', text: 'as said' })).textContent).toBe(
      'as said',
    );
    expect(draw(makeNode('index_marker', { primary: 'wind' })).title).toBe('In the index: wind');
  });

  it('shows a slot as the stated or the first of what fits, and says how many do', () => {
    const tip = (key: string): Component => ({
      ...component(key, 'snippet', fragment(p(`text of ${key}`))),
      labels: { collection: 'tips', tags: {} },
    });
    const draw = setUp([tip('a'), tip('b'), component('other', 'snippet', fragment(p('x')))]);
    const slot = draw(makeNode('slot', { collection: 'tips' }));
    expect(slot.querySelector('.seam-tab')?.textContent).toContain('all of “tips”: 2');
    expect(slot.querySelector('.seam-content')?.textContent).toBe('text of a');
    expect(draw(makeNode('slot', { collection: 'tips', stated: 'b' })).textContent).toContain('text of b');
    const empty = draw(makeNode('slot'));
    expect(empty.textContent).toContain('choose its collection');
    expect(empty.classList).toContain('seam-broken');
  });
});
