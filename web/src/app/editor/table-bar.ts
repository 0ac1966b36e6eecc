import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { Command, EditorState } from 'prosemirror-state';
import { addRowAfter, addRowBefore, deleteRow, mergeCells, splitCell } from 'prosemirror-tables';
import { Lens } from '../shared/lens';
import { ActBar, type ActGroup } from './act-bar';
import { removeBlock } from './commands';
import { depthOf } from './places';
import { moveAtCursor } from './tab-keys';
import { addColumn, addColumnInFront, dropColumn, freeWidths, widenColumn } from './table-columns';
import { moveColumn } from './table-moves';
import {
  alignCells,
  drawLines,
  hasCaption,
  sortRows,
  toggleCaption,
  toggleHeaderColumn,
  toggleHeaderRow,
} from './tables';

/** What can be done with the table at the cursor. */
@Component({
  selector: 'al-table-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ActBar],
  template: `<al-act-bar name="Table" [groups]="groups()" [state]="state()" (run)="run.emit($event)" />`,
})
export class TableBar {
  private readonly lens = inject(Lens);

  readonly state = input.required<EditorState | null>();
  readonly run = output<Command>();

  protected readonly groups = computed<readonly ActGroup[]>(() => {
    const language = this.lens.recipe()?.language ?? 'en';
    return [
      {
        name: 'Row',
        acts: [
          { label: 'Above', title: 'Row above', command: addRowBefore },
          { label: 'Below', title: 'Row below', command: addRowAfter },
          { label: '↑', title: 'Move the row up', command: moveAtCursor(-1) },
          { label: '↓', title: 'Move the row down', command: moveAtCursor(1) },
          { label: 'Header', title: 'Header row', command: toggleHeaderRow, isOn: inHeaderRow },
          { label: 'Delete', title: 'Delete row', command: deleteRow },
        ],
      },
      {
        name: 'Column',
        acts: [
          { label: 'Before', title: 'Column before', command: addColumnInFront },
          { label: 'After', title: 'Column after', command: addColumn },
          { label: '←', title: 'Move the column to the left', command: moveColumn(-1) },
          { label: '→', title: 'Move the column to the right', command: moveColumn(1) },
          { label: 'Wider', title: 'Column wider', command: widenColumn(5) },
          { label: 'Narrower', title: 'Column narrower', command: widenColumn(-5) },
          { label: 'Header', title: 'Header column', command: toggleHeaderColumn },
          { label: 'A–Z', title: 'Sort the rows by this column', command: sortRows(false, language) },
          { label: 'Z–A', title: 'Sort the rows by this column, the last first', command: sortRows(true, language) },
          { label: 'Delete', title: 'Delete column', command: dropColumn },
        ],
      },
      {
        name: 'Cells',
        acts: [
          { label: 'Left', title: 'Text at the left', command: alignCells(null), isOn: isAligned(null) },
          { label: 'Middle', title: 'Text in the middle', command: alignCells('center'), isOn: isAligned('center') },
          { label: 'Right', title: 'Text at the right', command: alignCells('right'), isOn: isAligned('right') },
          { label: 'Merge', title: 'Merge the chosen cells', command: mergeCells },
          { label: 'Split', title: 'Split the cell', command: splitCell },
        ],
      },
      { name: 'Lines', acts: lineActs },
      {
        name: 'Table',
        acts: [
          {
            label: 'Caption',
            title: 'Caption of the table',
            command: toggleCaption,
            isOn: ({ selection }) => hasCaption(selection.$from),
          },
          { label: 'Free widths', title: 'Columns as wide as what they hold', command: freeWidths },
          { label: 'Delete', title: 'Delete the table', command: removeTable },
        ],
      },
    ];
  });
}

const lineNames = [
  { lines: null, label: 'Design', title: 'Lines as the design draws them' },
  { lines: 'rows', label: 'Rows', title: 'Lines between the rows' },
  { lines: 'grid', label: 'All', title: 'Lines around all cells' },
  { lines: 'none', label: 'None', title: 'No lines' },
] as const;
const lineActs = lineNames.map(({ lines, label, title }) => ({
  label,
  title,
  command: drawLines(lines),
  isOn: (state: EditorState): boolean => (around(state, 'table')?.['lines'] ?? null) === lines,
}));

const removeTable: Command = (state, dispatch) => {
  const { $from } = state.selection;
  const depth = depthOf($from, 'table');
  return depth > 0 && removeBlock($from.before(depth))(state, dispatch);
};

function around({ selection: { $from } }: EditorState, ...names: readonly string[]): Record<string, unknown> | null {
  for (let depth = $from.depth; depth > 0; depth -= 1)
    if (names.includes($from.node(depth).type.name)) return $from.node(depth).attrs;
  return null;
}

function inHeaderRow(state: EditorState): boolean {
  return around(state, 'table_row')?.['header'] === true;
}

const isAligned =
  (align: string | null) =>
  (state: EditorState): boolean =>
    (around(state, 'table_cell', 'table_header')?.['align'] ?? null) === align;
