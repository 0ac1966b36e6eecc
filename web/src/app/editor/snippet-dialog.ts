import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import {
  assignIds,
  idsAfter,
  turnIntoSnippet,
  type Component as LibraryComponent,
  type ContentNode,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import type { EditorState } from 'prosemirror-state';
import { Api } from '../shared/api';
import { Notices } from '../shared/notices';
import { Sending } from '../shared/sending';

/** A snippet that was made of blocks, and the body in which it takes their place. */
export interface MadeSnippet {
  readonly snippet: LibraryComponent;
  readonly body: ContentNode;
}

/** Turns the blocks of a selection into a snippet of the library, under a title that it asks for. */
@Component({
  selector: 'al-snippet-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Dialog, InputText],
  template: `
    <p-dialog
      header="Make a snippet"
      [modal]="true"
      [visible]="range() !== null"
      (visibleChange)="range.set(null)"
      [style]="{ width: '30rem' }"
    >
      <form (ngSubmit)="make()">
        <div class="field">
          <label for="snippet-title">Title of the snippet</label>
          <input pInputText id="snippet-title" name="title" [(ngModel)]="title" autocomplete="off" />
          <small>The chosen blocks move into the library; here a placement stands in their place.</small>
        </div>
        @if (sending.problem(); as text) {
          <p class="problem-text" role="alert">{{ text }}</p>
        }
        <p-button type="submit" label="Make the snippet" [loading]="sending.busy()" />
      </form>
    </p-dialog>
  `,
})
export class SnippetDialog {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);

  /** The key of the component that the blocks stand in. */
  readonly own = input.required<string>();
  readonly made = output<MadeSnippet>();

  protected readonly range = signal<{
    readonly body: ContentNode;
    readonly first: string;
    readonly last: string;
  } | null>(null);
  protected readonly sending = new Sending(this.range);
  protected title = '';

  /** Asks for the title of the snippet that the blocks of the selection become. */
  ask(state: EditorState, body: ContentNode): void {
    const range = state.selection.$from.blockRange(state.selection.$to);
    if (!range) return;
    const path = Array.from({ length: range.depth }, (_, depth) => range.$from.index(depth));
    // Blocks written since the last save have no ids yet.
    const named = assignIds(body, idsAfter(body));
    const siblings =
      path.reduce<ContentNode | undefined>((node, index) => node?.content?.[index], named)?.content ?? [];
    const [first, last] = [siblings[range.startIndex], siblings[range.endIndex - 1]].map((node) => node?.attrs?.['id']);
    if (typeof first !== 'string' || typeof last !== 'string') {
      this.notices.failed(new Error('These blocks cannot become a snippet by themselves; choose a block around them.'));
      return;
    }
    this.title = '';
    this.range.set({ body: named, first, last });
  }

  protected make(): void {
    const range = this.range();
    const title = this.title.trim();
    if (!range) return;
    if (title === '') {
      this.sending.problem.set('Give it a title.');
      return;
    }
    const own = this.own();
    const turn = (snippet: string) => turnIntoSnippet(range.body, range.first, range.last, { own, snippet });
    const made = turn('');
    if (!made) return;
    this.sending.send(this.api.createComponent({ kind: 'snippet', title, body: made.snippet }), (snippet, isOpen) => {
      if (isOpen) this.range.set(null);
      const body = turn(snippet.key)?.body;
      // The page may be another one by then, as after going back, or another text, where the dialog was left.
      if (body && isOpen && this.own() === own) this.made.emit({ snippet, body });
      else this.notices.done(`“${title}” is in the library; the page is as it was.`);
    });
  }
}
