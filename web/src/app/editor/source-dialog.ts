import { ChangeDetectionStrategy, Component, computed, inject, model, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { contentBody, type Component as LibraryComponent } from '@allomorph/core';
import { Dialog } from 'primeng/dialog';
import { map, tap } from 'rxjs';
import { Api, problemText } from '../shared/api';
import { VariableEditor } from '../variables/variable-editor';
import { EditorLibrary } from './editor-library';
import { PlainComponentForm } from './plain-component-form';
import { SourceContent } from './source-content';

/**
 * The source of what a page places and uses, opened over the page: to be read and changed without leaving what one writes. What is
 * not saved when it is closed is there when it is opened again.
 */
@Component({
  selector: 'al-source-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Dialog, RouterLink, PlainComponentForm, SourceContent, VariableEditor],
  template: `
    <p-dialog
      [header]="heading()"
      [modal]="true"
      [visible]="key() !== null"
      (visibleChange)="key.set(null)"
      [style]="{ width: 'min(70rem, 96vw)' }"
      [focusOnShow]="false"
    >
      @if (read.error(); as error) {
        <p class="problem-text">{{ text(error) }}</p>
      } @else if (source(); as component) {
        <p class="head">
          <span class="kind">{{ component.kind }}</span>
          <span class="soft">revision {{ component.revision }}{{ dirty() ? ', not saved' : '' }}</span>
          <a [routerLink]="['/edit', component.key]" (click)="key.set(null)">Open on its own page</a>
        </p>
        @if (component.kind === 'variable') {
          <al-variable-editor
            [component]="component"
            (saved)="saved($event)"
            (closed)="key.set(null)"
            (changing)="dirty.set($event)"
          />
        } @else if (isContent()) {
          <al-source-content
            [component]="component"
            (saved)="saved($event)"
            (changing)="dirty.set($event)"
            (sourceAsked)="key.set($event)"
          />
        } @else {
          <al-plain-component-form [component]="component" (saved)="saved($event)" (changing)="dirty.set($event)" />
        }
      }
    </p-dialog>
  `,
  styles: `
    .head {
      margin: 0 0 0.6rem;
      display: flex;
      flex-wrap: wrap;
      align-items: baseline;
      gap: 0.2rem 0.7rem;
    }
    .kind {
      color: var(--accent);
      font-weight: 600;
    }
    .soft {
      color: var(--soft);
      font-size: 0.9rem;
    }
    a {
      color: var(--accent);
    }
  `,
})
export class SourceDialog {
  private readonly api = inject(Api);
  private readonly library = inject(EditorLibrary);
  /** The component that is open; null: none. */
  readonly key = model<string | null>(null);

  protected readonly read = rxResource({
    params: () => this.key() ?? undefined,
    stream: ({ params }) =>
      this.api.closure(params).pipe(
        tap((closure) => this.library.add(closure)),
        map(({ component }) => component),
      ),
  });
  protected readonly source = computed<LibraryComponent | null>(() =>
    this.read.hasValue() ? this.read.value() : null,
  );
  protected readonly heading = computed(() => this.source()?.title ?? 'Source');
  protected readonly isContent = computed(() => {
    const component = this.source();
    return component !== null && contentBody(component) !== undefined;
  });
  protected readonly dirty = signal(false);

  protected saved(component: LibraryComponent): void {
    this.library.add(this.library.closureOf(component));
    this.key.set(null);
  }

  protected text(error: unknown): string {
    return problemText(error);
  }
}
