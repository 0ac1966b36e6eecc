import type {
  GeneratedList,
  Matter,
  MatterPart,
  PagedBlock,
  PagedCaption,
  PagedCell,
  PagedDocument,
  PagedFormula,
  PagedIndexEntry,
  PagedInline,
  PagedItem,
  PagedLine,
  PagedLook,
} from '@allomorph/core';
import {
  AlignmentType,
  BorderStyle,
  Document,
  ExternalHyperlink,
  FootnoteReferenceRun,
  HeadingLevel,
  ImageRun,
  InternalHyperlink,
  PageReference,
  Paragraph,
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
  type ISectionOptions,
  type ITableBordersOptions,
  type ParagraphChild,
} from 'docx';
import { Bookmarks, escaped, field, fieldBegin, fieldMark, hiddenField, quoted } from './fields.js';
import { wordFormula } from './formula.js';
import { HeadingNumbers } from './heading-numbers.js';
import {
  bulletList,
  bulletReference,
  looksOf,
  numberedList,
  stampedPhrase,
  stampedStyle,
  wordOfStamp,
} from './looks.js';
import { coverSection, textSection, textWidth } from './sheets.js';
import { targetsOf, wordsOf, type Target } from './targets.js';

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

/** Where something is written: how deep in lists, in which style, indented by how much (twentieths of a point). */
interface Place {
  readonly depth: number;
  readonly style?: string;
  readonly indent: number;
  /** In a footnote, which holds paragraphs only. */
  readonly isNote?: true;
}

const top: Place = { depth: 0, indent: 0 };

/** A publication as a document of a word processor: with styles named by their job, so that it can be gone on with. */
export function writeDocument(document: PagedDocument, pictures: ReadonlyMap<string, WordPicture>): Document {
  return new Writer(document, pictures).document();
}

class Writer {
  private readonly footnotes: Record<string, { children: Paragraph[] }> = {};
  private readonly bookmarks = new Bookmarks();
  private readonly targets: ReadonlyMap<string, Target>;
  private readonly numbers = new HeadingNumbers();
  /** The last number of a caption, by kind. */
  private readonly counts = new Map<SequenceName, number>();
  /** What the index says of places, by place, until it is said there. */
  private readonly indexed: Map<string, string[]>;
  /** The numbers of footnotes, by their names. */
  private readonly notes = new Map<string, number>();
  /** The numbered lists: each counts on its own. */
  private readonly lists: ReturnType<typeof numberedList>[] = [];

  constructor(
    private readonly source: PagedDocument,
    private readonly pictures: ReadonlyMap<string, WordPicture>,
  ) {
    this.targets = targetsOf(source);
    this.indexed = indexMarks(source.index);
  }

  document(): Document {
    const { source } = this;
    const { look } = source;
    const front = look.front.flatMap((part) => this.matter(part, 'front'));
    const body = [...this.chapters('body'), ...look.end.flatMap((part) => this.matter(part, 'back'))];
    const cover = this.cover();
    const back = this.backCover();
    const sections = (chapters: readonly FileChild[][], isFront: boolean): ISectionOptions[] =>
      chapters.map((children, at) => ({ ...textSection(source, { isFront, isFirst: at === 0 }), children }));
    return new Document({
      title: source.title,
      description: source.variant,
      creator: '',
      lastModifiedBy: '',
      features: { updateFields: true },
      evenAndOddHeaderAndFooters: look.paper.twoSided,
      styles: looksOf(source),
      numbering: { config: [bulletList(look), ...this.lists, ...this.numbers.config] },
      footnotes: this.footnotes,
      sections: [
        ...(cover.length > 0 ? [{ ...coverSection(source), children: cover }] : []),
        ...sections(front, true),
        ...sections(body, false),
        ...(back.length > 0 ? [{ ...coverSection(source), children: back }] : []),
      ],
    });
  }

  /** A part of front or back matter, cut into chapters. */
  private matter(part: MatterPart, matter: Matter): FileChild[][] {
    if (part === 'topics') return this.chapters(matter);
    const list = this.generated(part);
    return list.length > 0 ? [list] : [];
  }

