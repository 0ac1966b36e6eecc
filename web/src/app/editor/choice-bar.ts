import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Command, EditorState } from 'prosemirror-state';
import { ActBar, type ActGroup } from './act-bar';
import { addBranch, moveBranch, removeBranch, unwrapChoice } from './choices';

const can =
  (command: Command) =>
  (state: EditorState): boolean =>
    command(state);
const groups: readonly ActGroup[] = [
  {
    name: 'Branch',
    acts: [
      { label: 'Add', title: 'Another branch', command: addBranch },
      { label: '↑', title: 'Move the branch up', command: moveBranch(-1), isPossible: can(moveBranch(-1)) },
      { label: '↓', title: 'Move the branch down', command: moveBranch(1), isPossible: can(moveBranch(1)) },
      { label: 'Delete', title: 'Delete the branch', command: removeBranch },
    ],
  },
  {
    name: 'Choice',
    acts: [
      {
        label: 'Into conditions',
        title: 'Take the choice apart: each block gets the condition of its branch',
        command: unwrapChoice,
        isPossible: can(unwrapChoice),
      },
    ],
  },
];

/** What can be done with the choice at the cursor. */
@Component({
  selector: 'al-choice-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ActBar],
  template: `<al-act-bar name="Choice" [groups]="groups" [state]="state()" (run)="run.emit($event)" />`,
})
export class ChoiceBar {
  readonly state = input.required<EditorState | null>();
  readonly run = output<Command>();
  protected readonly groups = groups;
}
