import { childrenOf, makeNode, type ContentNode } from '../../model/node.js';
import { bothConditions } from '../../variation/condition-syntax.js';
import { captionAsTitle, isElement } from './elements.js';
import { conditioned, onlyBlocks, partsIn } from './parts.js';
import type { Context, Flow, ImportSession } from './session.js';
import { titleNode } from './titles.js';
import type { XmlElement, XmlNode } from './xml.js';

export function tableBlocks(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  const caption = element.children.some((node) => isElement(node, 'title', 'caption'))
    ? [
        makeNode(
          'caption',
          null,
          childrenOf(titleNode(session, { ...element, children: element.children.map(captionAsTitle) }, context)),
        ),
      ]
    : [];
  const attrs = { ...session.idAttr(element, context), ...linesOf(element.attrs) };
  const groups = element.children.filter((node): node is XmlElement => isElement(node, 'tgroup'));
  const bodies = groups.length > 0 ? groups : [element];
  return bodies.flatMap((group, index) => {
    const grid = gridOf(session, group, context);
    if (!grid) return [];
    return [makeNode('table', index === 0 ? attrs : null, index === 0 ? [...caption, grid] : [grid])];
  });
}

/**
 * The lines that a table says it has, where it says so wholly: CALS tables by frame, rowsep and colsep, HTML tables by frame and
 * rules (DocBook 5.1, elements table and informaltable).
 */
function linesOf({ frame, rowsep, colsep, rules, border }: XmlElement['attrs']): { readonly lines?: string } {
  if (frame === 'none' && rowsep === '0' && colsep === '0') return { lines: 'none' };
  if (frame === 'all' && rowsep === '1' && colsep === '1') return { lines: 'grid' };
  if (rowsep === '1' && colsep === '0' && frame !== 'all' && frame !== 'sides') return { lines: 'rows' };
  if (rules === 'all') return { lines: 'grid' };
  if (rules === 'rows') return { lines: 'rows' };
  return rules === 'none' || border === '0' ? { lines: 'none' } : {};
}

function gridOf(session: ImportSession, group: XmlElement, context: Context): ContentNode | null {
  const columnNames = new Map<string, number>();
  const specs = group.children.filter((node): node is XmlElement => isElement(node, 'colspec', 'col'));
  specs.forEach((spec, index) => {
    const name = spec.attrs['colname'];
    if (name) columnNames.set(name, Number(spec.attrs['colnum'] ?? index + 1));
  });
  const conditions = specs.map((spec) => session.conditionOn(spec));
  const widths = percentages(specs.map((spec) => spec.attrs['colwidth'] ?? spec.attrs['width'] ?? null));
  const isDescribed = conditions.some((when) => when !== null) || widths.some((width) => width !== null);
  const columns = isDescribed ? conditions.map((when, at) => ({ width: widths[at] ?? null, when })) : null;
  const rows: ContentNode[] = [];
  const addRows = (nodes: readonly XmlNode[], header: boolean, when: string | null): void => {
    for (const part of partsIn(session, nodes)) {
      const own = bothConditions(when, session.conditionOn(part));
      if (part.name === 'thead') addRows(part.children, true, own);
      else if (part.name === 'tbody') addRows(part.children, header, own);
      else if (part.name === 'row' || part.name === 'tr')
        rows.push(rowOf(session, part, header, own, columnNames, context));
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

function rowOf(
  session: ImportSession,
  row: XmlElement,
  header: boolean,
  when: string | null,
  columnNames: ReadonlyMap<string, number>,
  context: Context,
): ContentNode {
  const cells = partsIn(session, row.children).map((cell) => {
    const { attrs } = cell;
    const first = columnNames.get(attrs['namest'] ?? '');
    const last = columnNames.get(attrs['nameend'] ?? '');
    const colspan = first && last ? last - first + 1 : Number(attrs['colspan'] ?? 1);
    const rowspan = attrs['morerows'] ? Number(attrs['morerows']) + 1 : Number(attrs['rowspan'] ?? 1);
    const id = session.idOf(cell);
    if (id !== null) context.anchors.push(id);
    const content = onlyBlocks(
      session,
      conditioned(session.flow(cell.children, context), session.conditionOn(cell)),
      cell,
    );
    const type = header || cell.name === 'th' ? 'table_header' : 'table_cell';
    return makeNode(
      type,
      { colspan: colspan > 1 ? colspan : null, rowspan: rowspan > 1 ? rowspan : null, align: attrs['align'] ?? null },
      content.length > 0 ? content : [makeNode('paragraph')],
    );
  });
  return makeNode('table_row', { ...session.idAttr(row, context), when, header: header || null }, cells);
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
