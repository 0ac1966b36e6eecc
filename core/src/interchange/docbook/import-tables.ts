import { childrenOf, makeNode, makeText, type ContentNode } from '../../model/node.js';
import { keyFromTitle } from '../../model/component.js';
import { bothConditions } from '../../variation/condition-syntax.js';
import { isElement, captionAsTitle, baseName, xmlText } from './elements.js';
import { pathBeside } from './entities.js';
import { InlineImporter } from './import-inline.js';
import type { Context, Flow } from './import-session.js';
import type { XmlElement, XmlNode } from './xml.js';

/** Converts tables, figures and pictures. */
export abstract class TableImporter extends InlineImporter {
  protected abstract title(element: XmlElement, context: Context): ContentNode;
  /** The elements of a list or table, those that entities bring included. */
  protected abstract parts(nodes: readonly XmlNode[]): readonly XmlElement[];

  protected table(element: XmlElement, context: Context): readonly Flow[] {
    const caption = element.children.some((node) => isElement(node, 'title', 'caption'))
      ? [
          makeNode(
            'caption',
            null,
            childrenOf(this.title({ ...element, children: element.children.map(captionAsTitle) }, context)),
          ),
        ]
      : [];
    const attrs = this.idAttr(element, context);
    const groups = element.children.filter((node): node is XmlElement => isElement(node, 'tgroup'));
    const bodies = groups.length > 0 ? groups : [element];
    return bodies.flatMap((group, index) => {
      const grid = this.grid(group, context);
      if (!grid) return [];
      return [makeNode('table', index === 0 ? attrs : null, index === 0 ? [...caption, grid] : [grid])];
    });
  }

  protected grid(group: XmlElement, context: Context): ContentNode | null {
    const columnNames = new Map<string, number>();
    const specs = group.children.filter((node): node is XmlElement => isElement(node, 'colspec', 'col'));
    specs.forEach((spec, index) => {
      const name = spec.attrs['colname'];
      if (name) columnNames.set(name, Number(spec.attrs['colnum'] ?? index + 1));
    });
    const conditions = specs.map((spec) => this.conditionOn(spec));
    const widths = percentages(specs.map((spec) => spec.attrs['colwidth'] ?? spec.attrs['width'] ?? null));
    const isDescribed = conditions.some((when) => when !== null) || widths.some((width) => width !== null);
    const columns = isDescribed ? conditions.map((when, at) => ({ width: widths[at] ?? null, when })) : null;
    const rows: ContentNode[] = [];
    const addRows = (nodes: readonly XmlNode[], header: boolean, when: string | null): void => {
      for (const part of this.parts(nodes)) {
        const own = bothConditions(when, this.conditionOn(part));
        if (part.name === 'thead') addRows(part.children, true, own);
        else if (part.name === 'tbody') addRows(part.children, header, own);
        else if (part.name === 'row' || part.name === 'tr')
          rows.push(this.row(part, header, own, columnNames, context));
      }
    };
    addRows(
      group.children.map((node) =>
        node.kind === 'element' && node.name === 'tfoot' ? { ...node, name: 'tbody' } : node,
      ),
      false,
      null,
    );
    return rows.length > 0 ? makeNode('table_grid', { columns }, rows) : null;
  }

  protected row(
    row: XmlElement,
    header: boolean,
    when: string | null,
    columnNames: ReadonlyMap<string, number>,
    context: Context,
  ): ContentNode {
    const cells = this.parts(row.children).map((cell) => {
      const { attrs } = cell;
      const first = columnNames.get(attrs['namest'] ?? '');
      const last = columnNames.get(attrs['nameend'] ?? '');
      const colspan = first && last ? last - first + 1 : Number(attrs['colspan'] ?? 1);
      const rowspan = attrs['morerows'] ? Number(attrs['morerows']) + 1 : Number(attrs['rowspan'] ?? 1);
      const id = this.idOf(cell);
      if (id !== null) context.anchors.push(id);
      const content = this.onlyBlocks(
        this.conditioned(this.flow(cell.children, context), this.conditionOn(cell)),
        cell,
      );
      const type = header || cell.name === 'th' ? 'table_header' : 'table_cell';
      return makeNode(
        type,
        { colspan: colspan > 1 ? colspan : null, rowspan: rowspan > 1 ? rowspan : null, align: attrs['align'] ?? null },
        content.length > 0 ? content : [makeNode('paragraph')],
      );
    });
    return makeNode('table_row', { ...this.idAttr(row, context), when, header: header || null }, cells);
  }

