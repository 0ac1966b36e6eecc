import type { AssembledNode } from '../../assemble/assembled.js';
import { topicHeading } from '../../assemble/assemble-content.js';
import { columnsOf } from '../../content/body.js';
import { childrenOf, numberAttr, textAttr, type ContentMark } from '../../content/node.js';
import type { AdmonitionKind } from '../../content/schema.js';
import { linked, type PreparedNode } from '../../content/prepared.js';
import type { ImageFile } from '../../library/component.js';
import { fillTemplate } from '../../number/design.js';
import { type Label, type NumberedPage, type NumberedPublication } from '../../number/numbered.js';
import { anchorFor, markerAnchor } from '../../number/page-notes.js';
import { plainText } from '../../number/plain-text.js';
import { outputWords, type OutputWords } from '../words.js';
import { escapeHtml, safeHref } from './escape.js';

/** File name of an image in the deliverable. */
export function imageFileName(file: ImageFile): string {
  const endings: Readonly<Record<string, string>> = {
    'image/svg+xml': 'svg',
    'image/png': 'png',
    'image/jpeg': 'jpg',
    'image/gif': 'gif',
    'image/webp': 'webp',
  };
  return `images/${file.digest.slice(0, 16)}.${endings[file.mediaType] ?? 'bin'}`;
}

/** The HTML of a page's content: what stands in `<main>`. */
export function renderPageContent(publication: NumberedPublication, page: NumberedPage): string {
  return new PageRenderer(publication, page).page();
}

/** The HTML of a title of a page as it stands in a link that leads to it, such as in contents. */
export function renderLinkText(
  publication: NumberedPublication,
  page: NumberedPage,
  nodes: readonly AssembledNode[],
): string {
  return new PageRenderer(publication, page).inline(nodes, {
    component: page.topic,
    placements: [],
    level: 1,
    elsewhere: true,
    inLink: true,
  });
}

/** The HTML of blocks of a page as they stand elsewhere, such as a definition in the glossary. */
export function renderBlocks(
  publication: NumberedPublication,
  page: NumberedPage,
  nodes: readonly AssembledNode[],
  at: { readonly component: string; readonly placements: readonly string[] },
): string {
  return new PageRenderer(publication, page).blocks(nodes, { ...at, level: 2, elsewhere: true });
}

/** The number part of a heading or caption; empty where there is none. */
export function headingNumber(publication: NumberedPublication, label: Label): string {
  if (label.number === '') return '';
  return fillTemplate(publication.design.templates[label.kind].heading, { number: label.number, title: '' }).trim();
}

interface Place {
  readonly component: string;
  readonly placements: readonly string[];
  /** Heading level, 1 to 6. */
  readonly level: number;
  /** In a footnote: an index marker has its place where the footnote is called. */
  readonly footnote?: boolean;
  /** Not on its own page: nothing there can be led to, and what leads to the page names it. */
  readonly elsewhere?: boolean;
  /** In a link, where no other link can stand. */
  readonly inLink?: boolean;
}

const simpleMarks: Readonly<Record<string, readonly [string, string]>> = {
  strong: ['<strong>', '</strong>'],
  emphasis: ['<em>', '</em>'],
  quote: ['“', '”'],
  defined_term: ['<dfn>', '</dfn>'],
  cited_title: ['<cite>', '</cite>'],
  interface_label: ['<b class="label">', '</b>'],
  key: ['<kbd>', '</kbd>'],
  superscript: ['<sup>', '</sup>'],
  subscript: ['<sub>', '</sub>'],
};

/** The HTML of a block that reads the same wherever these are the same. */
interface RenderedBlock {
  readonly words: OutputWords;
  readonly level: number;
  /** How the headings and captions in it begin. */
  readonly numbers: string;
  readonly html: string;
}

class PageRenderer {
  private readonly words: OutputWords;
  /** The ids of blocks without a label that references lead to on this page. */
  private readonly wanted: ReadonlySet<string> | undefined;
  private nextLabel = 0;
  private nextMarker = 0;
  private footnotes: ReadonlyMap<string, { node: AssembledNode; place: Place }> | null = null;
  private readonly footnoteNumbers = new Map<string, number>();

  constructor(
    private readonly publication: NumberedPublication,
    private readonly current: NumberedPage,
  ) {
    this.words = outputWords(publication.language);
    this.wanted = publication.anchors.get(current.label.page);
  }