  /** Topics, cut where headings of the first level begin: each chapter has heads and feet of its own. */
  private chapters(matter: Matter): FileChild[][] {
    const chapters: FileChild[][] = [];
    for (const { heading, blocks } of this.source.pages.filter((page) => page.matter === matter)) {
      if (heading.level === 1 || chapters.length === 0) chapters.push([]);
      chapters.at(-1)?.push(...this.blocks([heading, ...blocks], top));
    }
    return chapters;
  }

  private generated(name: GeneratedList): FileChild[] {
    const { words, figures, tables, examples } = this.source;
    switch (name) {
      case 'contents':
        return [new Paragraph({ style: 'ContentsHeading', text: words.contents }), ...this.contents()];
      case 'figures':
        return this.lines(words.figures, figures, 'Figure');
      case 'tables':
        return this.lines(words.tables, tables, 'Table');
      case 'examples':
        return this.lines(words.examples, examples, 'Example');
      case 'glossary':
        return this.glossary();
      case 'index':
        return this.index();
    }
  }

  private cover(): FileChild[] {
    const { cover } = this.source.look;
    if (!cover) return [];
    const centred = cover.arrangement === 'middle' ? { alignment: AlignmentType.CENTER } : {};
    const line = (style: string, text: string): Paragraph[] =>
      text === '' ? [] : [new Paragraph({ style, text, ...centred })];
    const picture = cover.picture
      ? [new Paragraph({ ...centred, children: this.picture(cover.picture.path, cover.picture.alt, {}) })]
      : [];
    const low = cover.arrangement === 'foot';
    return [
      ...(low ? picture : []),
      new Paragraph({ spacing: { before: low ? 1200 : 3000 } }),
      ...line('Subtitle', cover.over),
      ...line('Title', cover.title),
      ...line('Subtitle', cover.under),
      ...(low ? [] : picture),
      ...this.blocks(cover.blocks, top),
      ...line('Footer', cover.foot),
    ];
  }

  private backCover(): FileChild[] {
    const { back } = this.source.look;
    if (!back) return [];
    return [
      ...this.blocks(back.blocks, top),
      ...(back.text === '' ? [] : [new Paragraph({ style: 'Footer', text: back.text })]),
    ];
  }

  private bookmark(at: string): string {
    return this.bookmarks.name(at);
  }

  /** The mark of a place, around nothing, with what the index says of it. */
  private anchor(at: string | undefined): ParagraphChild[] {
    if (at === undefined || at === '') return [];
    const marks = this.indexed.get(at) ?? [];
    this.indexed.delete(at);
    return [...this.bookmarks.around(this.bookmark(at), []), ...marks.flatMap((each) => hiddenField(`XE ${each}`))];
  }

  /** What references to a place read of it. */
  private named(
    at: string | undefined,
    part: 'n' | 't',
    children: readonly ParagraphChild[],
  ): readonly ParagraphChild[] {
    return at === undefined ? children : this.bookmarks.around(this.bookmarks.name(at, part), children);
  }