  protected figure(element: XmlElement, context: Context): readonly Flow[] {
    const pictures: ContentNode[] = [];
    const collect = (node: XmlElement, when: string | null): void => {
      const own = bothConditions(when, node === element ? null : this.conditionOn(node));
      if (node.name === 'imagedata' || node.name === 'graphic') {
        const picture = this.image(node, this.altOf(element), own);
        if (picture) pictures.push(picture);
        return;
      }
      for (const child of node.children) if (child.kind === 'element') collect(child, own);
    };
    collect(element, null);
    if (pictures.length === 0) {
      const text = xmlText(element).replace(/\s+/g, ' ').trim();
      if (text !== '') this.note('A figure without a picture: its text was kept.', element);
      return text === '' ? [] : [makeNode('paragraph', null, [makeText(text)])];
    }
    const captionFrom = element.children.some((node) => isElement(node, 'title', 'caption'));
    const caption = captionFrom
      ? [
          makeNode(
            'caption',
            null,
            childrenOf(this.title({ ...element, children: element.children.map(captionAsTitle) }, context)),
          ),
        ]
      : [];
    return [makeNode('figure', this.idAttr(element, context), [...pictures, ...caption])];
  }

  protected altOf(element: XmlElement): string | null {
    let alt: string | null = null;
    const visit = (node: XmlNode): void => {
      if (node.kind !== 'element' || alt !== null) return;
      if (node.name === 'phrase' || node.name === 'alt' || node.name === 'textobject')
        alt = xmlText(node).replace(/\s+/g, ' ').trim() || null;
      else node.children.forEach(visit);
    };
    visit(element);
    return alt;
  }

  protected image(data: XmlElement, alt: string | null, when: string | null): ContentNode | null {
    const reference = this.attribute(data, 'fileref');
    if (!reference) return null;
    const path = pathBeside(data.file, reference, data.line);
    let image = this.images.get(path);
    if (!image) {
      const title = baseName(path);
      image = { key: this.newKey(keyFromTitle(title)), title, alt: alt ?? title, path };
      this.images.set(path, image);
    }
    const width = /^(\d{1,3})(?:\.\d+)?%$/.exec(data.attrs['width'] ?? data.attrs['contentwidth'] ?? '')?.[1];
    const share = width === undefined ? null : Math.min(100, Math.max(1, Number(width)));
    return makeNode('picture', { component: image.key, alt, when, width: share });
  }

  /** Sections cannot stand inside lists, cells and the like: their title becomes a paragraph there. */
  protected onlyBlocks(nodes: readonly Flow[], at: XmlElement): readonly Flow[] {
    return nodes.flatMap((node) => {
      if (node.type !== 'section') return [node];
      this.note(`A section inside <${at.name}> became paragraphs.`, at);
      const [title, ...rest] = childrenOf(node);
      return [makeNode('paragraph', null, title ? childrenOf(title) : []), ...this.onlyBlocks(rest, at)];
    });
  }

  protected ifAny(content: readonly Flow[], make: (content: readonly Flow[]) => Flow): readonly Flow[] {
    return content.length > 0 ? [make(content)] : [];
  }
}

/** The widths of columns in percent: of shares such as “2*”, of percentages, and not at all of anything else. */
function percentages(widths: readonly (string | null)[]): readonly (number | null)[] {
  if (widths.length === 0 || widths.some((width) => width === null)) return widths.map(() => null);
  const parts = widths.map((width) => /^\s*(\d*\.?\d*)\s*([*%])\s*$/.exec(width ?? ''));
  if (parts.some((part) => part === null)) return widths.map(() => null);
  const shares = parts.map((part) => Number(part?.[1] === '' ? 1 : part?.[1]));
  const sum = shares.reduce((total, share) => total + share, 0);
  return shares.map((share) => (sum > 0 ? Math.min(100, Math.round((100 * share) / sum)) : null));
}
