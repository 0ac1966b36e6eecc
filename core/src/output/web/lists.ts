import { indexOf, type IndexEntry, type IndexGroup } from '../../number/book-index.js';
import { captionsOf } from '../../number/contents.js';
import { glossaryOf, type GlossaryEntry } from '../../number/glossary.js';
import type { Label } from '../../number/notes.js';
import type { NumberedPage, NumberedPublication } from '../../number/numbered.js';
import { headingNumber, titleWords } from '../labels.js';
import { element, escapeHtml } from '../markup.js';
import { wordsOf, type OutputWords } from '../words.js';
import type { ownPages } from './addresses.js';
import { siteForm, type PageForm } from './page-form.js';
import { PageWriter } from './page-writer.js';

/** A generated list that stands on a page of its own. */
export interface ListPage {
  readonly name: Exclude<keyof typeof ownPages, 'start' | 'nothing'>;
  readonly title: string;
  readonly body: string;
}

/** A label's number and title without markup. */
export function labelText(publication: NumberedPublication, label: Label): string {
  const words = wordsOf(publication);
  return escapeHtml(
    `${headingNumber(publication.design, label)} ${titleWords(publication.design, label, words)}`.trim(),
  );
}

/** A label's number and title with markup. */
export function labelLine(
  publication: NumberedPublication,
  label: Label,
  page: NumberedPage,
  form: PageForm = siteForm,
): string {
  const number = headingNumber(publication.design, label);
  const before = number === '' ? '' : `${element('span', { class: 'number' }, escapeHtml(number))} `;
  return before + new PageWriter(publication, page, form).linkText(label.title);
}

/** The generated lists that the design asks for and that have something to list. */
export function listPages(publication: NumberedPublication, form: PageForm = siteForm): readonly ListPage[] {
  const words = wordsOf(publication);
  const { front, back } = publication.design.lists;
  const write = {
    figures: () => captionList(publication, 'figure', form),
    tables: () => captionList(publication, 'table', form),
    examples: () => captionList(publication, 'example', form),
    glossary: () => glossaryList(publication, glossaryOf(publication), form),
    index: () => indexSections(publication, words, form),
  };
  const pages: ListPage[] = [];
  for (const name of [...front, ...back]) {
    // The contents stand beside every page.
    const isPage = name !== 'contents' && name !== 'topics';
    const body = isPage ? write[name]() : '';
    if (isPage && body !== '') pages.push({ name, title: words[name], body });
  }
  return pages;
}

function captionList(publication: NumberedPublication, kind: 'figure' | 'table' | 'example', form: PageForm): string {
  const items = captionsOf(publication, kind).map(({ label, page }) => {
    const link = element('a', { href: form.address(label) }, labelLine(publication, label, page, form));
    return `${element('li', undefined, link)}\n`;
  });
  return items.length === 0 ? '' : `${element('ul', { class: 'captions' }, `\n${items.join('')}`)}\n`;
}

function glossaryList(publication: NumberedPublication, entries: readonly GlossaryEntry[], form: PageForm): string {
  if (entries.length === 0) return '';
  const items = entries.map(({ term, definitions }) => {
    const all = definitions.map(({ blocks, page, heading, component, placements }) => {
      const markup = new PageWriter(publication, page, form).blocksElsewhere(blocks, { component, placements });
      const link = element('a', { href: form.address(heading) }, labelText(publication, heading));
      return `${element('dd', undefined, `${markup}${element('p', { class: 'source' }, link)}\n`)}\n`;
    });
    return `${element('dt', undefined, escapeHtml(term))}\n${all.join('')}`;
  });
  return `${element('dl', undefined, `\n${items.join('')}`)}\n`;
}

/** The headings of an index by what leads to them: themselves, after those that they stand below. */
function indexPlaces(groups: readonly IndexGroup[]): ReadonlyMap<string, string> {
  const places = new Map<string, string>();
  const visit = (entries: readonly IndexEntry[], above: string): void => {
    for (const { heading, entries: below } of entries) {
      const name = above === '' ? heading : `${above}, ${heading}`;
      places.set(name, `_term-${places.size + 1}`);
      visit(below, name);
    }
  };
  for (const { entries } of groups) visit(entries, '');
  return places;
}

function indexSections(publication: NumberedPublication, words: OutputWords, form: PageForm): string {
  const groups = indexOf(publication);
  const places = indexPlaces(groups);
  return groups
    .map(({ letter, entries }) => {
      const heading = `${element('h2', undefined, escapeHtml(letter === '' ? words.symbols : letter))}\n`;
      return `${element('section', { class: 'letter' }, `\n${heading}${indexList(publication, entries, { words, form, places, above: '' })}`)}\n`;
    })
    .join('');
}

function indexList(
  publication: NumberedPublication,
  entries: readonly IndexEntry[],
  around: {
    readonly words: OutputWords;
    readonly form: PageForm;
    readonly places: ReadonlyMap<string, string>;
    /** The headings above, with commas between. */
    readonly above: string;
  },
): string {
  const { words, form, places, above } = around;
  const led = (headings: readonly string[]): string =>
    headings
      .map((heading) => {
        const id = places.get(heading);
        return id === undefined ? escapeHtml(heading) : element('a', { href: `#${id}` }, escapeHtml(heading));
      })
      .join('; ');
  const items = entries.map(({ heading, locators, see, seeAlso, entries: below }) => {
    const name = above === '' ? heading : `${above}, ${heading}`;
    const found = locators.map(({ page, heading: at, anchor }) => {
      const href = form.address(anchor === null ? at : { page: page.name, anchor });
      return element('a', { href }, labelText(publication, at));
    });
    const others = [
      ...(see.length > 0 ? [`${element('i', undefined, words.see)} ${led(see)}`] : []),
      ...(seeAlso.length > 0 ? [`${element('i', undefined, words.seeAlso)} ${led(seeAlso)}`] : []),
    ];
    const rest = [...found, ...others].map((each) => `, ${each}`).join('');
    const inner = below.length > 0 ? `\n${indexList(publication, below, { ...around, above: name })}` : '';
    return `${element('li', undefined, `${element('span', { id: places.get(name) }, escapeHtml(heading))}${rest}${inner}`)}\n`;
  });
  return `${element('ul', undefined, `\n${items.join('')}`)}\n`;
}
