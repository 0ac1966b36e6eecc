import type {
  PagedBlock,
  PagedCaption,
  PagedCell,
  PagedDocument,
  PagedIndexEntry,
  PagedInline,
  PagedItem,
  PagedLine,
} from '@allomorph/core';
import {
  AlignmentType,
  BookmarkEnd,
  BookmarkStart,
  BorderStyle,
  Document,
  ExternalHyperlink,
  Footer,
  FootnoteReferenceRun,
  Header,
  HeadingLevel,
  ImageRun,
  ImportedXmlComponent,
  InternalHyperlink,
  NumberFormat,
  PageNumber,
  PageReference,
  Paragraph,
  SectionType,
  Table,
  TableCell,
  TableLayoutType,
  TableRow,
  TabStopType,
  TextRun,
  VerticalMergeType,
  WidthType,
  type FileChild,
  type IRunOptions,
  type ParagraphChild,
} from 'docx';
import { bulletList, looksOf, numberedList } from './looks.js';

/** A picture as the document holds it. */
export interface WordPicture {
  readonly type: 'png' | 'jpg' | 'gif';
  readonly data: Buffer;
  /** In pixels. */
  readonly width: number;
  readonly height: number;
}

const headings = [
  HeadingLevel.HEADING_1,
  HeadingLevel.HEADING_2,
  HeadingLevel.HEADING_3,
  HeadingLevel.HEADING_4,
  HeadingLevel.HEADING_5,
  HeadingLevel.HEADING_6,
] as const;

/** The width of the text on the page, in pixels of 1/96 inch. */
const textWidth = 600;

/** Where something is written: how deep in lists, in which style, indented by how much (twentieths of a point). */
interface Place {
  readonly depth: number;
  readonly style?: string;
  readonly indent: number;
  /** In a footnote, which holds paragraphs only. */
  readonly isNote?: true;
}

const rule = { style: BorderStyle.SINGLE, size: 4, color: 'B8B2A4' };
const none = { style: BorderStyle.NONE, size: 0, color: 'auto' };
const tableBorders = { top: rule, bottom: rule, left: none, right: none, insideHorizontal: rule, insideVertical: none };

/** A stop at the end of the line, for numbers of pages. */
const rightTab = { tabStops: [{ type: TabStopType.RIGHT, position: 9000 }] };

const top: Place = { depth: 0, indent: 0 };

/** A publication as a document of a word processor: with styles named by their job, so that it can be gone on with. */
export function writeDocument(document: PagedDocument, pictures: ReadonlyMap<string, WordPicture>): Document {
  return new Writer(document, pictures).document();
}

class Writer {
  private readonly footnotes: Record<string, { children: Paragraph[] }> = {};
  private readonly bookmarks = new Map<string, string>();
  /** The numbers of footnotes, by their names. */
  private readonly notes = new Map<string, number>();
  /** The numbered lists: each counts on its own. */
  private readonly lists: ReturnType<typeof numberedList>[] = [];
  private marks = 0;

  constructor(
    private readonly source: PagedDocument,
    private readonly pictures: ReadonlyMap<string, WordPicture>,
  ) {}

  document(): Document {
    const { source } = this;
    const write = (isFront: boolean): FileChild[] =>
      source.pages
        .filter((page) => page.isFront === isFront)
        .flatMap(({ heading, blocks }) => this.blocks([heading, ...blocks], top));
    const front = write(true);
    const body = write(false);
    const lists = [
      ...this.lines(source.words.figures, source.figures),
      ...this.lines(source.words.tables, source.tables),
      ...this.lines(source.words.examples, source.examples),
    ];
    const back = [...this.glossary(), ...this.index()];
    const page = (format: (typeof NumberFormat)[keyof typeof NumberFormat], isFirst: boolean) => ({
      page: { pageNumbers: { formatType: format, ...(isFirst ? { start: 1 } : {}) } },
      type: SectionType.NEXT_PAGE,
    });
    const around = {
      headers: { default: new Header({ children: [new Paragraph({ style: 'Header', text: source.title })] }) },
      footers: {
        default: new Footer({
          children: [
            new Paragraph({
              style: 'Footer',
              ...rightTab,
              children: [new TextRun(`${source.variant}\t`), new TextRun({ children: [PageNumber.CURRENT] })],
            }),
          ],
        }),
      },
    };
    return new Document({
      title: source.title,
      description: source.variant,
      creator: '',
      lastModifiedBy: '',
      features: { updateFields: true },
      styles: looksOf(source),
      numbering: { config: [bulletList, ...this.lists] },
      footnotes: this.footnotes,
      sections: [
        {
          properties: { type: SectionType.NEXT_PAGE },
          children: [
            new Paragraph({ style: 'Title', text: source.title }),
            new Paragraph({ style: 'Subtitle', text: source.variant }),
          ],
        },
        {
          properties: page(NumberFormat.LOWER_ROMAN, true),
          ...around,
          children: [
            new Paragraph({ style: 'ContentsHeading', text: source.words.contents }),
            ...this.contents(),
            ...lists,
            ...front,
          ],
        },
        { properties: page(NumberFormat.DECIMAL, true), ...around, children: [...body, ...back] },
      ],
    });
  }

