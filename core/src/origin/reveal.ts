import { prepareBody } from '../assemble/prepared.js';
import { columnsOf } from '../content/body.js';
import { known } from '../model/known.js';
import { contentBody, type Component, type ComponentKind, type Library } from '../model/component.js';
import { childrenOf, numberAttr, textAttr, type ContentMark, type ContentNode } from '../model/node.js';
import type { Source } from '../model/source.js';
import { truth, type Algebra } from '../select/algebra.js';
import { branchesOf } from '../select/select.js';
import { selectGrid } from '../select/table-grid.js';
import { conditionOn } from '../variation/stamps.js';
import type { Holds } from '../variation/chosen.js';

/**
 * A source whose topics and snippets show what one selection leaves out: what is out by a condition stands where it was
 * written, with the attribute `leftOut`; limited words keep their mark of a condition, with the attribute `leftOut`.
 * Ids are those that assembly gives.
 */
export function revealSource(source: Source, holds: Holds): Source {
  const { library } = source;
  const revealer = new Revealer(library, truth(holds));
  const revealed = new Map<Component, Component>();
  const reveal = (component: Component | undefined): Component | undefined => {
    const body = component && contentBody(component);
    if (!component || !body) return component;
    let made = revealed.get(component);
    // The kind stays, and the body is of the same kind.
    // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
    if (!made) revealed.set(component, (made = { ...component, body: revealer.body(body) } as Component));
    return made;
  };
  const shown: Library = {
    component: (key) => reveal(library.component(key)),
    revision: (key, revision) => reveal(library.revision(key, revision)),
    collection: (name) => library.collection(name).map((each) => known(reveal(each))),
  };
  return { ...source, library: shown };
}

class Revealer {
  constructor(
    private readonly library: Library,
    private readonly algebra: Algebra<boolean>,
  ) {}

  body(body: ContentNode): ContentNode {
    // What is prepared of a body is of the kinds of bodies.
    // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
    return known(this.node(prepareBody(body) as unknown as ContentNode, false)[0]);
  }

  /** A node as it is shown: several for a choice, whose cases all stand there. */
  private node(node: ContentNode, isOut: boolean): readonly ContentNode[] {
    const { algebra } = this;
    const { type, text } = node;
    const when = conditionOn(node);
    const out = isOut || (when !== null && !algebra.holds(when));
    if (type === 'choice')
      return branchesOf(algebra, node, !out).flatMap(({ node: branch, set }) =>
        childrenOf(branch).flatMap((child) => this.node(child, !set)),
      );
    // What is neither in nor there is not told of.
    if (out && this.isMissing(node)) return [];
    const isInline = type === 'image';
    const limits: readonly ContentMark[] = out && isInline ? [{ type: 'condition', attrs: { when } }] : [];
    const marks = [...(node.marks ?? []), ...limits].map((mark) => this.mark(mark));
    const marked = marks.length > 0 ? { marks } : {};
    if (text !== undefined) return [{ type, text, ...marked }];
    const attrs = { ...node.attrs, when: null, ...(out && !isInline ? { leftOut: true } : {}) };
    if (type === 'table_grid') return [{ type, ...this.grid(node, attrs) }];
    // A phrase stands in a line, where words say for themselves that they are left out.
    const parts = out && type === 'phrase' ? childrenOf(node).map((child) => leftOutWords(child, when)) : node.content;
    // What is copied stands for its content.
    const content = parts?.flatMap((child) => this.node(child, out && type === 'copied'));
    return [{ type, attrs, ...(content ? { content } : {}), ...marked }];
  }

  private isMissing(node: ContentNode): boolean {
    const kind = placesKinds[node.type];
    if (!kind) return false;
    const key = textAttr(node, 'component') ?? '';
    const held = textAttr(node, 'mode') === 'held' ? numberAttr(node, 'revision', 0) : 0;
    const component = held > 0 ? this.library.revision(key, held) : this.library.component(key);
    return !component || !kind.includes(component.kind);
  }

  private grid(grid: ContentNode, attrs: Readonly<Record<string, unknown>>): Pick<ContentNode, 'attrs' | 'content'> {
    const { rows, cells, cellSets } = selectGrid<boolean, ContentNode>(this.algebra, grid, true);
    const isOut = (row: number): boolean => rows[row] === false;
    // A cell that stays begins in the first of its rows that does.
    const placed = rows.map((): { readonly cell: ContentNode; readonly column: number }[] => []);
    cells.forEach(({ cell, row, column, rowspan }, at) => {
      const stays = cellSets[at] === true;
      let first = row;
      while (stays && isOut(first) && first < row + rowspan - 1) first += 1;
      const [shown] = this.node(cell, !stays && !isOut(row));
      const span = row + rowspan - first;
      if (shown) placed[first]?.push({ cell: { ...shown, attrs: { ...shown.attrs, rowspan: span } }, column });
    });
    const content = childrenOf(grid).map((row, at): ContentNode => {
      const inRow = (placed[at] ?? []).sort((a, b) => a.column - b.column).map(({ cell }) => cell);
      const out = isOut(at) ? { leftOut: true } : {};
      return { type: row.type, attrs: { ...row.attrs, when: null, ...out }, content: inRow };
    });
    return { attrs: { ...attrs, columns: columnsOf(grid).map((column) => ({ ...column, when: null })) }, content };
  }

  /** Conditions that do not hold hold no more, and say what they were. */
  private mark(mark: ContentMark): ContentMark {
    const when = conditionOn(mark);
    return when === null || this.algebra.holds(when) ? mark : { type: 'condition', attrs: { when: '', leftOut: when } };
  }
}

function leftOutWords(node: ContentNode, when: string | null): ContentNode {
  const mark: ContentMark = { type: 'condition', attrs: { when: '', leftOut: when } };
  return { ...node, marks: [...(node.marks ?? []), mark] };
}

const placesKinds: Readonly<Partial<Record<ContentNode['type'], readonly ComponentKind[]>>> = {
  placement: ['topic', 'snippet'],
  inline_placement: ['snippet'],
  picture: ['image'],
  image: ['image'],
};
