import {
  componentFrom,
  makeNode,
  makeText,
  type Axis,
  type Component,
  type ComponentClosure,
  type ContentNode,
} from '@allomorph/core';
import { everything, read } from './reading';

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
  const mac = { ...everything, profile: { axes: { os: { default: 'out' as const, in: ['mac'] } } } };

  it('shows it as the lens lets it through', () => {
    const shown = component(
      'topic',
      't',
      topic('T', p(makeNode('variable', { key: 'name' })), {
        ...p(makeText('linux only')),
        attrs: { when: 'os is linux' },
      }),
    );
    const { html, problems } = read(closure(shown, name), mac, axes);
    expect(html).toContain('<p>Mac</p>');
    expect(html).not.toContain('linux only');
    expect(problems).toEqual([]);
  });

  it('without a lens says the name of what differs, instead of one value among several', () => {
    const shown = component('snippet', 's', makeNode('fragment', null, [p(makeNode('variable', { key: 'name' }))]));
    expect(read(closure(shown, name), everything, axes).html).toContain('‹The name›');
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
    const { html, problems } = read(closure(shown, image, other), mac, axes);
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
    expect(read(closure(shown), everything, axes).html).toContain('A [mast] [roof] stands.');
    expect(read(closure(shown), mac, axes).html).toContain('A mast stands.');
  });

  it('reports what is missing', () => {
    const shown = component('topic', 't', topic('T', p(makeNode('variable', { key: 'gone' }))));
    const { html, problems } = read(closure(shown), mac, axes);
    expect(html).toContain('[not available]');
    expect(problems.map((problem) => problem.code)).toEqual(['missing-variable']);
  });
});