  /** Names in the document are short and made of few signs: ours are counted. */
  private bookmark(name: string): string {
    let bookmark = this.bookmarks.get(name);
    if (bookmark === undefined) this.bookmarks.set(name, (bookmark = `_p${this.bookmarks.size + 1}`));
    return bookmark;
  }

  /** The mark of a place, around nothing. */
  private anchor(at: string | undefined): ParagraphChild[] {
    if (at === undefined || at === '') return [];
    this.marks += 1;
    // The library takes marks beside runs; its types name the pair only.

    return [new BookmarkStart(this.bookmark(at), this.marks), new BookmarkEnd(this.marks)];
  }

  private inlines(nodes: readonly PagedInline[], look: IRunOptions = {}): ParagraphChild[] {
    return nodes.flatMap((node): ParagraphChild[] => {
      if (typeof node === 'string') return runs(node, look);
      switch (node.i) {
        case 'strong':
        case 'term':
        case 'label':
          return this.inlines(node.c, { ...look, bold: true });
        case 'emphasis':
        case 'cited':
          return this.inlines(node.c, { ...look, italics: true });
        case 'superscript':
          return this.inlines(node.c, { ...look, superScript: true });
        case 'subscript':
          return this.inlines(node.c, { ...look, subScript: true });
        case 'key':
        case 'formula':
          return this.inlines(node.c, { ...look, style: 'CodeInLine' });
        case 'code':
          return this.inlines(node.c, { ...look, style: 'CodeInLine', italics: node.kind === 'replaceable' });
        case 'link':
          return [
            new ExternalHyperlink({ link: node.href, children: this.inlines(node.c, { ...look, style: 'Hyperlink' }) }),
          ];
        case 'reference':
          return [
            new InternalHyperlink({
              anchor: this.bookmark(node.to),
              children: this.inlines(node.c, { ...look, style: 'Reference' }),
            }),
          ];
        case 'page':
          return [
            new TextRun({ ...look, text: `${node.before} ` }),
            new PageReference(this.bookmark(node.to), { hyperlink: true }),
          ];
        case 'break':
          return [new TextRun({ ...look, break: 1 })];
        case 'missing':
          return [new TextRun({ ...look, text: node.text, style: 'Missing' })];
        case 'image':
          return this.picture(node.path, node.alt, { height: 16 });
        case 'footnote': {
          const id = Object.keys(this.footnotes).length + 1;
          this.footnotes[id] = { children: [] };
          const children = this.blocks(node.c, { ...top, style: 'FootnoteText', isNote: true });
          this.footnotes[id] = { children: children.filter((child) => child instanceof Paragraph) };
          this.notes.set(node.at, id);
          return [new FootnoteReferenceRun(id)];
        }
        case 'again':
          return [new TextRun({ ...look, text: String(this.notes.get(node.note) ?? ''), superScript: true })];
      }
    });
  }

  private picture(
    path: string,
    alt: string,
    size: { readonly height?: number; readonly share?: number },
  ): ParagraphChild[] {
    const picture = this.pictures.get(path);
    if (!picture) return alt === '' ? [] : [new TextRun(alt)];
    const natural = Math.min(picture.width, textWidth);
    const width =
      size.height !== undefined
        ? (picture.width * size.height) / picture.height
        : size.share
          ? (textWidth * size.share) / 100
          : natural;
    const transformation = { width: Math.round(width), height: Math.round((picture.height * width) / picture.width) };
    const altText = { title: '', description: alt, name: path };
    return [new ImageRun({ type: picture.type, data: picture.data, transformation, altText })];
  }

