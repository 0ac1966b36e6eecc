import {
  isImageBody,
  isLinkBody,
  isVariableBody,
  type ComponentBody,
  type ImageBody,
  type ImageFile,
} from '../model/component.js';
import { kinds, type NodeKind } from '../model/kinds.js';
import {
  childrenOf,
  makeNode,
  makeText,
  numberAttr,
  textAttr,
  textOf,
  withContent,
  type ContentMark,
  type ContentNode,
} from '../model/node.js';
import type { OutlineEntry, VariableValues } from '../model/publication.js';
import { joinSpaces } from '../assemble/join-spaces.js';
import { truth } from '../select/algebra.js';
import { remainsOf } from '../select/select.js';
import { keptGrid, selectGrid } from '../select/table-grid.js';
import { withoutValue, type GivenUp, type LeftOfCondition } from '../variation/give-up.js';
import { conditionOn } from '../variation/stamps.js';
import { columnsOf, type TableColumn } from './body.js';
import { contentSchema } from './schema.js';

/** Something that was only for the value that is given up, and goes with it. */
export interface LostPassage {
  /** The id of the nearest block, or of the outline entry; null where there is none. */
  readonly place: string | null;
  /** Its first words. */
  readonly text: string;
}

/** What became of something in which conditions named a value. */
export interface WithoutValue<T> {
  /** The very same where nothing in it named the value. */
  readonly result: T;
  /** How many conditions were rewritten. */
  readonly conditions: number;
  readonly lost: readonly LostPassage[];
  /** Whether all of it was only for the value: it is given back as it was. */
  readonly onlyForIt: boolean;
}

const firstWords = 120;

/** A branch decides for the ones after it, and a cell keeps its place in the table, whether anything is left in them or not. */
const mustStay: ReadonlySet<NodeKind> = new Set(['branch', 'table_cell', 'table_header']);

/**
 * A body in which no condition names a value any more. What could only be in where the value is goes, as it goes from
 * a deliverable: spaces join, and what holds nothing any more goes too.
 */
export function bodyWithoutValue(body: ComponentBody, givenUp: GivenUp): WithoutValue<ComponentBody> {
  const rewriter = new Rewriter(givenUp);
  return rewriter.done(body, rewriter.body(body));
}

/** An outline in which no condition names a value any more: entries that are only for it go, with all that stands below. */
export function entriesWithoutValue(
  entries: readonly OutlineEntry[],
  givenUp: GivenUp,
): WithoutValue<readonly OutlineEntry[]> {
  const rewriter = new Rewriter(givenUp);
  return rewriter.done(entries, rewriter.entries(entries));
}

/** Values of variables in which no condition names a value any more. */
export function valuesWithoutValue(values: VariableValues, givenUp: GivenUp): WithoutValue<VariableValues> {
  const rewriter = new Rewriter(givenUp);
  return rewriter.done(values, rewriter.values(values));
}

class Rewriter {
  private readonly lost: LostPassage[] = [];
  private conditions = 0;
  private onlyForIt = false;
  private readonly algebra = truth((when) => when === null || withoutValue(when, this.givenUp).kind !== 'never');

  constructor(private readonly givenUp: GivenUp) {}

  done<T>(before: T, after: T): WithoutValue<T> {
    const { lost, conditions, onlyForIt } = this;
    return { result: conditions === 0 || onlyForIt ? before : after, conditions, lost, onlyForIt };
  }

  body(body: ComponentBody): ComponentBody {
    if (isLinkBody(body)) return body;
    if (isImageBody(body)) return this.image(body);
    if (isVariableBody(body)) {
      const rules = body.rules.flatMap((rule) => {
        const left = rule.when === null ? null : this.left(rule.when);
        if (left?.kind === 'never') {
          this.lose(null, textOf(rule.value));
          return [];
        }
        const when = left === null || left.kind === 'always' ? null : left.when;
        return { ...rule, when, value: this.root(rule.value) };
      });
      return { ...body, default: body.default && this.root(body.default), rules };
    }
    return this.root(body);
  }

