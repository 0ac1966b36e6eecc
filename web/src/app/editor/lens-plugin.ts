import {
  conditionOn,
  stampCondition,
  type ConditionTest,
  type OpenSelector,
  type OpenState,
  type Vocabulary,
} from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey, type EditorState, type Transaction } from 'prosemirror-state';
import { TableMap } from 'prosemirror-tables';
import { ReplaceStep } from 'prosemirror-transform';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { describeCondition, laneCode, laneColour, lanePattern, lanesOf, titleOfStamp } from '../shared/lanes';
import type { LensMode } from '../shared/lens';
import { changedRange, type Range } from './changed-range';
import { describedColumns, sharesOf } from './table-columns';
import { branchStates } from './taken-branch';

/** The lens as the editor's page draws it. */
export interface PageLens {
  readonly selector: ConditionTest | null;
  readonly vocabulary: Vocabulary;
  readonly mode: LensMode;
  /** Where the lens leaves axes open: what hangs on them is neither surely in nor out. */
  readonly open?: OpenSelector | null;
}

interface LensState {
  readonly lens: PageLens;
  /** Positions of folded blocks that the reader opened. */
  readonly opened: ReadonlySet<number>;
  readonly decorations: DecorationSet;
  readonly out: number;
  /** How many blocks and phrases hang on axes that the lens leaves open. */
  readonly open: number;
}

export const lensKey = new PluginKey<LensState>('lens');

/** Ghosts or folds what the lens leaves out, and underlines words that are limited. */
export function lensPlugin(initial: PageLens): Plugin<LensState> {
  return new Plugin<LensState>({
    key: lensKey,
    state: {
      init: (_, state) => draw(state.doc, initial, new Set()),
      apply: (transaction, value) => {
        const meta = transaction.getMeta(lensKey) as { lens?: PageLens; toggle?: number } | undefined;
        if (!transaction.docChanged && !meta) return value;
        const opened = new Set([...value.opened].map((position) => transaction.mapping.map(position)));
        if (meta?.toggle !== undefined && !opened.delete(meta.toggle)) opened.add(meta.toggle);
        return (
          (meta ? null : drawnAgain(value, transaction, opened)) ??
          draw(transaction.doc, meta?.lens ?? value.lens, opened)
        );
      },
    },
    props: {
      // The page itself is out where its own condition says so.
      attributes: (state): Record<string, string> => {
        const lens = lensKey.getState(state)?.lens;
        const when = conditionOn(state.doc);
        if (!lens?.selector || when === null || lens.selector.holds(when)) return {};
        return {
          class: 'whole-out',
          'data-out': `Out: all of it applies only to ${describeCondition(when, lens.vocabulary)}`,
        };
      },
      decorations: (state) => lensKey.getState(state)?.decorations,
      handleDOMEvents: {
        mousedown: (view, event) => {
          const folded = (event.target as Element).closest('.out-fold');
          if (!folded || !view.dom.contains(folded) || folded.closest('.seam')) return false;
          const inside = view.posAtDOM(folded, 0);
          const $inside = view.state.doc.resolve(inside);
          const position =
            $inside.depth > 0 && folded.matches('[data-node]') && !isLeafDom(folded) ? $inside.before() : inside;
          view.dispatch(view.state.tr.setMeta(lensKey, { toggle: position }));
          event.preventDefault();
          return true;
        },
      },
    },
  });
}

function isLeafDom(element: Element): boolean {
  return ['placement', 'picture', 'slot'].includes(element.getAttribute('data-node') ?? '');
}

/** How many blocks and phrases the lens leaves out of the page. */
export function outOnPage(state: EditorState): number {
  return lensKey.getState(state)?.out ?? 0;
}

/** How many blocks and phrases of the page hang on axes that the lens leaves open. */
export function openOnPage(state: EditorState): number {
  return lensKey.getState(state)?.open ?? 0;
}

/** On the decorations that stand for what is out. */
const outSpec = { isOut: true };

function countsAsOut({ spec }: Decoration): boolean {
  return (spec as Partial<typeof outSpec>).isOut === true;
}

/** On the decorations that stand for what is open. */
const openSpec = { isOpen: true };

function countsAsOpen({ spec }: Decoration): boolean {
  return (spec as Partial<typeof openSpec>).isOpen === true;
}

interface Drawn {
  readonly decorations: readonly Decoration[];
  /** How many blocks and phrases are out, and how many are open. */
  readonly out: number;
  readonly open: number;
}

function draw(doc: Node, lens: PageLens, opened: ReadonlySet<number>): LensState {
  const drawn = drawBetween(doc, 0, doc.content.size, lens, opened);
  const own = conditionOn(doc);
  const isWholeOut = lens.selector !== null && own !== null && !lens.selector.holds(own);
  return {
    lens,
    opened,
    decorations: DecorationSet.create(doc, [...drawn.decorations]),
    out: drawn.out + (isWholeOut ? 1 : 0),
    open: drawn.open,
  };
}