  /** What a reference reads: the number and the title of its target as fields, which read what these are then. */
  private reference(to: string, text: string): ParagraphChild[] {
    const style = 'Reference';
    const plain = (part: string): ParagraphChild[] =>
      part === ''
        ? []
        : [new InternalHyperlink({ anchor: this.bookmark(to), children: [new TextRun({ text: part, style })] })];
    const target = this.targets.get(to);
    const title = target?.title ?? '';
    const ends = title !== '' && text.endsWith(title);
    const [rest, titled] = ends
      ? [text.slice(0, -title.length), field(`REF ${this.bookmarks.name(to, 't')} \\h`, title, { style })]
      : [text, []];
    const number = target?.number ?? '';
    const at = number === '' ? -1 : rest.indexOf(number);
    if (!target || at < 0) return [...plain(rest), ...titled];
    const instruction =
      target.kind === 'caption'
        ? `REF ${this.bookmarks.name(to, 'n')} \\h`
        : `REF ${this.bookmarks.name(to, 't')} \\r \\h`;
    return [
      ...plain(rest.slice(0, at)),
      ...field(instruction, number, { style }),
      ...plain(rest.slice(at + number.length)),
      ...titled,
    ];
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
        case 'formula':
          return this.formula(node, false, look);
        case 'key':
          return this.inlines(node.c, { ...look, style: 'CodeInLine' });
        case 'code':
          return this.inlines(node.c, { ...look, style: 'CodeInLine', italics: node.kind === 'replaceable' });
        case 'stamped': {
          const word =
            node.word === '' ? [] : runs(`${node.word} `, { ...look, ...wordOfStamp(this.source.look, node.stamp) });
          return [...word, ...this.inlines(node.c, { ...look, ...stampedPhrase(this.source.look, node.stamp) })];
        }
        case 'link':
          return [
            new ExternalHyperlink({ link: node.href, children: this.inlines(node.c, { ...look, style: 'Hyperlink' }) }),
          ];
        case 'reference':
          return node.c.every((each) => typeof each === 'string')
            ? this.reference(node.to, node.c.join(''))
            : [
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

  private formula({ elements, source }: PagedFormula, block: boolean, look: IRunOptions): ParagraphChild[] {
    return elements ? wordFormula(elements, block) : runs(source, { ...look, style: 'CodeInLine' });
  }

  /** The width of the text on the page, in pixels of 1/96 inch. */
  private get pixels(): number {
    return Math.round(textWidth(this.source) / 15);
  }

  /** A stop at the end of the line, for numbers of pages. */
  private rightTab(): { tabStops: { type: typeof TabStopType.RIGHT; position: number }[] } {
    return { tabStops: [{ type: TabStopType.RIGHT, position: textWidth(this.source) }] };
  }

  private picture(
    path: string,
    alt: string,
    size: { readonly height?: number; readonly share?: number },
  ): ParagraphChild[] {
    const picture = this.pictures.get(path);
    if (!picture) return alt === '' ? [] : [new TextRun(alt)];
    const natural = Math.min(picture.width, this.pixels);
    const width =
      size.height !== undefined
        ? (picture.width * size.height) / picture.height
        : size.share
          ? (this.pixels * size.share) / 100
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
        const numbering = node.number === '' ? null : this.numbers.next(node.number);
        const number = node.number === '' || numbering ? [] : [new TextRun(`${node.number} `)];
        const title = this.named(node.at, 't', this.inlines(node.title));
        const heading = headings[Math.min(node.level, headings.length) - 1] ?? HeadingLevel.HEADING_6;
        const children = [...this.anchor(node.at), ...number, ...title];
        return [new Paragraph({ heading, children, ...(numbering ? { numbering } : {}) })];
      }
      case 'paragraph':
        return [this.paragraph([...this.anchor(node.at), ...this.inlines(node.c)], place)];
      case 'formula':
        return [this.paragraph([...this.anchor(node.at), ...this.formula(node, true, {})], place)];
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
          return [...this.caption(node.caption, place, node.at, 'Table'), ...cells];
        }
        return [...this.caption(node.caption, place, node.at, 'Table'), this.table(node), ...afterTable];
      case 'figure': {
        const [first, ...rest] = this.blocks(node.c, place);
        return [
          ...(node.caption === null ? [this.paragraph(this.anchor(node.at), place, 'Anchor')] : []),
          ...(first ? [first, ...rest] : []),
          ...(node.caption === null ? [] : this.caption(node.caption, place, node.at, 'Figure')),
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
        return [...this.caption(node.caption, place, node.at, 'Example'), ...this.blocks(node.c, place)];
      case 'stamped': {
        const within = place.isNote ? place : { ...place, ...stampedStyle(this.source.look, node.stamp) };
        const word = node.word === '' ? [] : [this.stampWord(node.stamp, node.word, within)];
        return [...word, ...this.blocks(node.c, within)];
      }
      case 'group':
        return [...this.start(node.at, place), ...this.blocks(node.c, place)];
    }
  }

  /** The word over what bears a stamp. */
  private stampWord(stamp: string, word: string, place: Place): Paragraph {
    return new Paragraph({
      style: place.style ?? 'BodyText',
      keepNext: true,
      spacing: { after: 20 },
      children: runs(word, wordOfStamp(this.source.look, stamp)),
      ...(place.indent > 0 ? { indent: { left: place.indent } } : {}),
    });
  }

  private start(at: string | undefined, place: Place): FileChild[] {
    return at === undefined ? [] : [this.paragraph(this.anchor(at), place, 'Anchor')];
  }

  /** The number of a caption: its last part is counted by the word processor, and begins anew where ours does. */
  private sequence(kind: SequenceName, number: string): ParagraphChild[] {
    const [, before = '', last = ''] = /^(.*?)(\d+)$/.exec(number) ?? [];
    if (last === '') return [new TextRun({ text: number, bold: true })];
    const expected = (this.counts.get(kind) ?? 0) + 1;
    this.counts.set(kind, Number(last));
    const anew = Number(last) === expected ? '' : ` \\r ${last}`;
    return [
      ...(before === '' ? [] : [new TextRun({ text: before, bold: true })]),
      ...field(`SEQ ${kind} \\* ARABIC${anew}`, last, { bold: true }),
    ];
  }

  private caption(caption: PagedCaption | null, place: Place, at: string | undefined, kind: SequenceName): FileChild[] {
    if (caption === null) return this.start(at, place);
    const number =
      caption.number === '' ? [] : [...this.named(at, 'n', this.sequence(kind, caption.number)), new TextRun(' ')];
    const title = this.named(at, 't', this.inlines(caption.title));
    return [this.paragraph([...this.anchor(at), ...number, ...title], place, 'Caption')];
  }

  private list(node: Extract<PagedBlock, { readonly b: 'list' }>, place: Place): FileChild[] {
    const level = Math.min(place.depth, 8);
    const { start, numerals = 'decimal' } = node;
    const own = start === undefined ? null : numberedList(this.lists.length, { start, numerals });
    if (own) this.lists.push(own);
    const reference = own?.reference ?? bulletReference;
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
    const [only] = item.c;
    const isStamped = item.c.length === 1 && only?.b === 'stamped';
    const word = isStamped && only.word !== '' ? runs(`${only.word} `, wordOfStamp(this.source.look, only.stamp)) : [];
    const stamp = isStamped ? stampedStyle(this.source.look, only.stamp) : {};
    const [first, ...rest] = isStamped ? only.c : item.c;
    // The number stands on a line, whatever the item begins with.
    const line = first?.b === 'paragraph' ? this.inlines(first.c) : [];
    const at = first?.b === 'paragraph' ? first.at : undefined;
    const head = new Paragraph({
      style: 'ListParagraph',
      ...stamp,
      numbering,
      children: [...this.anchor(item.at), ...this.anchor(at), ...word, ...line],
    });
    const below = first?.b === 'paragraph' ? rest : isStamped ? only.c : item.c;
    return [head, ...this.blocks(below, { ...within, ...stamp })];
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
      return Math.round(share * textWidth(this.source));
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
            ...shadeOf(this.source.look, {
              isHead: y < node.headRows,
              isEven: (y - node.headRows) % 2 === 1,
              stamp: cell?.stamp,
            }),
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
      borders: bordersOf(this.source.look, node.lines),
      margins: { top: 50, bottom: 50, left: 90, right: 90 },
      layout: TableLayoutType.AUTOFIT,
      columnWidths: node.columns.map((_, x) => width(x, 1)),
      rows: Array.from({ length: rows }, (_, y) => row(y)),
    });
  }

  private cell(cell: PagedCell): (Paragraph | Table)[] {
    const own = cell.isHead ? 'TableHead' : 'TableText';
    const style = { style: own, ...(cell.stamp === undefined ? {} : stampedStyle(this.source.look, cell.stamp)) };
    const found = this.blocks(cell.c, { ...top, ...style }).filter(
      (child) => child instanceof Paragraph || child instanceof Table,
    );
    const anchor = this.anchor(cell.at);
    const before = anchor.length > 0 ? [new Paragraph({ style: 'Anchor', children: anchor })] : [];
    // A cell ends with a paragraph.
    const last = found.at(-1) instanceof Paragraph ? [] : [new Paragraph(style)];
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
      return new Paragraph({ style: `TOC${level}`, ...this.rightTab(), children });
    });
    return lines.length === 0 ? [] : [...lines, ...endOfField()];
  }

  /** A list of captions, as a field that is made anew with what it holds now. */
  private lines(title: string, lines: readonly PagedLine[], kind: SequenceName): FileChild[] {
    if (lines.length === 0) return [];
    const listed = lines.map(({ to, text }, place) => {
      const begin = place === 0 ? fieldBegin(`TOC \\h \\z \\c ${quoted(kind)}`) : [];
      const link = new InternalHyperlink({ anchor: this.bookmark(to), children: [new TextRun(`${text}\t`)] });
      const children = [...begin, link, new PageReference(this.bookmark(to))];
      return new Paragraph({ style: 'ListedLine', ...this.rightTab(), children });
    });
    return [new Paragraph({ style: 'ContentsHeading', text: title }), ...listed, ...endOfField()];
  }

  private glossary(): FileChild[] {
    const { glossary, words } = this.source;
    if (glossary.length === 0) return [];
    return [
      new Paragraph({ heading: HeadingLevel.HEADING_1, text: words.glossary }),
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
    // What leads to another heading stands at no place of its own.
    const led = leadingMarks(index, words).flatMap((each) => hiddenField(`XE ${each}`));
    return [
      new Paragraph({ heading: HeadingLevel.HEADING_1, text: words.index }),
      ...index.flatMap((group, at) => [
        new Paragraph({
          style: 'IndexLetter',
          children: [
            ...(at === 0 ? [...led, ...fieldBegin('INDEX \\h "A" \\e ", "')] : []),
            new TextRun(group.letter === '' ? words.symbols : group.letter),
          ],
        }),
        ...entries(group.entries, 0),
      ]),
      ...endOfField(),
    ];
  }
}