  private blocks(nodes: readonly PagedBlock[], place: Place): FileChild[] {
    return nodes.flatMap((node) => this.block(node, place));
  }

  private paragraph(children: ParagraphChild[], place: Place, style = place.style ?? 'BodyText'): Paragraph {
    return new Paragraph({ style, children, ...(place.indent > 0 ? { indent: { left: place.indent } } : {}) });
  }

  private block(node: PagedBlock, place: Place): FileChild[] {
    switch (node.b) {
      case 'heading': {
        const number = node.number === '' ? [] : [new TextRun(`${node.number} `)];
        const children = [...this.anchor(node.at), ...number, ...this.inlines(node.title)];
        const heading = headings[Math.min(node.level, headings.length) - 1] ?? HeadingLevel.HEADING_6;
        return [new Paragraph({ heading, children, pageBreakBefore: node.level === 1 })];
      }
      case 'paragraph':
        return [this.paragraph([...this.anchor(node.at), ...this.inlines(node.c)], place)];
      case 'code':
        return [this.paragraph([...this.anchor(node.at), ...runs(node.text, {})], place, 'Code')];
      case 'lines':
        return [this.paragraph([...this.anchor(node.at), ...this.inlines(node.c)], place, 'Code')];
      case 'list':
        return this.list(node, place);
      case 'terms':
        return node.items.flatMap((item) => [
          ...item.terms.map((term, at) =>
            this.paragraph([...(at === 0 ? this.anchor(item.at) : []), ...this.inlines(term)], place, 'Term'),
          ),
          ...this.blocks(item.c, { ...place, indent: place.indent + 360 }),
        ]);
      case 'table':
        if (place.isNote) {
          const cells = node.cells.flatMap((cell) => this.blocks(cell.c, place));
          return [...this.caption(node.caption, place, node.at), ...cells];
        }
        return [...this.caption(node.caption, place, node.at), this.table(node), ...afterTable];
      case 'figure': {
        const [first, ...rest] = this.blocks(node.c, place);
        return [
          ...(node.caption === null ? [this.paragraph(this.anchor(node.at), place, 'Anchor')] : []),
          ...(first ? [first, ...rest] : []),
          ...this.caption(node.caption, place, node.at),
        ];
      }
      case 'picture':
        return [this.paragraph(this.picture(node.path, node.alt, { share: node.share }), place, 'Figure')];
      case 'admonition': {
        const style = `Admonition${node.kind}`;
        const within = { ...place, style };
        return [
          new Paragraph({
            style,
            spacing: { before: 180, after: 60 },
            keepNext: true,
            children: [...this.anchor(node.at), new TextRun({ text: node.signal, bold: true, allCaps: true })],
            ...(place.indent > 0 ? { indent: { left: place.indent } } : {}),
          }),
          ...(node.title.length > 0 ? [this.paragraph(this.inlines(node.title, { bold: true }), within)] : []),
          ...this.blocks(node.c, within),
        ];
      }
      case 'quotation': {
        const within = { ...place, style: 'Quote', indent: place.indent + 360 };
        const by = node.by === '' ? [] : [this.paragraph([new TextRun(node.by)], within)];
        return [...this.start(node.at, within), ...this.blocks(node.c, within), ...by];
      }
      case 'example':
        return [...this.caption(node.caption, place, node.at), ...this.blocks(node.c, place)];
      case 'group':
        return [...this.start(node.at, place), ...this.blocks(node.c, place)];
    }
  }

  private start(at: string | undefined, place: Place): FileChild[] {
    return at === undefined ? [] : [this.paragraph(this.anchor(at), place, 'Anchor')];
  }

  private caption(caption: PagedCaption | null, place: Place, at: string | undefined): FileChild[] {
    if (caption === null) return this.start(at, place);
    const number = caption.number === '' ? [] : [new TextRun({ text: `${caption.number} `, bold: true })];
    return [this.paragraph([...this.anchor(at), ...number, ...this.inlines(caption.title)], place, 'Caption')];
  }