  page(): string {
    const place: Place = { component: this.current.topic, placements: [], level: 2 };
    const title = this.heading(1, this.current.label, '', place);
    const content = this.blocks(this.current.blocks, place);
    return `${title}${content}${this.footnoteList()}`;
  }

  private heading(level: number, label: Label, id: string, place: Place): string {
    const tag = `h${Math.min(level, 6)}`;
    const number = headingNumber(this.publication, label);
    const before = number === '' ? '' : `<span class="number">${escapeHtml(number)}</span> `;
    return `<${tag}${id}>${before}${this.inline(label.title, place)}</${tag}>\n`;
  }

  blocks(nodes: readonly AssembledNode[], place: Place): string {
    let html = '';
    for (const node of nodes) html += this.block(node, place);
    return html;
  }

  private block(node: AssembledNode, place: Place): string {
    const { traits, labels } = node as Partial<PreparedNode>;
    const inPlace = this.wanted !== undefined || traits === undefined || (traits & linked) !== 0;
    if (inPlace || labels === undefined || (labels > 0 && place.placements.length > 0)) return this.render(node, place);
    const { words } = this;
    const { level } = place;
    const numbers = this.numbersAhead(labels);
    const { html: known } = node as { html?: RenderedBlock };
    if (known?.words === words && (labels === 0 || (known.level === level && known.numbers === numbers))) {
      this.nextLabel += labels;
      return known.html;
    }
    const html = this.render(node, place);
    // Asking for a sign puts the text in one piece, which is quicker to copy than one of many pieces.
    html.charCodeAt(0);
    (node as { html?: RenderedBlock }).html = { words, level, numbers, html };
    return html;
  }

  /** The numbers and HTML ids of the next labels. */
  private numbersAhead(count: number): string {
    let numbers = '';
    for (let at = 0; at < count; at += 1) {
      const label = this.current.labels[this.nextLabel + at];
      if (label) numbers += `${headingNumber(this.publication, label)}#${label.anchor ?? ''}|`;
    }
    return numbers;
  }

  private render(node: AssembledNode, place: Place): string {
    switch (node.type) {
      case 'paragraph':
        return `<p${this.targetId(node, place)}>${this.inline(childrenOf(node), place)}</p>\n`;
      case 'code_block':
        return `<pre${this.targetId(node, place)}><code>${this.inline(childrenOf(node), place)}</code></pre>\n`;
      case 'placed':
        return this.placed(node, place);
      case 'slot':
        return this.slot(node, place);
      case 'section': {
        const label = this.takeLabel();
        const [first, ...rest] = childrenOf(node);
        const body = first?.type === 'title' ? rest : childrenOf(node);
        const heading = this.heading(place.level, label, '', place);
        const inner = this.blocks(body, { ...place, level: place.level + 1 });
        return `<section id="${escapeHtml(label.anchor ?? '')}">\n${heading}${inner}</section>\n`;
      }
      case 'bullet_list':
        return this.wrap('ul', node, place);
      case 'ordered_list': {
        const start = numberAttr(node, 'start', 1);
        const style = textAttr(node, 'style') ?? 'decimal';
        const attrs = `${start === 1 ? '' : ` start="${start}"`}${style === 'decimal' ? '' : ` class="${escapeHtml(style)}"`}`;
        return `<ol${this.targetId(node, place)}${attrs}>\n${this.blocks(childrenOf(node), place)}</ol>\n`;
      }
      case 'list_item':
        return `<li${this.targetId(node, place)}>${this.tight(childrenOf(node), place)}</li>\n`;
      case 'steps':
        return `<ol class="steps"${this.targetId(node, place)}>\n${this.blocks(childrenOf(node), place)}</ol>\n`;
      case 'step': {
        const label = this.takeLabel();
        return `<li id="${escapeHtml(label.anchor ?? '')}">${this.tight(childrenOf(node), place)}</li>\n`;
      }
      case 'definition_list':
        return this.wrap('dl', node, place);
      case 'definition':
        return this.blocks(childrenOf(node), place);
      case 'term':
        return `<dt>${this.inline(childrenOf(node), place)}</dt>\n`;
      case 'description':
        return `<dd>${this.tight(childrenOf(node), place)}</dd>\n`;
      case 'table':
        return this.table(node, place);
      case 'figure':
        return this.figure(node, place);
      case 'picture':
        return this.picture(node);
      case 'admonition':
        return this.admonition(node, place);
      case 'quotation': {
        const by = textAttr(node, 'attribution');
        const source = by ? `<footer>${escapeHtml(by)}</footer>\n` : '';
        return `<blockquote${this.targetId(node, place)}>\n${this.blocks(childrenOf(node), place)}${source}</blockquote>\n`;
      }
      case 'example':
        return this.example(node, place);
      case 'footnote':
        return '';
      default:
        return '';
    }
  }