/**
 * What was drawn before, and the changed blocks drawn again: a key must not cost more because the page is long.
 * @returns null where the change may reach further than what it stands in
 */
function drawnAgain(
  before: LensState,
  { before: docBefore, doc, mapping, steps }: Transaction,
  opened: LensState['opened'],
): LensState | null {
  if (!steps.every((step) => step instanceof ReplaceStep)) return null;
  const { lens } = before;
  const back = mapping.invert();
  // A section whose end was replaced is another one, though it begins where one did: what is drawn for it went.
  const wasThere = (low: number, high: number): boolean => {
    const start = back.map(low, 1);
    const node = docBefore.nodeAt(start);
    return node !== null && mapping.map(start, 1) === low && mapping.map(start + node.nodeSize, -1) === high;
  };
  const changed = changedRange(mapping.maps, doc.content.size);
  const { from, to, isOut } = blocksAround(doc, changed, lens.selector, wasThere);
  const drawn = isOut ? { decorations: [], out: 0, open: 0 } : drawBetween(doc, from, to, lens, opened);
  const mapped = before.decorations.map(mapping, doc);
  const drawnBefore = within(before.decorations, back.map(from, -1), back.map(to, 1));
  return {
    lens,
    opened,
    decorations: mapped.remove([...within(mapped, from, to)]).add(doc, [...drawn.decorations]),
    out: before.out - drawnBefore.filter(countsAsOut).length + drawn.out,
    open: before.open - drawnBefore.filter(countsAsOpen).length + drawn.open,
  };
}

/** The decorations that lie between two places, without those that only touch them. */
function within(decorations: DecorationSet, from: number, to: number): readonly Decoration[] {
  return decorations.find(from, to).filter((each) => each.from >= from && each.to <= to);
}

/**
 * The blocks that hold a change, the innermost ones of which all that is around are sections: what is drawn for a block hangs
 * on nothing beside them. And whether one of those sections is out.
 */
function blocksAround(
  doc: Node,
  { from, to }: Range,
  selector: ConditionTest | null,
  wasThere: (low: number, high: number) => boolean,
): Range & { readonly isOut: boolean } {
  let [parent, start, isOut] = [doc, 0, false];
  for (;;) {
    const touched: { readonly node: Node; readonly low: number; readonly high: number }[] = [];
    let low = start;
    for (const node of parent.children) {
      const high = low + node.nodeSize;
      if (low <= to && high >= from) touched.push({ node, low, high });
      low = high;
    }
    const [first] = touched;
    const isInside = touched.length === 1 && first?.node.type.name === 'section' && first.low < from && first.high > to;
    if (!isInside || !wasThere(first.low, first.high))
      return { from: first?.low ?? start, to: touched.at(-1)?.high ?? low, isOut };
    const when = conditionOn(first.node);
    isOut ||= selector !== null && when !== null && !selector.holds(when);
    [parent, start] = [first.node, first.low + 1];
  }
}

/** Draws the blocks between two places. */
function drawBetween(doc: Node, from: number, to: number, lens: PageLens, opened: ReadonlySet<number>): Drawn {
  const decorations: Decoration[] = [];
  const { selector, vocabulary, mode } = lens;
  let [out, open] = [0, 0];
  const leaveOut = (position: number, node: Node, when: string): void => {
    out += 1;
    const fold = mode === 'fold' && !opened.has(position);
    decorations.push(
      Decoration.node(
        position,
        position + node.nodeSize,
        {
          class: `out ${fold ? 'out-fold' : 'out-ghost'}`,
          'data-out': `Out: ${describeCondition(when, vocabulary)}`,
          title: `Out of this lens: applies only to ${describeCondition(when, vocabulary)}`,
        },
        outSpec,
      ),
    );
  };
  const markOpen = (position: number, node: Node, title: string): void => {
    open += 1;
    decorations.push(Decoration.node(position, position + node.nodeSize, { class: 'open', title }, openSpec));
  };
  const visit = (node: Node, position: number, parent: Node | null): boolean => {
    // Between two places are also those that they stand in.
    if (position < from) return true;
    if (node.isInline) {
      const state = limitInline(node, position, lens, decorations);
      if (state === 'out') out += 1;
      else if (state === 'open') open += 1;
      return false;
    }
    if (node.type.name === 'table_grid') {
      limitColumns(node, position, lens, decorations);
      drawWidths(node, position, decorations);
    }
    markStamp(node, position, lens, decorations);
    if (!selector) return true;
    const when = conditionOn(node);
    if (when !== null && !selector.holds(when)) {
      leaveOut(position, node, when);
      return false;
    }
    if (when !== null && lens.open?.state(when) === 'open') {
      markOpen(
        position,
        node,
        `Open: applies only to ${describeCondition(when, vocabulary)}, which this lens does not decide`,
      );
    }
    if (node.type.name === 'branch' && parent) {
      const states = branchStates(
        parent.children.map((branch) => branch.attrs['when'] as unknown),
        { selector, open: lens.open },
      );
      const state = states[parent.children.indexOf(node)];
      if (state === 'out') {
        leaveOut(position, node, 'an earlier branch does not');
        return false;
      }
      if (state === 'open' && lens.open?.state(when) !== 'open')
        markOpen(position, node, 'Open: an earlier branch may be the one');
    }
    if (node.type.name === 'table_grid') outColumns(node, position, selector, leaveOut);
    return true;
  };
  doc.nodesBetween(from, to, visit);
  return { decorations, out, open };
}

