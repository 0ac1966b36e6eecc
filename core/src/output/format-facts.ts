/** How the files of a rendition become what is handed over: as they are; typeset as one document. */
export type Container = 'folder' | 'pdf';

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

/** All formats, in the order in which they are offered. */
export const formatFacts = {
  html: { name: 'html', title: 'Web site', container: 'folder', start: 'index.html' },
  pdf: { name: 'pdf', title: 'PDF', container: 'pdf', start: 'document.pdf' },
  markdown: { name: 'markdown', title: 'Markdown', container: 'folder', start: 'index.md' },
} as const satisfies Readonly<Record<string, FormatFacts>>;

export type FormatName = keyof typeof formatFacts;

export const formatNames = Object.keys(formatFacts) as readonly FormatName[];

/** Whether there is a format of a name. */
export function isFormat(name: string): name is FormatName {
  return Object.hasOwn(formatFacts, name);
}

/** What is said of a format; undefined where there is none of the name any more. */
export function factsOf(name: string): FormatFacts | undefined {
  return isFormat(name) ? formatFacts[name] : undefined;
}
