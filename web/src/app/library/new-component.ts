import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  model,
  output,
  signal,
  untracked,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import {
  duplicateBody,
  makeNode,
  makeText,
  type Component as LibraryComponent,
  type ComponentBody,
} from '@allomorph/core';
import { AutoFocus } from 'primeng/autofocus';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { SelectButton } from 'primeng/selectbutton';
import { map, of, switchMap, type Observable } from 'rxjs';
import { Api } from '../shared/api';
import { Sending } from '../shared/sending';

type NewKind = 'topic' | 'snippet' | 'phrase' | 'variable' | 'image' | 'link';

/** The tag of what new components can begin with, as the library's filter takes it. */
const templateTag = 'template=yes';

/** Makes a component of any kind. */
@Component({
  selector: 'al-new-component',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, AutoFocus, Dialog, Button, InputText, Select, SelectButton],
  template: `
    <p-dialog header="New component" [modal]="true" [(visible)]="open" [style]="{ width: '36rem' }">
      <form (ngSubmit)="create()">
        <p-selectbutton
          [options]="kinds"
          optionLabel="label"
          optionValue="value"
          [allowEmpty]="false"
          [ngModel]="kind()"
          (ngModelChange)="kind.set($event); template.set('')"
          name="kind"
          ariaLabel="Kind"
        />
        <p class="what">{{ explain[kind()] }}</p>
        @if (kind() === 'image') {
          <div class="field">
            <label for="new-file">Picture (PNG, JPEG, GIF, WebP or SVG)</label>
            <input id="new-file" type="file" accept="image/*" (change)="pick($event)" />
          </div>
          <div class="field">
            <label for="new-alt">Alternative text</label>
            <input pInputText id="new-alt" name="alt" [(ngModel)]="alt" />
            <small>What the picture says, for people who cannot see it.</small>
          </div>
        } @else {
          <div class="field">
            <label for="new-title">Title</label>
            <input pInputText [pAutoFocus]="true" id="new-title" name="title" [(ngModel)]="title" autocomplete="off" />
          </div>
          @if (mayBeginWith()) {
            <div class="field">
              <label for="new-template">Begin with</label>
              <p-select
                inputId="new-template"
                ariaLabel="Begin with"
                name="template"
                [options]="choices()"
                optionLabel="title"
                optionValue="key"
                [ngModel]="template()"
                (ngModelChange)="template.set($event)"
                appendTo="body"
              />
              <small>Topics and snippets that are tagged “template: yes” are offered here.</small>
            </div>
          }
          @if (kind() === 'link') {
            <div class="field">
              <label for="new-href">Address</label>
              <input pInputText id="new-href" name="href" [(ngModel)]="href" placeholder="https://" />
            </div>
          }
        }
        @if (sending.problem(); as text) {
          <p class="problem-text" role="alert">{{ text }}</p>
        }
        <div class="end">
          <p-button label="Cancel" [text]="true" (onClick)="open.set(false)" />
          <p-button type="submit" label="Create" [loading]="sending.busy()" />
        </div>
      </form>
    </p-dialog>
  `,
  styles: `
    .what {
      color: var(--soft);
      margin: 0.6rem 0 0.9rem;
    }
    .end {
      display: flex;
      justify-content: flex-end;
      gap: 0.6rem;
    }
  `,
})
export class NewComponentDialog {
  private readonly api = inject(Api);

  readonly open = model(false);
  readonly created = output<LibraryComponent>();
  protected readonly kind = signal<NewKind>('topic');
  protected title = '';
  protected href = '';
  protected alt = '';
  private file: File | null = null;
  /** The key of the template that it begins with; empty: none. */
  protected readonly template = signal('');
  protected readonly mayBeginWith = computed(() => this.kind() === 'topic' || this.kind() === 'snippet');
  private readonly templates = rxResource({
    params: () => (this.open() && this.mayBeginWith() ? this.kind() : undefined),
    stream: ({ params }) => this.api.components({ kind: params as 'topic' | 'snippet', tag: templateTag, limit: 100 }),
  });
  protected readonly choices = computed(() => [
    { key: '', title: 'Nothing: an empty page' },
    ...(this.templates.hasValue() ? this.templates.value().items : []).map(({ key, title }) => ({ key, title })),
  ]);
  protected readonly sending = new Sending(this.open);
  protected readonly kinds: { label: string; value: NewKind }[] = [
    { label: 'Topic', value: 'topic' },
    { label: 'Snippet', value: 'snippet' },
    { label: 'Phrase', value: 'phrase' },
    { label: 'Variable', value: 'variable' },
    { label: 'Image', value: 'image' },
    { label: 'Link', value: 'link' },
  ];
  protected readonly explain: Readonly<Record<NewKind, string>> = {
    topic: 'A page of content with a title, for outlines and for placing in other topics.',
    snippet: 'One or more blocks to be placed in many topics: a warning, a tool list, a procedure.',
    phrase: 'A snippet that is placed inside a line of text.',
    variable: 'A short value with a name, which may differ by axis and language.',
    image: 'An uploaded picture, kept in one place.',
    link: 'An address on the web, kept in one place with its label.',
  };

  constructor() {
    effect(() => {
      if (this.open()) untracked(() => this.reset());
    });
  }

  private reset(): void {
    this.title = '';
    this.href = '';
    this.alt = '';
    this.file = null;
    this.template.set('');
  }

  protected pick(event: Event): void {
    this.file = (event.target as HTMLInputElement).files?.[0] ?? null;
  }

  protected create(): void {
    const kind = this.kind();
    const title = this.title.trim();
    if (kind === 'image' ? !this.file : title === '') {
      this.sending.problem.set(kind === 'image' ? 'Choose a picture.' : 'Give it a title.');
      return;
    }
    const made: Observable<LibraryComponent> =
      kind === 'image'
        ? this.api.uploadImage(this.file as File, this.alt)
        : this.firstBody(kind, title).pipe(
            switchMap((body) => this.api.createComponent({ kind: kind === 'phrase' ? 'snippet' : kind, title, body })),
          );
    this.sending.send(made, (component, isOpen) => {
      if (isOpen) this.open.set(false);
      this.created.emit(component);
    });
  }

  /** What a new component begins with: that of the chosen template, or nothing. */
  private firstBody(kind: NewKind, title: string): Observable<ComponentBody> {
    const key = this.mayBeginWith() ? this.template() : '';
    if (key === '') return of(this.emptyBody(kind, title));
    return this.api.closure(key).pipe(map(({ component }) => duplicateBody(component, title)));
  }

  private emptyBody(kind: NewKind, title: string): ComponentBody {
    switch (kind) {
      case 'topic':
        return makeNode('topic', null, [makeNode('title', null, [makeText(title)]), makeNode('paragraph')]);
      case 'snippet':
        return makeNode('fragment', null, [makeNode('paragraph')]);
      case 'phrase':
        return makeNode('phrase');
      case 'link':
        return { type: 'link', href: this.href.trim(), label: title };
      default:
        return { type: 'variable', default: null, rules: [] };
    }
  }
}