  private list(node: Extract<PagedBlock, { readonly b: 'list' }>, place: Place): FileChild[] {
    const level = Math.min(place.depth, 8);
    const { start, numerals = 'decimal' } = node;
    const own = start === undefined ? bulletList : numberedList(this.lists.length, { start, numerals });
    if (own !== bulletList) this.lists.push(own);
    const { reference } = own;
    const within = { ...place, depth: place.depth + 1, indent: 720 * (level + 1) };
    return [
      ...this.start(node.at, place),
      ...node.items.flatMap((item) => this.item(item, { reference, level }, within)),
    ];
  }

  private item(
    item: PagedItem,
    numbering: { readonly reference: string; readonly level: number },
    within: Place,
  ): FileChild[] {
    const [first, ...rest] = item.c;
    // The number stands on a line, whatever the item begins with.
    const line = first?.b === 'paragraph' ? this.inlines(first.c) : [];
    const at = first?.b === 'paragraph' ? first.at : undefined;
    const head = new Paragraph({
      style: 'ListParagraph',
      numbering,
      children: [...this.anchor(item.at), ...this.anchor(at), ...line],
    });
    return [head, ...this.blocks(first?.b === 'paragraph' ? rest : item.c, within)];
  }

  private table(node: Extract<PagedBlock, { readonly b: 'table' }>): Table {
    const rows = Math.max(0, ...node.cells.map(({ y, rows: down }) => y + down));
    const at = new Map<string, PagedCell>();
    for (const cell of node.cells)
      for (let y = cell.y; y < cell.y + cell.rows; y += 1)
        for (let x = cell.x; x < cell.x + cell.columns; x += 1) at.set(`${x} ${y}`, cell);
    const whole = node.columns.reduce((sum, width) => sum + (width || 10), 0);
    const width = (x: number, columns: number): number => {
      const share = node.columns.slice(x, x + columns).reduce((sum, each) => sum + (each || 10), 0) / (whole || 1);
      return Math.round(share * 9000);
    };
    const row = (y: number): TableRow => {
      const children: TableCell[] = [];
      for (let x = 0; x < node.columns.length;) {
        const cell = at.get(`${x} ${y}`);
        const columns = cell?.columns ?? 1;
        children.push(
          new TableCell({
            columnSpan: columns,
            width: { size: width(x, columns), type: WidthType.DXA },
            ...(cell && cell.rows > 1
              ? { verticalMerge: cell.y === y ? VerticalMergeType.RESTART : VerticalMergeType.CONTINUE }
              : {}),
            children: cell?.y === y ? this.cell(cell) : [new Paragraph({ style: 'TableText' })],
          }),
        );
        x += columns;
      }
      return new TableRow({ tableHeader: y < node.headRows, cantSplit: true, children });
    };
    return new Table({
      borders: tableBorders,
      margins: { top: 50, bottom: 50, left: 90, right: 90 },
      layout: TableLayoutType.AUTOFIT,
      columnWidths: node.columns.map((_, x) => width(x, 1)),
      rows: Array.from({ length: rows }, (_, y) => row(y)),
    });
  }

  private cell(cell: PagedCell): (Paragraph | Table)[] {
    const style = cell.isHead ? 'TableHead' : 'TableText';
    const found = this.blocks(cell.c, { ...top, style }).filter(
      (child) => child instanceof Paragraph || child instanceof Table,
    );
    const anchor = this.anchor(cell.at);
    const before = anchor.length > 0 ? [new Paragraph({ style: 'Anchor', children: anchor })] : [];
    // A cell ends with a paragraph.
    const last = found.at(-1) instanceof Paragraph ? [] : [new Paragraph({ style })];
    return [...before, ...found, ...last];
  }

  /** The contents, as a field that word processors make anew, with what it holds now. */
  private contents(): FileChild[] {
    const { pages, contentsDepth } = this.source;
    const headings = pages
      .flatMap(({ heading, blocks }) => [heading, ...blocks])
      .flatMap((block) => (block.b === 'heading' && block.level <= contentsDepth ? [block] : []));
    const lines = headings.map(({ level, number, title, at }, place) => {
      const text = `${number} ${wordsOf(title)}`.trim();
      const begin = place === 0 ? fieldBegin(`TOC \\o "1-${contentsDepth}" \\h \\z \\u`) : [];
      const link = new InternalHyperlink({ anchor: this.bookmark(at), children: [new TextRun(`${text}\t`)] });
      const children = [...begin, link, new PageReference(this.bookmark(at), { hyperlink: true })];
      return new Paragraph({ style: `TOC${level}`, ...rightTab, children });
    });
    return lines.length === 0 ? [] : [...lines, new Paragraph({ style: 'Anchor', children: [fieldMark('end')] })];
  }

