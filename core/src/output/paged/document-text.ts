import { hasList, type Design, type GeneratedList } from '../../design/design.js';
import type { ImageFile } from '../../model/component.js';
import { indexOf, type IndexEntry } from '../../number/book-index.js';
import { captionsOf } from '../../number/contents.js';
import { glossaryOf } from '../../number/glossary.js';
import type { Label } from '../../number/notes.js';
import {
  flattenPages,
  picturesIn,
  picturesOn,
  type Matter,
  type NumberedPage,
  type NumberedPublication,
} from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { fileNameFor, imageFileName } from '../file-names.js';
import type { FormatFile } from '../format.js';
import { headingNumber } from '../labels.js';
import { wordsOf, type OutputWords } from '../words.js';
import { pagedLook } from './look.js';
import { PagedWriter, type PublicationPart } from './page-writer.js';
import { placeName } from './place-name.js';
import type { PagedBlock, PagedDocument, PagedIndexEntry, PagedLine } from './paged-document.js';

/** The file in which a publication is handed to whatever lays it out on pages. */
export const documentPath = 'document.json';

/** A publication as data for paged output, with the pictures that it shows. */
export function documentFile(publication: NumberedPublication): FormatFile {
  const { pictures, snippets } = publication.look;
  const around = [
    ...[...pictures.values()].map(({ file }) => file),
    ...[...snippets.values()].flatMap(({ blocks }) => picturesIn(blocks)),
  ];
  return fileOf(publication, documentPath, null, around);
}

/** The folder in which parts of a publication lie, each as a document. */
export const partsFolder = 'parts/';
const noNames: ReadonlySet<string> = new Set();

/** The chapters or topics of a publication, each as data for paged output, named after its first page. */
export function partFiles(publication: NumberedPublication, kind: 'chapters' | 'topics'): readonly FormatFile[] {
  const all = flattenPages(publication.pages);
  const words = wordsOf(publication);
  const partOf = (page: NumberedPage): Label => (kind === 'chapters' ? page.chapter : page.label);
  const titles = new Map(all.map((page) => [page.name, lineOf(publication.design, partOf(page), words)]));
  return (kind === 'chapters' ? publication.pages : all).map((first) => {
    const part: PublicationPart = {
      pages: kind === 'chapters' ? flattenPages([first]) : [first],
      depth: first.depth,
      titleAround: (page) => titles.get(page) ?? '',
    };
    return fileOf(publication, `${partsFolder}${fileNameFor(first.name, noNames)}.json`, part, []);
  });
}

/** @param around pictures besides those of the text */
function fileOf(
  publication: NumberedPublication,
  path: string,
  part: PublicationPart | null,
  around: readonly ImageFile[],
): FormatFile {
  const shown = [...pagesOf(publication, part).flatMap((page) => picturesOn(page)), ...around];
  return {
    path,
    mediaType: 'application/json',
    text: documentText(publication, part),
    pictures: [...new Map(shown.map((file) => [file.digest, file])).values()].map((file) => ({
      path: imageFileName(file),
      file,
    })),
  };
}

function pagesOf(publication: NumberedPublication, part: PublicationPart | null): readonly NumberedPage[] {
  return part?.pages ?? flattenPages(publication.pages);
}

/** Number and title of a label. */
function lineOf(design: Design, label: Label, words: OutputWords): string {
  return `${headingNumber(design, label)} ${plainText(label.title, words)}`.trim();
}

/**
 * A publication as the template takes it, as JSON. What stands nowhere on paper is led to by its page, and where that page is not
 * in, as in a part of a publication, by the first one.
 */
function documentText(publication: NumberedPublication, part: PublicationPart | null): string {
  const places = new Set<string>();
  const document = documentOf(publication, places, part);
  const [first] = document.pages;
  const there = (name: string): string => {
    const page = name.split('#')[0] ?? '';
    return [name, page].find((each) => places.has(each)) ?? first?.heading.at ?? page;
  };
  const ledTo = new Set<string>();
  const ledThere = (name: string): string => {
    const place = there(name);
    ledTo.add(place);
    return place;
  };
  return JSON.stringify(document, (key, value: unknown) => {
    if (key === 'to' && typeof value === 'string') return ledThere(value);
    if (key === 'places' && Array.isArray(value)) return value.map((each) => ledThere(String(each)));
    // Written last: all that leads somewhere has been seen.
    return key === 'ledTo' ? [...ledTo] : value;
  });
}

function documentOf(
  publication: NumberedPublication,
  places: Set<string>,
  part: PublicationPart | null,
): PagedDocument {
  const { design, facts } = publication;
  const words = wordsOf(publication);
  const line = (label: Label): PagedLine => ({
    to: placeName(label),
    text: lineOf(design, label, words),
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
  const all = pagesOf(publication, part);
  const snippet = (name: string): readonly PagedBlock[] => {
    const found = publication.look.snippets.get(name);
    const [first] = all;
    if (!found || !first) return [];
    return new PagedWriter(publication, first, places).blocksElsewhere(found.blocks, { ...found, placements: [] });
  };
  const pages = all.map((page) => {
    const writer = new PagedWriter(publication, page, places, part);
    return { matter: page.matter, heading: writer.heading(), blocks: writer.blocks() };
  });
  // Whatever stands between chapters of the body is of the body; where there is none, all is.
  const isOfBody = pages.map(({ matter }) => matter === 'body');
  const [first, last] = [isOfBody.indexOf(true), isOfBody.lastIndexOf(true)];
  const matterAt = (at: number, matter: Matter): Matter => {
    if (at < first) return 'front';
    return first >= 0 && at > last && matter === 'back' ? 'back' : 'body';
  };
  const lists = (name: GeneratedList): boolean => part === null && hasList(design, name);
  const [firstPage] = all;
  const title = plainText(publication.title, words);
  const look = pagedLook(publication, snippet);
  const locale = new Intl.Locale(facts.language);
  return {
    title: part && firstPage ? `${lineOf(design, firstPage.label, words)} – ${title}` : title,
    variant: facts.variantTitle,
    language: locale.language,
    region: locale.region ?? null,
    look: part ? { ...look, cover: null, back: null, front: ['topics'], end: ['topics'] } : look,
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
      page: words.page,
    },
    contentsDepth: design.lists.paperDepth,
    pages: pages.map((page, at) => ({ ...page, matter: part ? 'body' : matterAt(at, page.matter) })),
    figures: lists('figures') ? captions('figure') : [],
    tables: lists('tables') ? captions('table') : [],
    examples: lists('examples') ? captions('example') : [],
    glossary: lists('glossary')
      ? glossaryOf(publication).map(({ term, definitions }) => ({
          term,
          definitions: definitions.map(({ blocks, page, heading, component, placements }) => ({
            blocks: new PagedWriter(publication, page, places).blocksElsewhere(blocks, { component, placements }),
            source: line(heading),
          })),
        }))
      : [],
    index: lists('index')
      ? indexOf(publication).map(({ letter, entries }) => ({ letter, entries: entries.map(indexEntry) }))
      : [],
    ledTo: [],
  };
}
