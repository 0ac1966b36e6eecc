import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { AutoComplete, type AutoCompleteCompleteEvent, type AutoCompleteSelectEvent } from 'primeng/autocomplete';
import { catchError, of } from 'rxjs';
import { Api } from '../shared/api';
import { Bindings, keyText } from '../shared/bindings';
import { Lens } from '../shared/lens';
import { componentAddress, kindNames } from '../shared/kinds';

interface Found {
  readonly label: string;
  readonly detail: string;
  readonly commands: readonly unknown[];
  readonly query?: Readonly<Record<string, string>>;
}

const places: readonly Found[] = [
  { label: 'Library', detail: 'place', commands: ['/library'] },
  { label: 'Checks', detail: 'place', commands: ['/checks'] },
  { label: 'First hour', detail: 'place', commands: ['/first-hour'] },
  { label: 'Find and replace', detail: 'place', commands: ['/replace'] },
  { label: 'Variables', detail: 'place', commands: ['/variables'] },
  { label: 'Variation', detail: 'place', commands: ['/variation'] },
  { label: 'Publications', detail: 'place', commands: ['/publications'] },
  { label: 'Builds', detail: 'place', commands: ['/builds'] },
  { label: 'Compare', detail: 'place', commands: ['/compare'] },
  { label: 'Bin', detail: 'place', commands: ['/bin'] },
  { label: 'People', detail: 'place', commands: ['/people'] },
  { label: 'My settings', detail: 'place', commands: ['/settings'] },
];

/** Reaches components, publications and places from the keyboard. */
@Component({
  selector: 'al-find-box',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, AutoComplete],
  template: `
    <p-autocomplete
      ariaLabel="Find anything"
      [placeholder]="'Find anything (' + key() + ')'"
      optionLabel="label"
      [suggestions]="found()"
      [(ngModel)]="text"
      [delay]="180"
      [autoOptionFocus]="true"
      emptyMessage="Nothing has this in its title or text."
      (completeMethod)="find($event)"
      (onSelect)="go($event)"
    >
      <ng-template #item let-option>
        <span class="label">{{ option.label }}</span> <span class="detail">{{ option.detail }}</span>
      </ng-template>
    </p-autocomplete>
  `,
  styles: `
    p-autocomplete,
    :host ::ng-deep .p-autocomplete-input {
      width: min(20rem, 100%);
    }
    :host {
      flex: 0 1 20rem;
      min-width: 6rem;
    }
    .label {
      font-weight: 600;
    }
    .detail {
      color: var(--soft);
      margin-left: 0.4rem;
    }
  `,
})
export class FindBox {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  private readonly bindings = inject(Bindings);
  protected readonly key = computed(() => keyText(this.bindings.keyFor('find')));
  protected text: unknown = '';
  protected readonly found = signal<Found[]>([]);

  focus(): void {
    this.host.nativeElement.querySelector('input')?.focus();
  }

  protected find({ query }: AutoCompleteCompleteEvent): void {
    const matches = (text: string): boolean => text.toLowerCase().includes(query.trim().toLowerCase());
    const publications = [...this.lens.publicationTitles()]
      .filter(([, title]) => matches(title))
      .map(([key, label]): Found => ({ label, detail: 'publication', commands: ['/publications', key] }));
    this.api
      .components({ find: query, limit: 12 })
      .pipe(catchError(() => of({ total: 0, items: [] })))
      .subscribe(({ items }) => {
        const components = items.map((item): Found => {
          const { commands, query: params } = componentAddress(item.kind, item.key);
          return { label: item.title, detail: kindNames[item.kind], commands, ...(params ? { query: params } : {}) };
        });
        this.found.set([...places.filter((place) => matches(place.label)), ...publications, ...components]);
      });
  }

  protected go({ value }: AutoCompleteSelectEvent): void {
    const found = value as Found;
    this.text = '';
    void this.router.navigate([...found.commands], { queryParams: found.query ?? {} });
  }
}
