import { indexOf, type IndexEntry } from '../../number/book-index.js';
import { captionsOf } from '../../number/contents.js';
import { glossaryOf, type GlossaryEntry } from '../../number/glossary.js';
import type { Label, NumberedPage, NumberedPublication } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { headingNumber } from '../labels.js';
import { element, escapeHtml } from '../markup.js';
import { outputWords, type OutputWords } from '../words.js';
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
  const words = outputWords(publication.facts.language);
  return escapeHtml(`${headingNumber(publication.design, label)} ${plainText(label.title, words)}`.trim());
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
  const words = outputWords(publication.facts.language);
  const { lists } = publication.design;
  const pages: ListPage[] = [];
  const add = (name: ListPage['name'], body: string): void => {
    if (body !== '') pages.push({ name, title: words[name], body });
  };
  if (lists.figures) add('figures', captionList(publication, 'figure', form));
  if (lists.tables) add('tables', captionList(publication, 'table', form));
  if (lists.examples) add('examples', captionList(publication, 'example', form));
  if (lists.glossary) add('glossary', glossaryList(publication, glossaryOf(publication), form));
  if (lists.index) add('index', indexSections(publication, words, form));
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

function indexSections(publication: NumberedPublication, words: OutputWords, form: PageForm): string {
  return indexOf(publication)
    .map(({ letter, entries }) => {
      const heading = `${element('h2', undefined, escapeHtml(letter === '' ? words.symbols : letter))}\n`;
      return `${element('section', { class: 'letter' }, `\n${heading}${indexList(publication, entries, words, form)}`)}\n`;
    })
    .join('');
}

function indexList(
  publication: NumberedPublication,
  entries: readonly IndexEntry[],
  words: OutputWords,
  form: PageForm,
): string {
  const items = entries.map(({ heading, locators, see, seeAlso, entries: below }) => {
    const places = locators.map(({ page, heading: at, anchor }) => {
      const href = form.address(anchor === null ? at : { page: page.name, anchor });
      return element('a', { href }, labelText(publication, at));
    });
    const others = [
      ...(see.length > 0 ? [`${element('i', undefined, words.see)} ${escapeHtml(see.join('; '))}`] : []),
      ...(seeAlso.length > 0 ? [`${element('i', undefined, words.seeAlso)} ${escapeHtml(seeAlso.join('; '))}`] : []),
    ];
    const rest = [...places, ...others].map((each) => `, ${each}`).join('');
    const inner = below.length > 0 ? `\n${indexList(publication, below, words, form)}` : '';
    return `${element('li', undefined, `${element('span', undefined, escapeHtml(heading))}${rest}${inner}`)}\n`;
  });
  return `${element('ul', undefined, `\n${items.join('')}`)}\n`;
}
