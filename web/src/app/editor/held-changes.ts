import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { compareBodies, contentBody, type Component as LibraryComponent } from '@allomorph/core';
import { EditorLibrary } from './editor-library';

/** What would change where a held revision is brought up to date: how it reads and how it would, side by side. */
@Component({
  selector: 'al-held-changes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="pair head" aria-hidden="true">
      <b>Revision {{ before().revision }}, here</b><b>Revision {{ after().revision }}, newest</b>
    </div>
    @for (change of changes(); track $index) {
      <div class="pair">
        <p>
          <span class="sr-only">Now: </span>
          @if (change.kind === 'changed') {
            @for (run of change.words; track $index) {
              @if (run.kind !== 'added') {
                <span [class.gone]="run.kind === 'removed'">{{ run.text }}</span>
              }
            }
          } @else if (change.before) {
            <span [class.gone]="change.kind !== 'moved'">{{ change.before.text }}</span>
          }
        </p>
        <p>
          <span class="sr-only">Newest: </span>
          @if (change.kind === 'changed') {
            @for (run of change.words; track $index) {
              @if (run.kind !== 'removed') {
                <span [class.new]="run.kind === 'added'">{{ run.text }}</span>
              }
            }
          } @else if (change.after) {
            <span [class.new]="change.kind !== 'moved'">{{ change.after.text }}</span>
            @if (change.kind === 'moved') {
              <small>moved</small>
            }
          }
        </p>
      </div>
    } @empty {
      <p class="same">It reads the same; only marks or settings differ.</p>
    }
  `,
  styles: `
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 0 0.8rem;
      border-top: 1px solid var(--line);
    }
    .head {
      border: 0;
      font-size: 0.85rem;
      color: var(--soft);
    }
    p {
      margin: 0;
      padding: 0.35rem 0;
      font: 0.98rem/1.45 var(--serif);
      overflow-wrap: anywhere;
    }
    .gone {
      background: color-mix(in srgb, var(--alarm) 14%, transparent);
      text-decoration: line-through;
      text-decoration-thickness: 1px;
    }
    .new {
      background: color-mix(in srgb, var(--good) 18%, transparent);
    }
    small {
      color: var(--soft);
    }
    .same {
      color: var(--soft);
    }
  `,
})
export class HeldChanges {
  private readonly library = inject(EditorLibrary);
  readonly before = input.required<LibraryComponent>();
  readonly after = input.required<LibraryComponent>();

  protected readonly changes = computed(() => {
    const [was, is] = [contentBody(this.before()), contentBody(this.after())];
    if (!was || !is) return [];
    const nameOf = (key: string): string => this.library.get(key)?.title ?? key;
    return compareBodies(was, is, nameOf).filter(({ kind }) => kind !== 'same');
  });
}
