import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { flattenValues } from '@allomorph/core';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { SelectButton } from 'primeng/selectbutton';
import { catchError, of } from 'rxjs';
import { Api } from '../shared/api';
import { Lens } from '../shared/lens';
import type { LibraryFilter } from './library-filter';
import { SavedSearches } from './saved-searches';

type ChoiceName = 'usage' | 'archived' | 'value' | 'tag' | 'stamp' | 'by' | 'days';

interface Choice {
  readonly name: ChoiceName;
  readonly label: string;
  /** The first is how it is where nothing is chosen. */
  readonly options: { label: string; value: string }[];
}

/** Words and labels that the library is narrowed by. */
@Component({
  selector: 'al-filter-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, Select, SelectButton, SavedSearches],
  template: `
    <div class="filters">
      <input
        pInputText
        type="search"
        aria-label="Find in the library"
        placeholder="Find in titles and text"
        [ngModel]="filter().find.value()"
        (ngModelChange)="filter().find.set($event)"
      />
      <p-selectbutton
        size="small"
        [options]="kinds"
        optionLabel="label"
        optionValue="value"
        [allowEmpty]="false"
        [ngModel]="filter().kind.value()"
        (ngModelChange)="filter().kind.set($event, true)"
        ariaLabel="Kind"
      />
      <button type="button" class="more" [attr.aria-expanded]="isOpen()" (click)="isOpen.set(!isOpen())">
        <i class="pi pi-filter" aria-hidden="true"></i>
        {{ filter().moreOn() > 0 ? 'Filters (' + filter().moreOn() + ')' : 'Filters' }}
      </button>
      <al-saved-searches [filter]="filter()" />
    </div>
    @if (isOpen()) {
      <div class="filters">
        @for (each of choices(); track each.name) {
          <p-select
            size="small"
            [options]="each.options"
            optionLabel="label"
            optionValue="value"
            [filter]="each.options.length > 12"
            [ngModel]="filter()[each.name].value()"
            (ngModelChange)="filter()[each.name].set($event, true)"
            [ariaLabel]="each.label"
            [class.on]="filter()[each.name].value() !== (each.name === 'usage' ? 'any' : '')"
          />
        }
        @if (filter().isOn()) {
          <button type="button" class="more" (click)="filter().show('')">Show everything</button>
        }
      </div>
    }
  `,
  styles: `
    .filters {
      display: flex;
      gap: 0.5rem;
      padding: 0 1.2rem 0.6rem;
      flex-wrap: wrap;
      align-items: center;
    }
    .filters input {
      flex: 1 1 9rem;
      min-width: 0;
    }
    .filters ::ng-deep .p-selectbutton {
      flex-wrap: wrap;
    }
    .filters ::ng-deep .p-togglebutton,
    .filters ::ng-deep .p-togglebutton-content {
      padding: 0.12rem 0.4rem;
    }
    p-select {
      max-width: 15rem;
    }
    p-select.on {
      border-color: var(--accent);
      box-shadow: inset 0 0 0 1px var(--accent);
    }
    .more {
      font: inherit;
      color: var(--accent);
      background: none;
      border: 0;
      padding: 0.2rem 0.3rem;
      cursor: pointer;
      white-space: nowrap;
    }
  `,
})
export class FilterBar {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);

  readonly filter = input.required<LibraryFilter>();
  /** Opens where one of those behind it is on; closes by hand only, not under the hand that takes the last one away. */
  protected readonly isOpen = linkedSignal<boolean, boolean>({
    source: () => this.filter().moreOn() > 0,
    computation: (isOn, before) => isOn || (before?.value ?? false),
  });

  protected readonly kinds = [
    { label: 'All', value: '' },
    { label: 'Topics', value: 'topic' },
    { label: 'Snippets', value: 'snippet' },
    { label: 'Variables', value: 'variable' },
    { label: 'Images', value: 'image' },
    { label: 'Links', value: 'link' },
  ];
  private readonly labels = rxResource({
    stream: () => this.api.labels().pipe(catchError(() => of({ collections: [], tags: [], people: [] }))),
    defaultValue: { collections: [], tags: [], people: [] },
  });
  protected readonly choices = computed(() => {
    const { tags, people } = this.labels.value();
    const { axes, stamps } = this.lens.vocabulary();
    const all: Choice[] = [
      {
        name: 'usage',
        label: 'Usage',
        options: [
          { label: 'Used or not', value: 'any' },
          { label: 'Unused', value: 'unused' },
          { label: 'Used once', value: 'once' },
          { label: 'Used often', value: 'often' },
        ],
      },
      {
        name: 'value',
        label: 'Limited to',
        options: [
          { label: 'Limited or not', value: '' },
          ...axes.flatMap((axis) =>
            flattenValues(axis).map(({ value }) => ({
              label: `${axis.title}: ${value.title}`,
              value: `${axis.key}=${value.key}`,
            })),
          ),
        ],
      },
      {
        name: 'tag',
        label: 'Tag',
        options: [
          { label: 'Any tag', value: '' },
          ...tags.map(({ tag, value }) => ({ label: `${tag}: ${value}`, value: `${tag}=${value}` })),
        ],
      },
      {
        name: 'stamp',
        label: 'Stamp',
        options: [
          { label: 'Any stamp', value: '' },
          ...stamps.map(({ key, title }) => ({ label: `Stamp: ${title}`, value: key })),
        ],
      },
      {
        name: 'by',
        label: 'Person',
        options: [
          { label: 'By anybody', value: '' },
          ...people.map(({ id, name }) => ({ label: `By ${name}`, value: id })),
        ],
      },
      {
        name: 'archived',
        label: 'Archive',
        options: [
          { label: 'Without the archive', value: '' },
          { label: 'The archive', value: 'only' },
          { label: 'With the archive', value: 'too' },
        ],
      },
      {
        name: 'days',
        label: 'Time',
        options: [
          { label: 'Changed at any time', value: '' },
          { label: 'Changed in the last day', value: '1' },
          { label: 'Changed in the last 7 days', value: '7' },
          { label: 'Changed in the last 30 days', value: '30' },
          { label: 'Changed in the last year', value: '365' },
        ],
      },
    ];
    // What has nothing to choose from is not offered.
    return all.filter(({ options }) => options.length > 1);
  });
}