  /** A file for every case takes the place of the one that stood where none fitted, which nothing shows any more. */
  private image(body: ImageBody): ImageBody {
    const versions: { when: string; file: ImageFile }[] = [];
    for (const { when, file } of body.versions) {
      const left = this.left(when);
      if (left.kind === 'condition') versions.push({ when: left.when, file });
      else if (left.kind === 'never') this.lose(null, 'one of its files');
      else {
        this.lose(null, 'its file for all other cases');
        return { ...body, file, versions };
      }
    }
    return { ...body, versions };
  }

  entries(entries: readonly OutlineEntry[]): readonly OutlineEntry[] {
    return entries.flatMap((entry) => {
      const left = entry.when ? this.left(entry.when) : null;
      if (left?.kind === 'never') {
        this.lose(entry.id, entry.title ?? entry.topic ?? entry.link ?? entry.publication ?? '');
        return [];
      }
      return {
        ...entry,
        ...(left ? { when: left.kind === 'condition' ? left.when : null } : {}),
        ...(entry.values ? { values: this.values(entry.values) } : {}),
        ...(entry.entries ? { entries: this.entries(entry.entries) } : {}),
      };
    });
  }

  values(values: VariableValues): VariableValues {
    return Object.fromEntries(Object.entries(values).map(([key, value]) => [key, this.root(value)]));
  }

  /** What is left of a condition; one that is rewritten counts. */
  private left(when: string): LeftOfCondition {
    const left = withoutValue(when, this.givenUp);
    if (left.kind !== 'condition' || left.when !== when) this.conditions += 1;
    return left;
  }

  private lose(place: string | null, text: string): void {
    const short = text.length > firstWords ? `${text.slice(0, firstWords).replace(/\S*$/, '')}…` : text;
    this.lost.push({ place, text: short.trim() || '…' });
  }

  /** A body or value. */
  private root(root: ContentNode): ContentNode {
    const own = textAttr(root, 'when');
    const left = own ? this.left(own) : null;
    const inner = this.inside(limited(root, left), null);
    if (left?.kind === 'never' || !isValid(inner)) this.onlyForIt = true;
    return inner;
  }

  /** A node with what is left in it; null where it goes. */
  private node(node: ContentNode, around: string | null): ContentNode | null {
    const place = textAttr(node, 'id') ?? around;
    const lostBefore = this.lost.length;
    const goes = (): null => {
      this.lost.length = lostBefore;
      this.lose(place, textOf(node) || textAttr(node, 'component') || node.type);
      return null;
    };
    const own = textAttr(node, 'when');
    const left = own ? this.left(own) : null;
    if (left?.kind === 'never') return goes();
    const marks: ContentMark[] = [];
    for (const mark of node.marks ?? []) {
      const when = mark.type === 'condition' ? textAttr(mark, 'when') : null;
      const ofMark = when === null ? null : this.left(when);
      if (ofMark?.kind === 'never') return goes();
      if (ofMark?.kind === 'condition') marks.push({ ...mark, attrs: { ...mark.attrs, when: ofMark.when } });
      else if (ofMark === null) marks.push(mark);
    }
    const marked = node.marks ? { ...limited(node, left), marks } : limited(node, left);
    const inner = this.inside(marked, place);
    if (inner === marked || (isValid(inner) && remains(inner) && !isEmptied(inner))) return inner;
    return mustStay.has(node.type) ? this.filled(inner) : goes();
  }

  /** The same node with what is left of its children. */
  private inside(node: ContentNode, place: string | null): ContentNode {
    if (node.type === 'table_grid') return this.grid(node, place);
    const before = childrenOf(node);
    const kept: ContentNode[] = [];
    const gaps: number[] = [];
    for (const child of before) {
      const left = this.node(child, place);
      if (left) kept.push(left);
      else gaps.push(kept.length);
    }
    if (kept.length === before.length && kept.every((each, at) => each === before[at])) return node;
    return withContent(node, node.type === 'code_block' ? kept : joined(kept, gaps));
  }

