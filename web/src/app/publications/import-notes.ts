import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { groupImportNotes, importNoteKinds, type ImportNote } from '@allomorph/core';

/** So many of one kind are drawn; more say nothing that these do not. */
const mostShown = 200;

/** What an import could not take over as it was, kind by kind with a count. */
@Component({
  selector: 'al-import-notes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (group of groups(); track group.kind) {
      <details [open]="groups().length === 1">
        <summary>
          <i class="pi pi-chevron-right" aria-hidden="true"></i>
          <span class="what">{{ group.title }}</span>
          <span class="count">{{ group.count }}</span>
        </summary>
        <ul>
          @for (note of group.shown; track $index) {
            <li>
              <span class="mono">{{ note.file }}, line {{ note.line }}</span
              >: {{ note.message }}
            </li>
          }
        </ul>
        @if (group.count > group.shown.length) {
          <p class="more">and {{ group.count - group.shown.length }} more</p>
        }
      </details>
    }
  `,
  styles: `
    details {
      border-top: 1px solid var(--line);
    }
    summary {
      display: flex;
      gap: 0.6rem;
      align-items: baseline;
      padding: 0.45rem 0;
      cursor: pointer;
    }
    .what {
      flex: 1;
    }
    .pi {
      font-size: 0.75rem;
    }
    details[open] .pi {
      transform: rotate(90deg);
    }
    .count {
      font-variant-numeric: tabular-nums;
      font-weight: 600;
    }
    ul {
      max-height: 14rem;
      overflow: auto;
      margin: 0 0 0.5rem;
      padding-left: 1.1rem;
      overflow-wrap: anywhere;
    }
    .more {
      color: var(--soft);
      margin: 0 0 0.5rem;
    }
  `,
})
export class ImportNotes {
  readonly notes = input.required<readonly ImportNote[]>();

  protected readonly groups = computed(() =>
    groupImportNotes(this.notes()).map(({ kind, notes }) => ({
      kind,
      title: importNoteKinds[kind],
      count: notes.length,
      shown: notes.slice(0, mostShown),
    })),
  );
}
