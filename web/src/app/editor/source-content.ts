import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import {
  componentFrom,
  contentBody,
  makeNode,
  type Component as LibraryComponent,
  type ContentNode,
  writtenTitle,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../shared/api';
import { Bindings } from '../shared/bindings';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { Session } from '../shared/session';
import { ContentEditor } from './content-editor';
import { EditorLibrary } from './editor-library';
import { MarkBar } from './mark-bar';
import { PageMenu } from './page-menu';
import { PageMenuLayer } from './page-menu-layer';
import { ReachPanel } from './reach-panel';

interface ContentParts {
  readonly title: string;
  readonly body: ContentNode;
}

const nothing = makeNode('fragment');

/** A topic or snippet that is written on over the page which places it; before it is saved, one sees what that alters. */
@Component({
  selector: 'al-source-content',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, ContentEditor, EditingBands, InputText, PageMenuLayer, MarkBar, ReachPanel],
  template: `
    <al-editing-bands [editing]="editing" [newest]="component()" [names]="partNames" (saved)="saved.emit($event)" />
    @if (!isTopic()) {
      <div class="field">
        <label for="source-title">Title</label>
        <input
          pInputText
          id="source-title"
          [ngModel]="parts().title"
          (ngModelChange)="editing.change({ title: $event })"
          [readonly]="!session.mayWrite()"
        />
      </div>
    }
    <div class="both">
      <div class="written">
        @if (session.mayWrite()) {
          <al-mark-bar [state]="state()" [finds]="false" (run)="editor()?.run($event)" (insertAsked)="menu.open()" />
        }
        <div class="sheet">
          <al-content-editor
            [body]="parts().body"
            [own]="component()"
            [editable]="session.mayWrite()"
            [besides]="true"
            [label]="'Content of the source ' + component().title"
            (changed)="write()"
            (insertAsked)="menu.open($event)"
            (sourceAsked)="sourceAsked.emit($event)"
          />
        </div>
      </div>
      @if (session.mayWrite()) {
        <aside>
          <h3>Reach</h3>
          @if (editing.dirty()) {
            <al-reach-panel [written]="written()" [dirty]="true" />
          } @else {
            <p class="soft">What you change here changes wherever this stands: you will see where, before you save.</p>
          }
        </aside>
      }
    </div>
    @if (session.mayWrite()) {
      <div class="end">
        <span class="state" aria-live="polite">{{ editing.dirty() ? 'not saved' : 'saved' }}</span>
        <p-button
          label="Save the source"
          icon="pi pi-check"
          [disabled]="!editing.dirty()"
          [loading]="editing.saving()"
          (onClick)="save()"
        />
      </div>
    }
    <al-page-menu [menu]="menu" [own]="component()" [page]="state()?.doc ?? null" [blocks]="!isPhrase()" />
  `,
  styles: `
    .both {
      display: flex;
      gap: 1rem;
      min-height: 0;
    }
    .written {
      flex: 1;
      min-width: 0;
    }
    .sheet {
      background: var(--sheet);
      border: 1px solid var(--line);
      padding: 0.5rem 1rem;
      max-height: 52vh;
      overflow: auto;
    }
    aside {
      flex: 0 0 18rem;
      max-height: 58vh;
      overflow: auto;
    }
    h3 {
      margin: 0 0 0.4rem;
    }
    .end {
      display: flex;
      justify-content: flex-end;
      align-items: center;
      gap: 1rem;
      margin-top: 0.8rem;
    }
    .state,
    .soft {
      color: var(--soft);
    }
    @media (max-width: 800px) {
      .both {
        flex-direction: column;
      }
      aside {
        flex: none;
        max-height: none;
      }
    }
  `,
})
export class SourceContent {
  private readonly api = inject(Api);
  private readonly bindings = inject(Bindings);
  private readonly library = inject(EditorLibrary);
  protected readonly session = inject(Session);
  protected readonly editor = viewChild(ContentEditor);

  readonly component = input.required<LibraryComponent>();
  readonly saved = output<LibraryComponent>();
  readonly changing = output<boolean>();
  /** The source of something that stands in this one is to be opened. */
  readonly sourceAsked = output<string>();

  protected readonly editing = inject(Edits).of<LibraryComponent, ContentParts>({
    nameOf: ({ key }) => `source ${key}`,
    titleOf: ({ title }) => title,
    partsOf: (component) => ({ title: component.title, body: contentBody(component) ?? nothing }),
    save: ({ key, revision }, { title, body }) =>
      this.api.saveComponent(key, { base: revision, title: title.trim(), body }),
  });
  protected readonly partNames = { title: 'the title', body: 'the content' };
  protected readonly parts = computed<ContentParts>(() => this.editing.parts() ?? { title: '', body: nothing });
  protected readonly isTopic = computed(() => this.component().kind === 'topic');
  protected readonly isPhrase = computed(() => this.parts().body.type === 'phrase');
  protected readonly menu = new PageMenu(this.editor, () => this.isPhrase());
  protected readonly state = computed(() => this.editor()?.state() ?? null);
  /** The source as it is written now, when the writer pauses. */
  private readonly settled = signal<ContentParts | null>(null);
  protected readonly written = computed(() => {
    const parts = this.settled() ?? this.parts();
    return this.library.closureOf(componentFrom({ ...this.component(), ...parts }));
  });
  private pausing: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    effect(() => {
      const component = this.component();
      untracked(() => void this.editing.show(component));
    });
    effect(() => this.changing.emit(this.editing.dirty()));
  }

  @HostListener('document:keydown', ['$event'])
  protected keys(event: KeyboardEvent): void {
    if (event.defaultPrevented || this.bindings.meant(event) !== 'save') return;
    event.preventDefault();
    this.save();
  }

  protected write(): void {
    const body = this.editor()?.currentBody();
    if (!body) return;
    this.editing.change({ body, title: body.type === 'topic' ? writtenTitle(body, '') : this.parts().title });
    clearTimeout(this.pausing);
    this.pausing = setTimeout(() => this.settled.set(this.parts()), 400);
  }

  protected save(): void {
    this.editing.save((saved) => this.saved.emit(saved));
  }
}
