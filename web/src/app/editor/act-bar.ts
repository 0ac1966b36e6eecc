import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Command, EditorState } from 'prosemirror-state';
import { named } from './undo-names';

export interface Act {
  readonly label: string;
  readonly title: string;
  readonly command: Command;
  /** Whether it is so now; without it, it is done once. */
  readonly isOn?: (state: EditorState) => boolean;
  /** Whether it can be done now; without it, it is always offered. */
  readonly isPossible?: (state: EditorState) => boolean;
}

export interface ActGroup {
  readonly name: string;
  readonly acts: readonly Act[];
}

/** A bar of acts on what the cursor stands in. */
@Component({
  selector: 'al-act-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="tools" role="toolbar" [attr.aria-label]="name()">
      @for (group of groups(); track group.name) {
        <span class="group" role="group" [attr.aria-label]="group.name">
          <span class="name" aria-hidden="true">{{ group.name }}</span>
          @for (act of group.acts; track act.title) {
            <button
              type="button"
              [title]="act.title"
              [attr.aria-label]="act.title"
              [attr.aria-pressed]="act.isOn ? isOn(act) : null"
              [class.on]="isOn(act)"
              [disabled]="!isPossible(act)"
              (mousedown)="$event.preventDefault()"
              (click)="run.emit(done(act))"
            >
              {{ act.label }}
            </button>
          }
        </span>
      }
    </div>
  `,
  styleUrl: './act-bar.css',
})
export class ActBar {
  readonly name = input.required<string>();
  readonly groups = input.required<readonly ActGroup[]>();
  readonly state = input.required<EditorState | null>();
  readonly run = output<Command>();

  protected done({ title, command }: Act): Command {
    return named(title, command);
  }

  protected isOn({ isOn }: Act): boolean {
    const state = this.state();
    return state !== null && (isOn?.(state) ?? false);
  }

  protected isPossible({ isPossible }: Act): boolean {
    const state = this.state();
    return state === null || (isPossible?.(state) ?? true);
  }
}
