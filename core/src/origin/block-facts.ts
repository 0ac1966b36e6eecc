import { preparedComponent, type Remembered } from '../assemble/memory.js';
import { partsOf, type PreparedNode } from '../assemble/prepared.js';
import { columnsOf } from '../content/body.js';
import type { Component } from '../model/component.js';
import { placeCells } from '../select/table-grid.js';
import type { Holds } from '../variation/chosen.js';

/** A condition on the way to a passage, and whether the variant meets it. */
export interface OriginCondition {
  /** Null: every other case of a choice. */
  readonly when: string | null;
  readonly holds: boolean;
  /** What carries it; a case holds where no case before it does. */
  readonly on: 'block' | 'around' | 'case' | 'column';
}

/** What a body says of one of its blocks. */
export interface BlockFacts {
  readonly node: PreparedNode;
  /** Of the block and of all that it stands in, outermost first. */
  readonly conditions: readonly OriginCondition[];
}

/** The blocks of a component by their ids. */
export function blockFacts(
  remembered: Remembered,
  component: Component,
  holds: Holds,
): ReadonlyMap<string, BlockFacts> {
  const found = new Map<string, BlockFacts>();
  const visit = (node: PreparedNode, around: readonly OriginCondition[]): void => {
    const { id, when, type } = node;
    const own: readonly OriginCondition[] =
      when === null || type === 'branch' ? [] : [{ when, holds: holds(when), on: 'block' }];
    if (id !== null) found.set(id, { node, conditions: [...around, ...own] });
    const inside = [...around, ...own.map((each) => ({ ...each, on: 'around' as const }))];
    if (type === 'choice') visitCases(node, inside);
    else if (type === 'table_grid') visitGrid(node, inside);
    else for (const child of partsOf(node)) visit(child, inside);
  };
  const visitCases = (choice: PreparedNode, around: readonly OriginCondition[]): void => {
    let isTaken = false;
    for (const branch of partsOf(choice)) {
      const isChosen: boolean = !isTaken && holds(branch.when);
      isTaken ||= isChosen;
      const inside = [...around, { when: branch.when, holds: isChosen, on: 'case' as const }];
      for (const child of partsOf(branch)) visit(child, inside);
    }
  };
  const visitGrid = (grid: PreparedNode, around: readonly OriginCondition[]): void => {
    const columns = columnsOf(grid);
    for (const row of partsOf(grid)) visit(row, around);
    for (const { cell, row, column } of placeCells(partsOf(grid))) {
      const rowWhen = partsOf(grid)[row]?.when ?? null;
      const columnWhen = columns[column]?.when ?? null;
      const limits: OriginCondition[] = [];
      if (rowWhen !== null) limits.push({ when: rowWhen, holds: holds(rowWhen), on: 'around' });
      if (columnWhen !== null) limits.push({ when: columnWhen, holds: holds(columnWhen), on: 'column' });
      visit(cell, [...around, ...limits]);
    }
  };
  visit(preparedComponent(remembered, component).body, []);
  return found;
}