/** The names under which captions are counted. */
type SequenceName = 'Figure' | 'Table' | 'Example';

/** All headings of an index, each as marks say it: after those that it stands below, colons between. */
function eachHeading(index: PagedDocument['index'], on: (entry: PagedIndexEntry, mark: string) => void): void {
  const visit = (entries: readonly PagedIndexEntry[], above: string): void => {
    for (const entry of entries) {
      const own = above + escaped(entry.heading).replaceAll(':', '\\:');
      on(entry, `"${own}"`);
      visit(entry.entries, `${own}:`);
    }
  };
  for (const { entries } of index) visit(entries, '');
}

/** What marks of the index say, by the places where they stand. */
function indexMarks(index: PagedDocument['index']): Map<string, string[]> {
  const marks = new Map<string, string[]>();
  eachHeading(index, ({ places }, mark) => {
    for (const at of places) marks.set(at, [...(marks.get(at) ?? []), mark]);
  });
  return marks;
}

/** What marks say of headings that lead to others. */
function leadingMarks(index: PagedDocument['index'], words: PagedDocument['words']): readonly string[] {
  const marks: string[] = [];
  eachHeading(index, ({ see, seeAlso }, mark) => {
    for (const each of see) marks.push(`${mark} \\t ${quoted(`${words.see} ${each}`)}`);
    for (const each of seeAlso) marks.push(`${mark} \\t ${quoted(`${words.seeAlso} ${each}`)}`);
  });
  return marks;
}

