import {
  componentFrom,
  makeNode,
  makeText,
  plainDesign,
  type Axis,
  type Component,
  type ComponentClosure,
  type ContentNode,
  type Recipe,
} from '@allomorph/core';
import { read, type Reading } from './reading';

const axes: readonly Axis[] = [
  {
    key: 'os',
    title: 'System',
    values: ['linux', 'mac'].map((key) => ({ key, title: key, code: key, colour: 0, pattern: 0 })),
  },
];
const component = (kind: Component['kind'], key: string, body: Component['body']): Component =>
  componentFrom({
    key,
    kind,
    title: `The ${key}`,
    revision: 1,
    body,
  });
const p = (...content: ContentNode[]): ContentNode => makeNode('paragraph', null, content);
const topic = (title: string, ...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, [makeText(title)]), ...flow]);
const closure = (shown: Component, ...components: Component[]): ComponentClosure => ({
  component: shown,
  components,
  held: [],
});

describe('Reading a component', () => {
  const name = component('variable', 'name', {
    type: 'variable',
    default: makeNode('phrase', null, [makeText('any')]),
    rules: [{ when: 'os is mac', language: null, value: makeNode('phrase', null, [makeText('Mac')]) }],
  });
  const mac: Recipe = {
    publication: { key: 'p', title: makeNode('phrase'), values: {}, entries: [] },
    variantTitle: '',
    profile: { axes: { os: { default: 'out', in: ['mac'] } } },
    values: {},
    language: 'en',
    design: plainDesign,
    buildDate: '',
    leaveOutEmpty: false,
  };
  const through = (lens: Recipe | null, shown: Component, ...components: Component[]): Reading =>
    read({ closure: closure(shown, ...components), lens, vocabulary: { axes, stamps: [] } });

  it('shows it as the lens lets it through', () => {
    const shown = component(
      'topic',
      't',
      topic('T', p(makeNode('variable', { key: 'name' })), {
        ...p(makeText('linux only')),
        attrs: { when: 'os is linux' },
      }),
    );
    const { html, problems } = through(mac, shown, name);
    expect(html).toContain('<p>Mac</p>');
    expect(html).not.toContain('linux only');
    expect(problems).toEqual([]);
  });

  it('without a lens says the name of what differs, instead of one value among several', () => {
    const shown = component('snippet', 's', makeNode('fragment', null, [p(makeNode('variable', { key: 'name' }))]));
    expect(through(null, shown, name).html).toContain('‹The name›');
  });

  it('gives snippets their title, pictures their address, and references the title of their target', () => {
    const digest = 'a'.repeat(64);
    const image = component('image', 'i', {
      type: 'image',
      alt: 'alt',
      file: { digest, mediaType: 'image/png', width: 1, height: 1 },
      versions: [],
    });
    const other = component('topic', 'o', topic('Other topic', p(makeText('x'))));
    const shown = component(
      'snippet',
      's',
      makeNode('fragment', null, [
        makeNode('figure', null, [makeNode('picture', { component: 'i' })]),
        p(makeNode('cross_reference', { component: 'o', form: 'number-title' })),
      ]),
    );
    const { html, problems } = through(mac, shown, image, other);
    expect(html).toContain('<h1>The s</h1>');
    expect(html).toContain(`src="/api/images/${digest}"`);
    expect(html).toContain('>Other topic</a>');
    expect(problems).toEqual([]);
  });

  it('without a lens sets words that apply in some cases only apart', () => {
    const limited = (text: string, when: string): ContentNode =>
      makeText(text, [{ type: 'condition', attrs: { when } }]);
    const body = topic(
      'T',
      p(makeText('A '), limited('mast', 'os is mac'), limited('roof', 'os is linux'), makeText(' stands.')),
    );
    const shown = component('topic', 't', body);
    expect(through(null, shown).html).toContain('A [mast] [roof] stands.');
    expect(through(mac, shown).html).toContain('A mast stands.');
  });

  it('reports what is missing', () => {
    const shown = component('topic', 't', topic('T', p(makeNode('variable', { key: 'gone' }))));
    const { html, problems } = through(mac, shown);
    expect(html).toContain('[not available]');
    expect(problems.map((problem) => problem.code)).toEqual(['missing-variable']);
  });
});
