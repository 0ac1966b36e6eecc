import fc from 'fast-check';
import MiniSearch from 'minisearch';
import { numberedOf } from '../../../../tests/support/build.js';
import { entry, p, publicationOf, recipeOf, sourceOf, topic } from '../../../../tests/support/library-parts.js';
import { Memory } from '../../assemble/memory.js';
import { makeNode, makeText } from '../../model/node.js';
import type { Publication } from '../../model/publication.js';
import type { NumberedPublication } from '../../number/numbered.js';
import { formatsOf } from '../formats.js';
import { searchWords } from '../search-words.js';
import { searchOptions, type Passage } from './search-options.js';
import { searchIndex, searchText } from './search.js';

const section = (id: string, title: string, ...content: ReturnType<typeof p>[]) =>
  makeNode('section', { id }, [makeNode('title', null, [makeText(title)]), ...content]);

describe('Words that are looked for', () => {
  it('go without accents and capitals, and names with signs in them whole and in parts', () => {
    expect(searchWords('Ångström, ÉTÉ и Ёж', 'en')).toEqual(['angstrom', 'ete', 'и', 'еж']);
    expect(searchWords('libvirt-daemon.conf', 'en')).toEqual(['libvirt-daemon.conf', 'libvirt', 'daemon', 'conf']);
    expect(searchWords('', 'en')).toEqual([]);
  });

  it('are the same beside signs of other alphabets', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary-ascii' }), (text) => {
        expect(searchWords(`${text} é`, 'en')).toEqual([...searchWords(text, 'en'), 'e']);
      }),
    );
  });

  it('are told apart by the language where no spaces stand between', () => {
    expect(searchWords('今日は天気がいい', 'ja').length).toBeGreaterThan(2);
    expect(searchWords('今日は天気がいい', 'en')).toEqual(['今日は天気がいい']);
  });
});

describe('What can be found in a site', () => {
  const source = sourceOf([
    topic('wind', p('Gusts are measured.'), section('cal', 'Calibrating', p('Turn the screw.'), p('Wait.'))),
    topic('rain', p('Rain is summed.')),
  ]);
  const outline = publicationOf([entry('e1', 'wind', { entries: [entry('e2', 'rain')] })]);
  const numbered = numberedOf(source, recipeOf(outline));

  const passagesOf = (publication: NumberedPublication): readonly Passage[] =>
    (JSON.parse(searchText(publication, 'plain')) as { passages: readonly Passage[] }).passages;

  it('is every page and every section with its own text, and where it stands', () => {
    expect(passagesOf(numbered).map(({ title, within, href, text }) => [title, within, href, text])).toEqual([
      ['1 Title of wind', [], 'wind.html', 'Gusts are measured.'],
      ['1.1 Calibrating', ['1 Title of wind'], 'wind.html#cal', 'Turn the screw. Wait.'],
      ['1.2 Title of rain', ['Title of wind'], 'rain.html', 'Rain is summed.'],
    ]);
  });

  it('is written anew where only its numbers or what stands around it changed', () => {
    const memory = new Memory();
    const hrefs = (of: Publication): unknown[] =>
      passagesOf(numberedOf(source, recipeOf(of), memory)).map(
        ({ title, within }) => `${within.join(' › ')}: ${title}`,
      );
    const before = [': 1 Title of wind', '1 Title of wind: 1.1 Calibrating', 'Title of wind: 1.2 Title of rain'];
    expect(hrefs(outline)).toEqual(before);
    const turned = publicationOf([entry('e2', 'rain', { entries: [entry('e1', 'wind')] })]);
    const after = [': 1 Title of rain', 'Title of rain: 1.1 Title of wind'];
    expect(hrefs(turned)).toEqual([...after, 'Title of rain › 1.1 Title of wind: 1.1.1 Calibrating']);
    expect(hrefs(outline)).toEqual(before);
  });

  it('is found by what a browser loads', () => {
    const text = formatsOf(['html'])[0]
      ?.render(numbered)
      .files.find(({ path }) => path === 'search.js')?.text;
    const script = searchIndex(text ?? '');
    // As the browser reads it.
    const window: { siteSearch?: string } = {};
    new Function('window', script)(window);
    const index = MiniSearch.loadJSON(window.siteSearch ?? '', searchOptions('en'));
    const found = (query: string): unknown[] => index.search(query).map((each) => each['href'] as unknown);
    expect(found('screw')).toEqual(['wind.html#cal']);
    expect(found('SUMM')).toEqual(['rain.html']);
    expect(found('mesured gusts')).toEqual(['wind.html']);
    expect(found('screw rain')).toEqual([]);
  });
});

describe('The size of a site', () => {
  it('grows with its topics: a topic of a thousand costs at most a fifth more than one of a hundred', () => {
    const sizePerTopic = (count: number): number => {
      const topics = Array.from({ length: count }, (_, at) =>
        topic(
          `t${at}`,
          p(`Text of topic number ${at}, which says what it has to say.`),
          section('s', `Section of ${at}`, p('x')),
        ),
      );
      const outline = publicationOf(topics.map(({ key }, at) => entry(`e${at}`, key)));
      const numbered = numberedOf(sourceOf(topics), recipeOf(outline));
      const files = formatsOf(['html'])[0]?.render(numbered).files ?? [];
      return files.reduce((sum, { text }) => sum + text.length, 0) / count;
    };
    expect(sizePerTopic(1000)).toBeLessThan(1.2 * sizePerTopic(100));
  });
});