function outColumns(
  grid: Node,
  position: number,
  selector: ConditionTest,
  leaveOut: (position: number, cell: Node, when: string) => void,
): void {
  const columns = describedColumns(grid);
  if (!columns.some((column) => column.when && !selector.holds(column.when))) return;
  const map = TableMap.get(grid);
  for (const at of new Set(map.map)) {
    const { left, right } = map.findCell(at);
    const covered = columns.slice(left, right);
    const first = covered[0]?.when;
    const cell = grid.nodeAt(at);
    // A cell goes with the last of the columns that it spans.
    const isOut = covered.every(({ when }) => when && !selector.holds(when));
    if (isOut && first && cell) leaveOut(position + 1 + at, cell, first);
  }
}

/** Puts a lane at the head of each column that is limited. */
function limitColumns(grid: Node, position: number, { vocabulary }: PageLens, decorations: Decoration[]): void {
  const { map } = TableMap.get(grid);
  describedColumns(grid).forEach(({ when }, index) => {
    const cell = map[index];
    if (!when || cell === undefined) return;
    const lanes = lanesOf(when, vocabulary);
    decorations.push(
      Decoration.widget(
        position + 1 + cell + 1,
        () => {
          const strip = document.createElement('span');
          strip.className = 'column-limit';
          strip.title = `The column applies only to ${describeCondition(when, vocabulary)}`;
          for (const lane of lanes) {
            const part = strip.appendChild(document.createElement('span'));
            part.className = `lane ${lanePattern(lane)}`;
            part.style.setProperty('--lane', laneColour(lane));
          }
          strip.append(lanes.map(laneCode).join(' · ') || 'limited');
          return strip;
        },
        { side: -1, key: `column ${when} ${lanes.map(laneCode).join()}`, ignoreSelection: true },
      ),
    );
  });
}

/** Gives the first row, and by it the columns, the widths that the grid says. */
function drawWidths(grid: Node, position: number, decorations: Decoration[]): void {
  const shares = sharesOf(grid);
  if (!shares) return;
  const map = TableMap.get(grid);
  decorations.push(Decoration.node(position, position + grid.nodeSize, { class: 'has-widths' }));
  for (const at of new Set(map.map.slice(0, map.width))) {
    const cell = grid.nodeAt(at);
    if (!cell) continue;
    const { left, right } = map.findCell(at);
    const width = shares.slice(left, right).reduce((sum, share) => sum + share, 0);
    const from = position + 1 + at;
    decorations.push(Decoration.node(from, from + cell.nodeSize, { style: `width:${width.toFixed(2)}%` }));
  }
}

/** Says by which stamp a block goes. */
function markStamp(node: Node, position: number, { vocabulary }: PageLens, decorations: Decoration[]): void {
  const stamp: unknown = node.attrs['stamp'];
  if (typeof stamp !== 'string') return;
  const title = titleOfStamp(stamp, vocabulary);
  decorations.push(
    Decoration.node(position, position + node.nodeSize, { class: 'stamped', 'data-stamp-title': title }),
  );
}

function limitInline(node: Node, position: number, lens: PageLens, decorations: Decoration[]): OpenState {
  const limits = node.marks.flatMap((mark) => conditionOn(mark) ?? []);
  if (limits.length === 0) return 'in';
  const end = position + node.nodeSize;
  const stamp: unknown = node.marks.find(({ type }) => type.name === 'stamp')?.attrs['stamp'];
  if (typeof stamp === 'string') {
    const title = `Stamp: ${titleOfStamp(stamp, lens.vocabulary)}`;
    decorations.push(Decoration.inline(position, end, { class: 'stamped-words', title }));
  }
  for (const when of limits) {
    const [lane] = lanesOf(when, lens.vocabulary);
    // A stamp without a condition limits nothing.
    if (!lane && when === (typeof stamp === 'string' ? stampCondition(stamp) : '')) continue;
    decorations.push(
      Decoration.inline(position, end, {
        class: `inline-limit ${lane ? lanePattern(lane) : 'pattern-0'}`,
        style: `--lane:${lane ? laneColour(lane) : 'var(--alarm)'}`,
        title: `Applies only to ${describeCondition(when, lens.vocabulary)}`,
      }),
    );
  }
  const { selector, open } = lens;
  if (selector && limits.some((when) => !selector.holds(when))) {
    decorations.push(Decoration.inline(position, end, { class: `out out-inline-${lens.mode}` }, outSpec));
    return 'out';
  }
  if (!open || limits.every((when) => open.state(when) === 'in')) return 'in';
  decorations.push(Decoration.inline(position, end, { class: 'open-words' }, openSpec));
  return 'open';
}
