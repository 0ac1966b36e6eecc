import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { Component as LibraryComponent } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { Select } from 'primeng/select';
import { Api, problemText } from '../shared/api';
import { EditorLibrary } from './editor-library';
import { panelStyle } from './panel-style';

/** The rule of a selected slot, and what it lets in. */
@Component({
  selector: 'al-slot-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'placed' },
  imports: [FormsModule, RouterLink, Select],
  template: `
    <p>A slot: it fills itself with snippets of a collection. On the web another one shows on every view.</p>
    @if (labels.error(); as error) {
      <p class="problem-text">{{ text(error) }}</p>
    } @else if (labels.hasValue()) {
      <div class="field">
        <label for="slot-collection">Collection</label>
        <p-select
          inputId="slot-collection"
          ariaLabel="Collection"
          [options]="collections()"
          [ngModel]="node().attrs['collection']"
          (ngModelChange)="altered.emit({ collection: $event, stated: null })"
          placeholder="Which one?"
        />
      </div>
      <div class="field">
        <label for="slot-matching">Which of them</label>
        <p-select
          inputId="slot-matching"
          ariaLabel="Which of them"
          [options]="rules()"
          optionLabel="label"
          optionValue="value"
          [ngModel]="node().attrs['matching']"
          (ngModelChange)="altered.emit({ matching: $event, stated: null })"
        />
      </div>
      <div class="field">
        <label for="slot-stated">Where only one can stand</label>
        <p-select
          inputId="slot-stated"
          ariaLabel="Where only one can stand"
          [options]="stated()"
          optionLabel="label"
          optionValue="value"
          [ngModel]="node().attrs['stated']"
          (ngModelChange)="altered.emit({ stated: $event })"
        />
      </div>
    }
    <p class="candidates">
      @for (each of candidates(); track each.key) {
        <a [routerLink]="['/edit', each.key]">{{ each.title }}</a>
      } @empty {
        Nothing fits here yet. A snippet’s collection and tags are set under “Labels”, below where it is used.
      }
    </p>
  `,
  styles: [
    panelStyle,
    `
      .candidates {
        display: flex;
        flex-wrap: wrap;
        gap: 0.2rem 0.8rem;
      }
    `,
  ],
})
export class SlotPanel {
  private readonly api = inject(Api);
  private readonly library = inject(EditorLibrary);

  readonly node = input.required<Node>();
  readonly own = input.required<LibraryComponent>();
  readonly altered = output<Readonly<Record<string, unknown>>>();

  protected readonly labels = rxResource({ stream: () => this.api.labels() });
  protected readonly candidates = computed(() => {
    this.library.changes();
    return this.library.candidates(this.node(), this.own());
  });
  protected readonly collections = computed(() => {
    const known = this.labels.hasValue() ? this.labels.value().collections.map(({ name }) => name) : [];
    const own = this.node().attrs['collection'] as string | null;
    return own && !known.includes(own) ? [own, ...known] : [...known];
  });
  protected readonly rules = computed(() => {
    const tags = this.labels.hasValue() ? this.labels.value().tags.map(({ tag }) => tag) : [];
    const own = this.node().attrs['matching'] as string | null;
    const names = [...new Set([...(own ? [own] : []), ...tags])];
    return [
      { label: 'All of the collection', value: null },
      ...names.map((tag) => ({ label: `Those that share “${tag}” with the topic`, value: tag })),
    ];
  });
  protected readonly stated = computed(() => [
    { label: 'The first', value: null },
    ...this.candidates().map(({ key, title }) => ({ label: title, value: key })),
  ]);
  protected readonly text = problemText;
}
