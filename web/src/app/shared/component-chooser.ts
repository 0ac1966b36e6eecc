import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ComponentKind, ComponentRow } from '@allomorph/core';
import { AutoComplete, type AutoCompleteCompleteEvent, type AutoCompleteSelectEvent } from 'primeng/autocomplete';
import { catchError, of } from 'rxjs';
import { Api } from './api';
import { ComponentTitles } from './component-titles';

const atOnce = 50;

/** Chooses a component of one kind by what is in it; the server looks, however many there are. */
@Component({
  selector: 'al-component-chooser',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, AutoComplete],
  template: `
    <p-autocomplete
      [ariaLabel]="label()"
      [placeholder]="label()"
      optionLabel="title"
      [suggestions]="found()"
      [(ngModel)]="text"
      [delay]="180"
      [dropdown]="true"
      dropdownMode="blank"
      [pt]="{ dropdown: { 'aria-label': 'Show the first' } }"
      [completeOnFocus]="false"
      appendTo="body"
      emptyMessage="Nothing fits."
      (completeMethod)="find($event)"
      (onSelect)="choose($event)"
    >
      <ng-template #footer>
        @if (more() > 0) {
          <p class="more">{{ more() }} more fit. Type on to narrow them down.</p>
        }
      </ng-template>
    </p-autocomplete>
  `,
  styles: `
    p-autocomplete {
      width: min(18rem, 100%);
    }
    .more {
      margin: 0;
      padding: 0.4rem 0.8rem;
      color: var(--soft);
      border-top: 1px solid var(--line);
    }
  `,
})
export class ComponentChooser {
  private readonly api = inject(Api);
  private readonly titles = inject(ComponentTitles);

  readonly kind = input.required<ComponentKind>();
  readonly label = input.required<string>();
  /** Keys that are not offered. */
  readonly without = input<readonly string[]>([]);
  readonly chosen = output<ComponentRow>();
  protected text: unknown = '';
  protected readonly found = signal<ComponentRow[]>([]);
  protected readonly more = signal(0);

  protected find({ query }: AutoCompleteCompleteEvent): void {
    this.api
      .components({ find: query, kind: this.kind(), limit: atOnce })
      .pipe(catchError(() => of({ total: 0, items: [] })))
      .subscribe(({ total, items }) => {
        this.titles.add(items);
        this.more.set(total - items.length);
        this.found.set(items.filter(({ key }) => !this.without().includes(key)));
      });
  }

  protected choose({ value }: AutoCompleteSelectEvent): void {
    this.text = '';
    this.chosen.emit(value as ComponentRow);
  }
}
