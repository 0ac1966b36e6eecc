/**
 * How the files of a rendition become what is handed over: as they are; as one page that holds all that it shows; as one file
 * of the EPUB standard; typeset as one document; as a file for word processors.
 */
export type Container = 'folder' | 'page' | 'epub' | 'pdf' | 'word';

/** What is said of a format where nothing is rendered: in lists, in recipes, in addresses. */
export interface FormatFacts {
  /** Names it in recipes and addresses. */
  readonly name: string;
  /** What people call it. */
  readonly title: string;
  /** What its files are handed over in. */
  readonly container: Container;
  /** The file that a reader opens first, of those that are handed over. */
  readonly start: string;
}

/** The names of all formats, in the order in which they are offered. */
export const formatNames = ['html', 'page', 'pdf', 'epub', 'docx', 'markdown'] as const;
export type FormatName = (typeof formatNames)[number];

export const formatFacts: Readonly<Record<FormatName, FormatFacts>> = {
  html: { name: 'html', title: 'Web site', container: 'folder', start: 'index.html' },
  page: { name: 'page', title: 'Single web page', container: 'page', start: 'document.html' },
  pdf: { name: 'pdf', title: 'PDF', container: 'pdf', start: 'document.pdf' },
  epub: { name: 'epub', title: 'EPUB', container: 'epub', start: 'book.epub' },
  docx: { name: 'docx', title: 'Word', container: 'word', start: 'document.docx' },
  markdown: { name: 'markdown', title: 'Markdown', container: 'folder', start: 'index.md' },
};

/** Whether there is a format of a name. */
export function isFormat(name: string): name is FormatName {
  return Object.hasOwn(formatFacts, name);
}

/** What is said of a format; undefined where there is none of the name any more. */
export function factsOf(name: string): FormatFacts | undefined {
  return isFormat(name) ? formatFacts[name] : undefined;
}

/** Whether browsers show what a format hands over. */
export function opensInBrowser({ container }: FormatFacts): boolean {
  return container === 'folder' || container === 'page' || container === 'pdf';
}
