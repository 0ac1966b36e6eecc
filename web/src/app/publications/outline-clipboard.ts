import { savePublicationSchema, type OutlineEntry } from '@allomorph/core';

/** How entries travel between windows of the application. */
const entriesType = 'application/x-allomorph-entries';

/** Puts entries on a clipboard: as they are, and as a list of titles for other programs. */
export function putOnClipboard(
  clipboard: DataTransfer,
  entries: readonly OutlineEntry[],
  titleOf: (entry: OutlineEntry) => string,
): void {
  const lines = (list: readonly OutlineEntry[], depth: number): readonly string[] =>
    list.flatMap((entry) => ['\t'.repeat(depth) + titleOf(entry), ...lines(entry.entries ?? [], depth + 1)]);
  clipboard.setData(entriesType, JSON.stringify(entries));
  clipboard.setData('text/plain', lines(entries, 0).join('\n'));
}

/** What of a clipboard can stand in an outline: entries, or lines of text as headings, deeper ones below the ones before. */
export function entriesOnClipboard(clipboard: DataTransfer): readonly OutlineEntry[] {
  const own = clipboard.getData(entriesType);
  return own === '' ? headingsOf(clipboard.getData('text/plain')) : readEntries(own);
}

function readEntries(text: string): readonly OutlineEntry[] {
  try {
    // Whatever another page puts there is checked like anything that comes from outside.
    const read = savePublicationSchema.shape.entries.safeParse(JSON.parse(text));
    return read.success ? read.data : [];
  } catch {
    return [];
  }
}

const mostLines = 500;
const mostSigns = 300;

/** Lines as entries that are only a heading; a line that is set in further stands below the one before. */
export function headingsOf(text: string): readonly OutlineEntry[] {
  interface Heading {
    id: string;
    title: string;
    entries: Heading[];
  }
  const roots: Heading[] = [];
  const open: { depth: number; heading: Heading }[] = [];
  for (const line of text.split(/\r?\n/).slice(0, mostLines)) {
    const title = line
      .replace(/^[\s\u2022*-]+/u, '')
      .trim()
      .slice(0, mostSigns);
    if (title === '') continue;
    const depth = (/^\s*/.exec(line)?.[0] ?? '').replace(/\t/g, '    ').length;
    while (open.length > 0 && (open.at(-1)?.depth ?? 0) >= depth) open.pop();
    const heading: Heading = { id: `h${roots.length}`, title, entries: [] };
    (open.at(-1)?.heading.entries ?? roots).push(heading);
    open.push({ depth, heading });
  }
  return roots;
}