  private lines(title: string, lines: readonly PagedLine[]): FileChild[] {
    if (lines.length === 0) return [];
    return [
      new Paragraph({ style: 'ContentsHeading', text: title }),
      ...lines.map(
        ({ to, text }) =>
          new Paragraph({
            style: 'ListedLine',
            ...rightTab,
            children: [
              new InternalHyperlink({ anchor: this.bookmark(to), children: [new TextRun(`${text}\t`)] }),
              new PageReference(this.bookmark(to)),
            ],
          }),
      ),
    ];
  }

  private glossary(): FileChild[] {
    const { glossary, words } = this.source;
    if (glossary.length === 0) return [];
    return [
      new Paragraph({ heading: HeadingLevel.HEADING_1, pageBreakBefore: true, text: words.glossary }),
      ...glossary.flatMap(({ term, definitions }) => [
        new Paragraph({ style: 'Term', text: term }),
        ...definitions.flatMap(({ blocks, source }) => [
          ...this.blocks(blocks, { ...top, indent: 360 }),
          new Paragraph({
            style: 'Source',
            children: [
              new InternalHyperlink({
                anchor: this.bookmark(source.to),
                children: [new TextRun({ text: source.text, style: 'Reference' })],
              }),
            ],
          }),
        ]),
      ]),
    ];
  }

  private index(): FileChild[] {
    const { index, words } = this.source;
    if (index.length === 0) return [];
    const entries = (list: readonly PagedIndexEntry[], depth: number): Paragraph[] =>
      list.flatMap((entry) => {
        const places = entry.places.flatMap((place) => [
          new TextRun(', '),
          new PageReference(this.bookmark(place), { hyperlink: true }),
        ]);
        const others = [
          ...(entry.see.length > 0 ? [`${words.see} ${entry.see.join('; ')}`] : []),
          ...(entry.seeAlso.length > 0 ? [`${words.seeAlso} ${entry.seeAlso.join('; ')}`] : []),
        ].map((text) => new TextRun(`, ${text}`));
        return [
          new Paragraph({
            style: `Index${Math.min(depth, 2) + 1}`,
            children: [new TextRun(entry.heading), ...places, ...others],
          }),
          ...entries(entry.entries, depth + 1),
        ];
      });
    return [
      new Paragraph({ heading: HeadingLevel.HEADING_1, pageBreakBefore: true, text: words.index }),
      ...index.flatMap((group) => [
        new Paragraph({ style: 'IndexLetter', text: group.letter === '' ? words.symbols : group.letter }),
        ...entries(group.entries, 0),
      ]),
    ];
  }
}

/** The marks around the content of a field (ISO/IEC 29500-1, 17.16.18). */
function fieldMark(type: 'begin' | 'separate' | 'end'): TextRun {
  return runOf(new ImportedXmlComponent('w:fldChar', { 'w:fldCharType': type }));
}

function fieldBegin(instruction: string): TextRun[] {
  const told = new ImportedXmlComponent('w:instrText', { 'xml:space': 'preserve' });
  told.push(` ${instruction} `);
  return [fieldMark('begin'), runOf(told), fieldMark('separate')];
}

function runOf(element: ImportedXmlComponent): TextRun {
  // The library takes any element in a run; its types name some only.

  return new TextRun({ children: [element] });
}

/** The words of a line without marks. */
function wordsOf(nodes: readonly PagedInline[]): string {
  return nodes
    .map((node) => {
      if (typeof node === 'string') return node;
      if (node.i === 'missing') return node.text;
      return 'c' in node && node.i !== 'footnote' ? wordsOf(node.c) : '';
    })
    .join('');
}

/** Tables that follow each other would be one without something between. */
const afterTable = [new Paragraph({ style: 'Anchor', alignment: AlignmentType.LEFT })];

/** Text as runs: lines of listings are lines of one paragraph. */
function runs(text: string, look: IRunOptions): TextRun[] {
  return text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .map((line, at) => new TextRun({ ...look, text: line, ...(at > 0 ? { break: 1 } : {}) }));
}
