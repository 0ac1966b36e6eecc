import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import type { ComponentClosure, PassageChange } from '@allomorph/core';
import { timer, switchMap } from 'rxjs';
import { Api, problemText } from '../shared/api';

/** Which variants a save of the page as it is written would alter, and how they would read. */
@Component({
  selector: 'al-reach-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (report.error(); as error) {
      <p class="problem-text">{{ text(error) }}</p>
    } @else if (report.hasValue()) {
      @let shown = report.value();
      @if (shown.groups.length === 0) {
        <p>
          @if (dirty()) {
            Saving this alters none of the {{ shown.variants }} variants.
          } @else {
            Nothing is changed. Write, and this shows which of the {{ shown.variants }} variants a save would alter.
          }
        </p>
      } @else {
        <p>
          <b>Saving this alters {{ altered() }} of {{ shown.variants }} variants.</b>
        </p>
      }
      @for (group of shown.groups; track $index) {
        <section>
          <h3>
            @for (variant of group.variants; track variant.id) {
              <span class="variant"
                >{{ variant.title }} <small>{{ variant.publicationTitle }}</small></span
              >
            }
          </h3>
          @for (topic of group.topics; track $index) {
            <h4>{{ topic.title }}</h4>
            @for (passage of topic.passages; track $index) {
              <p class="passage {{ passage.kind }}">
                @for (run of runs(passage); track $index) {
                  @switch (run.kind) {
                    @case ('added') {
                      <ins>{{ run.text }}</ins>
                    }
                    @case ('removed') {
                      <del>{{ run.text }}</del>
                    }
                    @default {
                      {{ run.text }}
                    }
                  }
                }
              </p>
            } @empty {
              <p class="passage">Reads the same; marks or links differ.</p>
            }
          }
        </section>
      }
    } @else {
      <p class="soft">Looking …</p>
    }
  `,
  styles: `
    section {
      border-top: 1px solid var(--line);
      padding-top: 0.5rem;
      margin-top: 0.7rem;
    }
    h3 {
      display: flex;
      flex-wrap: wrap;
      gap: 0.3rem;
      margin: 0 0 0.5rem;
    }
    .variant {
      font: 600 0.85rem/1.3 var(--sans);
      border: 1px solid var(--line);
      border-radius: 4px;
      background: var(--paper);
      padding: 0.1rem 0.45rem;
    }
    small {
      font-weight: 400;
      color: var(--soft);
    }
    h4 {
      font: 600 0.92rem/1.3 var(--sans);
      margin: 0.4rem 0 0.2rem;
    }
    .passage {
      font-family: var(--serif);
      margin: 0 0 0.45rem;
      padding-left: 0.6rem;
      border-left: 3px solid var(--line);
    }
    ins {
      background: color-mix(in srgb, var(--good) 18%, transparent);
      text-decoration: underline;
    }
    del {
      background: color-mix(in srgb, var(--alarm) 14%, transparent);
    }
    .soft {
      color: var(--soft);
    }
  `,
})
export class ReachPanel {
  private readonly api = inject(Api);

  /** The component as it is written, with its revision in the library. */
  readonly written = input.required<ComponentClosure>();
  readonly dirty = input.required<boolean>();

  protected readonly report = rxResource({
    params: () => this.written().component,
    // Asked when the writer pauses, not at every stroke.
    stream: ({ params: { key, revision, title, body } }) =>
      timer(300).pipe(switchMap(() => this.api.reach(key, { base: revision, title: title || '…', body }))),
  });
  protected readonly altered = computed(() =>
    this.report.hasValue() ? this.report.value().groups.reduce((sum, group) => sum + group.variants.length, 0) : 0,
  );
  protected readonly text = problemText;

  protected runs({ kind, before, after, words }: PassageChange): PassageChange['words'] {
    if (kind === 'changed') return words;
    if (kind === 'added') return [{ kind: 'added', text: after?.text ?? '' }];
    if (kind === 'removed') return [{ kind: 'removed', text: before?.text ?? '' }];
    return [{ kind: 'same', text: after?.text ?? before?.text ?? '' }];
  }
}