  private wrap(tag: string, node: AssembledNode, place: Place): string {
    return `<${tag}${this.targetId(node, place)}>\n${this.blocks(childrenOf(node), place)}</${tag}>\n`;
  }

  /** The content of a list item or cell: one paragraph alone goes without its own element. */
  private tight(nodes: readonly AssembledNode[], place: Place): string {
    const [only] = nodes;
    if (nodes.length === 1 && only?.type === 'paragraph' && this.targetId(only, place) === '') {
      return this.inline(childrenOf(only), place);
    }
    return this.blocks(nodes, place);
  }

  private placed(node: AssembledNode, place: Place): string {
    const component = textAttr(node, 'component') ?? '';
    const inner: Place = { ...place, component, placements: [...place.placements, textAttr(node, 'placement') ?? ''] };
    return this.placedStart(node, inner) + this.blocks(childrenOf(node), inner);
  }

  /** Where a reference to something placed without its title leads to. */
  private placedStart(node: AssembledNode, inner: Place): string {
    if (!this.wanted) return '';
    const anchor = anchorFor(inner.placements, topicHeading);
    const [only] = childrenOf(node);
    const hasHeading = only?.type === 'section' && textAttr(only, 'id') === topicHeading;
    return !hasHeading && this.wanted.has(anchor) ? `<span id="${escapeHtml(anchor)}"></span>` : '';
  }

  /** All candidates of a slot; one is shown, and the site's script changes which. */
  private slot(node: AssembledNode, place: Place): string {
    const stated = textAttr(node, 'stated');
    const candidates = childrenOf(node).map((candidate) => {
      const hidden = textAttr(candidate, 'component') === stated ? '' : ' hidden';
      return `<div${hidden}>\n${this.placed(candidate, place)}</div>\n`;
    });
    const id = escapeHtml(anchorFor(place.placements, textAttr(node, 'id') ?? ''));
    return `<div class="slot" data-slot="${id}">\n${candidates.join('')}</div>\n`;
  }

  private table(node: AssembledNode, place: Place): string {
    const label = this.takeLabel();
    const caption = childrenOf(node).find((child) => child.type === 'caption');
    const grid = childrenOf(node).find((child) => child.type === 'table_grid');
    const rows = grid ? childrenOf(grid) : [];
    const isHeader = (row: AssembledNode): boolean => row.attrs?.['header'] === true;
    const head = rows.filter(isHeader);
    const body = rows.filter((row) => !isHeader(row));
    const widths = grid ? columnsOf(grid).map((column) => column.width ?? null) : [];
    const columns = widths.some((width) => width !== null)
      ? `<colgroup>${widths.map((width) => (width === null ? '<col>' : `<col class="w${Math.round(width)}">`)).join('')}</colgroup>\n`
      : '';
    return (
      `<div class="table" id="${escapeHtml(label.anchor ?? '')}">\n<table>\n` +
      (caption ? `<caption>${this.caption(label, place)}</caption>\n` : '') +
      columns +
      (head.length > 0 ? `<thead>\n${head.map((row) => this.row(row, 'th', place)).join('')}</thead>\n` : '') +
      `<tbody>\n${body.map((row) => this.row(row, null, place)).join('')}</tbody>\n</table>\n</div>\n`
    );
  }

  private row(row: AssembledNode, tagOfAll: string | null, place: Place): string {
    const cells = childrenOf(row).map((cell) => {
      const tag = tagOfAll ?? (cell.type === 'table_header' ? 'th' : 'td');
      const rowspan = numberAttr(cell, 'rowspan', 1);
      const colspan = numberAttr(cell, 'colspan', 1);
      const align = textAttr(cell, 'align');
      const attrs =
        (rowspan > 1 ? ` rowspan="${rowspan}"` : '') +
        (colspan > 1 ? ` colspan="${colspan}"` : '') +
        (align === 'center' || align === 'right' ? ` class="${align}"` : '') +
        (tag === 'th' && tagOfAll === null ? ' scope="row"' : '');
      return `<${tag}${attrs}>${this.tight(childrenOf(cell), place)}</${tag}>\n`;
    });
    return `<tr>\n${cells.join('')}</tr>\n`;
  }

