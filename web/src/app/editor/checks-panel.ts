import { ChangeDetectionStrategy, Component, computed, inject, input, output, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Command, EditorState } from 'prosemirror-state';
import { checkTitles } from '../shared/check-titles';
import { Session } from '../shared/session';
import { TeamChecks } from '../shared/team-checks';
import { EditorLibrary } from './editor-library';
import { mendCommand, PageChecks, type PageFinding } from './page-checks';

/** What the team wants to be told of this page, each with its place and, where possible, a mend. */
@Component({
  selector: 'al-checks-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink],
  template: `
    @if (findings().length === 0) {
      <p class="empty">The checks of your team find nothing on this page.</p>
    }
    <ul>
      @for (each of findings(); track $index) {
        <li>
          <b>{{ titles[each.kind][0] }}</b>
          <p>{{ each.message }}</p>
          <button type="button" class="act" (click)="chosen.emit(each.position)">Go there</button>
          @if (editable() && each.mend) {
            <button type="button" class="act" (click)="run.emit(mendCommand(each))">{{ mendText(each) }}</button>
          }
        </li>
      }
    </ul>
    @if (session.mayKeep()) {
      <p class="about"><a routerLink="/checks">What is checked</a></p>
    }
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      padding: 0.5rem 0;
      border-bottom: 1px solid var(--line);
    }
    p {
      margin: 0.1rem 0;
      overflow-wrap: anywhere;
    }
    .act {
      padding-left: 0;
      margin-right: 0.8rem;
    }
    .empty {
      margin: 0.6rem 0;
      text-align: left;
    }
    .about {
      margin-top: 0.8rem;
    }
    .about a {
      color: var(--accent);
    }
  `,
})
export class ChecksPanel {
  private readonly checks = inject(PageChecks);
  private readonly team = inject(TeamChecks);
  private readonly library = inject(EditorLibrary);
  protected readonly session = inject(Session);

  readonly state = input.required<EditorState | null>();
  /** Grows when the writer pauses: what is being written is not judged. */
  readonly pauses = input.required<number>();
  readonly editable = input(true);
  readonly chosen = output<number>();
  readonly run = output<Command>();

  protected readonly titles = checkTitles;
  protected readonly mendCommand = mendCommand;
  protected readonly findings = computed<readonly PageFinding[]>(() => {
    this.pauses();
    this.team.settings();
    this.library.changes();
    const doc = untracked(this.state)?.doc;
    return doc ? this.checks.find(doc) : [];
  });

  protected mendText({ mend }: PageFinding): string {
    if (mend?.kind === 'words') return `Write “${mend.becomes}”`;
    return mend?.kind === 'remove' ? 'Take it out' : 'Move it to the front';
  }
}
