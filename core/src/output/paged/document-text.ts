import { indexOf, type IndexEntry } from '../../number/book-index.js';
import { captionsOf } from '../../number/contents.js';
import { glossaryOf } from '../../number/glossary.js';
import { flattenPages, picturesOn, type Label, type NumberedPublication } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { imageFileName } from '../file-names.js';
import type { FormatFile } from '../format.js';
import { headingNumber } from '../labels.js';
import { outputWords } from '../words.js';
import { PagedWriter } from './page-writer.js';
import { placeName } from './place-name.js';
import type { PagedDocument, PagedIndexEntry, PagedLine } from './paged-document.js';

/** The file in which a publication is handed to whatever lays it out on pages. */
export const documentPath = 'document.json';

/** A publication as data for paged output, with the pictures that it shows. */
export function documentFile(publication: NumberedPublication): FormatFile {
  const pictures = new Map(
    flattenPages(publication.pages)
      .flatMap((page) => picturesOn(page))
      .map((file) => [file.digest, file]),
  );
  return {
    path: documentPath,
    mediaType: 'application/json',
    text: documentText(publication),
    pictures: [...pictures.values()].map((file) => ({ path: imageFileName(file), file })),
  };
}

/** A publication as the template takes it, as JSON; what stands nowhere on paper is led to by its page. */
function documentText(publication: NumberedPublication): string {
  const places = new Set<string>();
  const document = documentOf(publication, places);
  const there = (name: string): string => (places.has(name) ? name : (name.split('#')[0] ?? ''));
  return JSON.stringify(document, (key, value: unknown) => {
    if (key === 'to' && typeof value === 'string') return there(value);
    return key === 'places' && Array.isArray(value) ? value.map((each) => there(String(each))) : value;
  });
}

function documentOf(publication: NumberedPublication, places: Set<string>): PagedDocument {
  const { design, facts } = publication;
  const words = outputWords(facts.language);
  const line = (label: Label): PagedLine => ({
    to: placeName(label),
    text: `${headingNumber(design, label)} ${plainText(label.title, words)}`.trim(),
  });
  const captions = (kind: 'figure' | 'table' | 'example'): readonly PagedLine[] =>
    captionsOf(publication, kind).map(({ label }) => line(label));
  const indexEntry = ({ heading, locators, see, seeAlso, entries }: IndexEntry): PagedIndexEntry => ({
    heading,
    places: locators.map(({ page, heading: at, anchor }) =>
      placeName(anchor === null ? at : { page: page.name, anchor }),
    ),
    see,
    seeAlso,
    entries: entries.map(indexEntry),
  });
  const pages = flattenPages(publication.pages).map((page) => {
    const writer = new PagedWriter(publication, page, places);
    return { isFront: page.chapter.kind === 'front', heading: writer.heading(), blocks: writer.blocks() };
  });
  // Whatever stands between chapters of the body is of the body.
  const firstOfBody = pages.findIndex(({ isFront }) => !isFront);
  const locale = new Intl.Locale(facts.language);
  return {
    title: plainText(publication.title, words),
    variant: facts.variantTitle,
    language: locale.language,
    region: locale.region ?? null,
    accent: design.accent,
    words: {
      contents: words.contents,
      figures: words.figures,
      tables: words.tables,
      examples: words.examples,
      glossary: words.glossary,
      index: words.index,
      see: words.see,
      seeAlso: words.seeAlso,
      symbols: words.symbols,
    },
    contentsDepth: 3,
    pages: pages.map((page, at) => ({ ...page, isFront: firstOfBody >= 0 && at < firstOfBody })),
    figures: design.lists.figures ? captions('figure') : [],
    tables: design.lists.tables ? captions('table') : [],
    examples: design.lists.examples ? captions('example') : [],
    glossary: design.lists.glossary
      ? glossaryOf(publication).map(({ term, definitions }) => ({
          term,
          definitions: definitions.map(({ blocks, page, heading, component, placements }) => ({
            blocks: new PagedWriter(publication, page, places).blocksElsewhere(blocks, { component, placements }),
            source: line(heading),
          })),
        }))
      : [],
    index: design.lists.index
      ? indexOf(publication).map(({ letter, entries }) => ({ letter, entries: entries.map(indexEntry) }))
      : [],
  };
}