const none = { style: BorderStyle.NONE, size: 0, color: 'auto' };

/** The lines of a table. */
function bordersOf({ tableRules, colours }: PagedLook, own: string | undefined): ITableBordersOptions {
  const rules = own ?? tableRules;
  const line = { style: BorderStyle.SINGLE, size: 4, color: colours.line.replace('#', '') };
  const [across, down] = [rules === 'none' ? none : line, rules === 'grid' ? line : none];
  return { top: across, bottom: across, left: down, right: down, insideHorizontal: across, insideVertical: down };
}

/** What lies behind a cell. */
function shadeOf(
  { tableHead, tableStripes, colours, stamps }: PagedLook,
  {
    isHead,
    isEven,
    stamp = '',
  }: { readonly isHead: boolean; readonly isEven: boolean; readonly stamp: string | undefined },
): { readonly shading?: { readonly fill: string } } {
  const fill = (colour: string) => ({ shading: { fill: colour.replace('#', '') } });
  if (isHead) return tableHead === 'line' ? {} : fill(tableHead === 'accent' ? colours.accent : colours.tint);
  if (stamps[stamp]?.frame === 'tint') return fill(colours.tint);
  return tableStripes && isEven ? fill(colours.tint) : {};
}

/** Ends a field that holds paragraphs. */
const endOfField = (): FileChild[] => [new Paragraph({ style: 'Anchor', children: [fieldMark('end')] })];

/** Tables that follow each other would be one without something between. */
const afterTable = [new Paragraph({ style: 'Anchor', alignment: AlignmentType.LEFT })];

/** Text as runs: lines of listings are lines of one paragraph. */
function runs(text: string, look: IRunOptions): TextRun[] {
  return text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .map((line, at) => new TextRun({ ...look, text: line, ...(at > 0 ? { break: 1 } : {}) }));
}