  private caption(label: Label, place: Place): string {
    const number = headingNumber(this.publication, label);
    return `${number === '' ? '' : `<span class="number">${escapeHtml(number)}</span> `}${this.inline(label.title, place)}`;
  }

  private figure(node: AssembledNode, place: Place): string {
    const label = this.takeLabel();
    const pictures = childrenOf(node).filter((child) => child.type !== 'caption');
    const caption = childrenOf(node).some((child) => child.type === 'caption')
      ? `<figcaption>${this.caption(label, place)}</figcaption>\n`
      : '';
    return `<figure id="${escapeHtml(label.anchor ?? '')}">\n${this.blocks(pictures, place)}${caption}</figure>\n`;
  }

  private picture(node: AssembledNode): string {
    const file = node.attrs?.['file'] as ImageFile;
    const size = file.width && file.height ? ` width="${file.width}" height="${file.height}"` : '';
    return `<img src="${imageFileName(file)}" alt="${escapeHtml(textAttr(node, 'alt') ?? '')}"${size}>\n`;
  }

  private admonition(node: AssembledNode, place: Place): string {
    const kind = (textAttr(node, 'kind') ?? 'note') as AdmonitionKind;
    const [first, ...rest] = childrenOf(node);
    const titled = first?.type === 'title';
    const word = escapeHtml(this.words.admonitions[kind]);
    const title = titled ? `<p class="title">${this.inline(childrenOf(first), place)}</p>\n` : '';
    const inner = this.blocks(titled ? rest : childrenOf(node), place);
    return `<aside class="admonition ${kind}"${this.targetId(node, place)}>\n<p class="signal">${word}</p>\n${title}${inner}</aside>\n`;
  }

  private example(node: AssembledNode, place: Place): string {
    const label = this.takeLabel();
    const content = childrenOf(node);
    const titled = content[0]?.type === 'title';
    const caption = titled ? `<p class="title">${this.caption(label, place)}</p>\n` : '';
    return `<div class="example" id="${escapeHtml(label.anchor ?? '')}">\n${caption}${this.blocks(titled ? content.slice(1) : content, place)}</div>\n`;
  }

  /** Inline content as HTML; neighbours with the same outer marks share their elements. */
  inline(nodes: readonly AssembledNode[], place: Place): string {
    let html = '';
    let open: readonly ContentMark[] = [];
    for (const node of nodes) {
      const marks = node.marks ? renderedMarks(node.marks, place.inLink) : noMarks;
      let shared = 0;
      while (
        shared < open.length &&
        shared < marks.length &&
        equalMark(open[shared] as ContentMark, marks[shared] as ContentMark)
      ) {
        shared += 1;
      }
      for (let index = open.length - 1; index >= shared; index -= 1) html += closeMark(open[index] as ContentMark);
      for (let index = shared; index < marks.length; index += 1) html += openMark(marks[index] as ContentMark);
      open = marks;
      html += node.text !== undefined ? escapeHtml(node.text) : this.leaf(node, place);
    }
    for (let index = open.length - 1; index >= 0; index -= 1) html += closeMark(open[index] as ContentMark);
    return html;
  }

  private leaf(node: AssembledNode, place: Place): string {
    switch (node.type) {
      case 'line_break':
        return '<br>';
      case 'image':
        return this.picture(node).trimEnd();
      case 'variable':
        return textAttr(node, 'key') === '@chapter-title' ? escapeHtml(plainText(this.current.chapter.title)) : '';
      case 'cross_reference':
        return this.crossReference(node, place);
      case 'footnote_reference':
        return place.elsewhere ? '' : this.footnoteReference(node, place);
      case 'index_marker':
        if (place.footnote || place.elsewhere) return '';
        this.nextMarker += 1;
        return `<span id="${markerAnchor(this.nextMarker - 1)}"></span>`;
      case 'missing':
        return `<span class="missing">[${this.words.missing}: ${escapeHtml(textAttr(node, 'key') ?? '')}]</span>`;
      default:
        return '';
    }
  }