  private grid(grid: ContentNode, place: string | null): ContentNode {
    const rows = childrenOf(grid);
    const columns = columnsOf(grid);
    const isOut = (when: string | null | undefined): boolean => !this.algebra.holds(when || null);
    const gone = [...rows.map((row) => isOut(conditionOn(row))), ...columns.map(({ when }) => isOut(when))];
    const left = gone.includes(true) ? this.withoutGone(grid, place) : { rows, columns };
    this.conditions += gone.filter((each) => each).length;
    const content = left.rows.flatMap((row) => this.node(row, place) ?? []);
    if (columns.length === 0) {
      const isSame = content.length === rows.length && content.every((row, at) => row === rows[at]);
      return isSame ? grid : { ...grid, content };
    }
    const limitedColumns = left.columns.map((column) => {
      const ofColumn = column.when ? this.left(column.when) : null;
      return ofColumn === null ? column : { ...column, when: ofColumn.kind === 'condition' ? ofColumn.when : null };
    });
    return { ...grid, attrs: { ...grid.attrs, columns: limitedColumns }, content };
  }

  /** A grid without the rows and columns that are only for the value. */
  private withoutGone(
    grid: ContentNode,
    place: string | null,
  ): { readonly rows: readonly ContentNode[]; readonly columns: readonly TableColumn[] } {
    const selection = selectGrid<boolean, ContentNode>(this.algebra, grid, true);
    if (!selection.remains) return { rows: [], columns: [] };
    childrenOf(grid).forEach((row, at) => {
      if (!selection.rows[at]) this.lose(place, textOf(row));
    });
    selection.columns.forEach((stays, at) => {
      const cell = stays ? undefined : selection.cells.find(({ column, colspan }) => column === at && colspan === 1);
      if (cell) this.lose(place, textOf(cell.cell));
    });
    const { rows, columns } = keptGrid(grid, selection);
    return {
      rows: rows.map(({ row, cells }) => ({
        ...row,
        content: cells.map(({ cell, rowspan, colspan }) =>
          numberAttr(cell, 'rowspan', 1) === rowspan && numberAttr(cell, 'colspan', 1) === colspan
            ? cell
            : { ...cell, attrs: { ...cell.attrs, rowspan, colspan, colwidth: null } },
        ),
      })),
      columns,
    };
  }

  /** A node that has to stay: with an empty line where it holds nothing. */
  private filled(node: ContentNode): ContentNode {
    if (isValid(node)) return node;
    const filled = { ...node, content: [...childrenOf(node), makeNode('paragraph')] };
    return isValid(filled) ? filled : node;
  }
}

function limited(node: ContentNode, left: LeftOfCondition | null): ContentNode {
  if (left === null) return node;
  return { ...node, attrs: { ...node.attrs, when: left.kind === 'condition' ? left.when : null } };
}

/** Spaces join as in deliverables, but only between words that are always in: others may come between them. */
function joined(kept: readonly ContentNode[], gaps: readonly number[]): readonly ContentNode[] {
  const isSure = (node: ContentNode | undefined): boolean =>
    !node || (node.text !== undefined && !node.marks?.some((mark) => conditionOn(mark) !== null));
  // Spaces alone do not make a line.
  if (gaps.length > 0 && kept.every(({ text }) => text !== undefined && text.trim() === '')) return [];
  const sure = gaps.filter((gap) => isSure(kept[gap - 1]) && isSure(kept[gap]));
  return joinSpaces(kept, sure, (node, text) => makeText(text, node.marks));
}

/** Whether what is in a node may stand in it. */
function isValid({ type, content }: ContentNode): boolean {
  const kind = contentSchema.nodes[type];
  const children = (content ?? []).map((child) => contentSchema.nodes[child.type]);
  let match = kind?.contentMatch ?? null;
  for (const child of children) match = child && match ? match.matchType(child) : null;
  return match?.validEnd ?? false;
}

/** Whether all of a line went that is no heading. */
const isEmptied = ({ type, content }: ContentNode): boolean =>
  content?.length === 0 && 'line' in kinds[type] && !('heading' in kinds[type]);

const always = truth(() => true);

/** Whether a node still stands for itself: a list has an item, a figure a picture. */
function remains(node: ContentNode): boolean {
  const parts = childrenOf(node).map((child) => ({ node: child, set: true }));
  return !('remains' in kinds[node.type]) || remainsOf(always, node.type, parts, true);
}
