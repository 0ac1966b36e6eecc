import { conditionOn, type ConditionTest } from '@allomorph/core';
import { SearchQuery } from 'prosemirror-search';
import type { EditorState } from 'prosemirror-state';
import { columnTarget } from './table-columns';
import { takenBranch } from './taken-branch';

/** What is looked for on the page, and how. */
export interface PageSearch {
  readonly find: string;
  readonly replace: string;
  readonly matchesCase: boolean;
  readonly wholeWords: boolean;
  /** Whether `find` is a pattern (a regular expression of ECMAScript). */
  readonly isPattern: boolean;
  /** Only what the lens shows; null: everything. */
  readonly within: ConditionTest | null;
}

/** So many places are counted on a page. */
export const mostCounted = 1000;

export function queryOf({ find, replace, matchesCase, wholeWords, isPattern, within }: PageSearch): SearchQuery {
  return new SearchQuery({
    search: find,
    replace,
    caseSensitive: matchesCase,
    wholeWord: wholeWords,
    regexp: isPattern,
    literal: !isPattern,
    ...(within ? { filter: (state, { from }) => isShown(state, from, within) } : {}),
  });
}

/** How many places of the page fit, and which of them is selected, from 1; 0: none. */
export function countPlaces(state: EditorState, query: SearchQuery): { readonly count: number; readonly at: number } {
  let [count, at] = [0, 0];
  if (!query.valid) return { count, at };
  for (let from = 0; count < mostCounted;) {
    const found = query.findNext(state, from);
    if (!found) break;
    count += 1;
    if (found.from === state.selection.from && found.to === state.selection.to) at = count;
    // What fits without a sign, such as the start of a line, is passed by.
    from = Math.max(found.to, found.from + 1);
  }
  return { count, at };
}

/** Whether a lens shows what stands at a position: the words, and all that they stand in. */
export function isShown(state: EditorState, position: number, selector: ConditionTest): boolean {
  const $at = state.doc.resolve(position);
  const holds = (when: unknown): boolean => typeof when !== 'string' || selector.holds(when);
  for (let depth = 1; depth <= $at.depth; depth += 1) {
    const node = $at.node(depth);
    if (node.type.name === 'choice') {
      const taken = takenBranch(
        node.children.map(({ attrs }) => attrs['when'] as unknown),
        selector,
      );
      if (!holds(conditionOn(node)) || taken !== $at.index(depth)) return false;
    } else if (node.type.name !== 'branch' && !holds(conditionOn(node))) return false;
    if (node.type.name === 'table_grid') {
      const column = columnTarget($at, depth);
      if (column && !holds(column.when)) return false;
    }
  }
  const marks = $at.nodeAfter?.marks ?? [];
  return marks.every((mark) => holds(conditionOn(mark)));
}
