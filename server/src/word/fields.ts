import { BookmarkEnd, BookmarkStart, ImportedXmlComponent, TextRun, type IRunOptions, type ParagraphChild } from 'docx';

/** The marks around the content of a field (ISO/IEC 29500-1, 17.16.18). */
export function fieldMark(type: 'begin' | 'separate' | 'end', look: IRunOptions = {}): TextRun {
  return runOf(new ImportedXmlComponent('w:fldChar', { 'w:fldCharType': type }), look);
}

/** The beginning of a field, up to what it shows. */
export function fieldBegin(instruction: string, look: IRunOptions = {}): TextRun[] {
  return [fieldMark('begin', look), toldBy(instruction, look), fieldMark('separate', look)];
}

/** A field with what it shows until it is made anew (ISO/IEC 29500-1, 17.16.5). */
export function field(instruction: string, shown: string, look: IRunOptions = {}): TextRun[] {
  // All of it looks so: some word processors take the look of its mark, some that of its text.
  return [...fieldBegin(instruction, look), new TextRun({ ...look, text: shown }), fieldMark('end', look)];
}

/** A field that shows nothing where it stands. */
export function hiddenField(instruction: string): TextRun[] {
  return [fieldMark('begin'), toldBy(instruction), fieldMark('end')];
}

/** Text as it stands between the quotation marks of an instruction. */
export function escaped(text: string): string {
  return text.replace(/[\\"]/g, (sign) => `\\${sign}`);
}

/** The same with the quotation marks. */
export function quoted(text: string): string {
  return `"${escaped(text)}"`;
}

function toldBy(instruction: string, look: IRunOptions = {}): TextRun {
  const told = new ImportedXmlComponent('w:instrText', { 'xml:space': 'preserve' });
  told.push(` ${instruction} `);
  return runOf(told, look);
}

function runOf(element: ImportedXmlComponent, look: IRunOptions): TextRun {
  // The library takes any element in a run; its types name some only.
  return new TextRun({ ...look, children: [element] });
}

/** Names of places in a document: short and made of few signs, so ours are counted. */
export class Bookmarks {
  private readonly names = new Map<string, string>();
  private marks = 0;

  /** @param part of what leads there: the place, its number or its title */
  name(at: string, part: 'p' | 'n' | 't' = 'p'): string {
    let own = this.names.get(at);
    if (own === undefined) this.names.set(at, (own = String(this.names.size + 1)));
    return `_${part}${own}`;
  }

  around(name: string, children: readonly ParagraphChild[]): ParagraphChild[] {
    this.marks += 1;
    return [new BookmarkStart(name, this.marks), ...children, new BookmarkEnd(this.marks)];
  }
}