  private crossReference(node: AssembledNode, place: Place): string {
    const found = this.publication.reference({ entry: this.current.entry, ...place }, node);
    if (!found) {
      const name = textAttr(node, 'target') ?? textAttr(node, 'component') ?? '';
      return `<span class="missing">[${this.words.missing}: ${escapeHtml(name)}]</span>`;
    }
    const { label, text } = found;
    if (place.inLink) return escapeHtml(text);
    const fragment = label.anchor === null ? '' : `#${encodeURIComponent(label.anchor)}`;
    const onPage = label.page === this.current.label.page && !place.elsewhere;
    const file = onPage && fragment !== '' ? '' : encodeURIComponent(label.page);
    return `<a class="reference" href="${file}${fragment}">${escapeHtml(text)}</a>`;
  }

  private footnoteReference(node: AssembledNode, place: Place): string {
    this.footnotes ??= collectFootnotes(this.current);
    const anchor = anchorFor(place.placements, textAttr(node, 'target') ?? '');
    if (!this.footnotes.has(anchor)) return '';
    const first = !this.footnoteNumbers.has(anchor);
    if (first) this.footnoteNumbers.set(anchor, this.footnoteNumbers.size + 1);
    const number = this.footnoteNumbers.get(anchor) ?? 0;
    const id = first ? ` id="fr-${number}"` : '';
    return `<sup class="footnote"><a${id} href="#fn-${number}">[${number}]</a></sup>`;
  }

  private footnoteList(): string {
    if (this.footnoteNumbers.size === 0) return '';
    let items = '';
    // Footnotes may refer to further footnotes, which join the end of the list.
    for (const [anchor, number] of this.footnoteNumbers) {
      const found = this.footnotes?.get(anchor);
      if (!found) continue;
      const content = this.blocks(childrenOf(found.node), { ...found.place, footnote: true });
      items += `<div class="footnote" id="fn-${number}"><a href="#fr-${number}">[${number}]</a> ${content}</div>\n`;
    }
    return `<section class="footnotes" aria-label="${escapeHtml(this.words.footnotes)}">\n${items}</section>\n`;
  }

  private targetId(node: AssembledNode, place: Place): string {
    if (!this.wanted || place.elsewhere) return '';
    const id = textAttr(node, 'id');
    if (id === null) return '';
    const anchor = anchorFor(place.placements, id);
    return this.wanted.has(anchor) ? ` id="${escapeHtml(anchor)}"` : '';
  }

  private takeLabel(): Label {
    const label = this.current.labels[this.nextLabel];
    this.nextLabel += 1;
    if (!label) throw new Error('The page has fewer labels than numbered blocks.');
    return label;
  }
}

const noMarks: readonly ContentMark[] = [];

function renderedMarks(marks: readonly ContentMark[], inLink: boolean | undefined): readonly ContentMark[] {
  const isHidden = ({ type }: ContentMark): boolean => type === 'condition' || (inLink === true && type === 'link');
  return marks.some(isHidden) ? marks.filter((mark) => !isHidden(mark)) : marks;
}

function equalMark(a: ContentMark, b: ContentMark): boolean {
  return (
    a === b ||
    (a.type === b.type && textAttr(a, 'href') === textAttr(b, 'href') && textAttr(a, 'kind') === textAttr(b, 'kind'))
  );
}

function openMark(mark: ContentMark): string {
  const simple = simpleMarks[mark.type];
  if (simple) return simple[0];
  if (mark.type === 'link') return `<a href="${escapeHtml(safeHref(textAttr(mark, 'href') ?? ''))}">`;
  if (mark.type === 'code') {
    const kind = textAttr(mark, 'kind') ?? 'code';
    return kind === 'code' ? '<code>' : `<code class="${escapeHtml(kind)}">`;
  }
  return '';
}

function closeMark(mark: ContentMark): string {
  const simple = simpleMarks[mark.type];
  if (simple) return simple[1];
  if (mark.type === 'link') return '</a>';
  return mark.type === 'code' ? '</code>' : '';
}

function collectFootnotes(page: NumberedPage): ReadonlyMap<string, { node: AssembledNode; place: Place }> {
  const found = new Map<string, { node: AssembledNode; place: Place }>();
  const visit = (nodes: readonly AssembledNode[], place: Place): void => {
    for (const node of nodes) {
      if (node.type === 'footnote') {
        found.set(anchorFor(place.placements, textAttr(node, 'id') ?? ''), { node, place });
      }
      if (!node.content) continue;
      const inner =
        node.type === 'placed'
          ? {
              ...place,
              component: textAttr(node, 'component') ?? '',
              placements: [...place.placements, textAttr(node, 'placement') ?? ''],
            }
          : place;
      visit(node.content, inner);
    }
  };
  visit(page.blocks, { component: page.topic, placements: [], level: 6 });
  return found;
}
