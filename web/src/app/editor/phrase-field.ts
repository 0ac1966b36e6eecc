import {
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { makeNode, type Component as LibraryComponent, type ContentNode } from '@allomorph/core';
import { ContentEditor } from './content-editor';
import { InsertMenu } from './insert-menu';
import { insertionCommand, type Insertion } from './insertion';
import { menuForAll, typeText, type MenuAsked } from './typed-signs';
import { EditorLibrary } from './editor-library';

const emptyPhrase = makeNode('phrase');

/** Edits one short value: inline content, with variables and phrases from the library. */
@Component({
  selector: 'al-phrase-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ContentEditor, InsertMenu],
  template: `
    <al-content-editor
      [body]="value() ?? empty"
      [lanes]="false"
      [label]="label()"
      (changed)="changed.emit(current())"
      (insertAsked)="openMenu($event)"
    />
    <button type="button" class="insert" title="Insert a variable or phrase (Ctrl Space)" (click)="openMenu()">
      +
    </button>
    @if (menu(); as asked) {
      <al-insert-menu
        [at]="asked.at"
        [mode]="asked.mode"
        [sign]="asked.sign"
        [own]="own()"
        [blocks]="false"
        (chosen)="insert($event)"
        (literal)="typeLiterally($event)"
        (closed)="menu.set(null)"
      />
    }
  `,
  styles: `
    :host {
      display: flex;
      border: 1px solid var(--line);
      border-radius: 3px;
      background: var(--sheet);
      min-height: 2.1rem;
    }
    :host:focus-within {
      border-color: var(--accent);
    }
    al-content-editor {
      flex: 1;
      padding: 0.3rem 0.6rem;
    }
    .insert {
      border: 0;
      border-left: 1px solid var(--line);
      background: none;
      color: var(--accent);
      font: 600 1.1rem var(--sans);
      width: 2rem;
      cursor: pointer;
    }
  `,
})
export class PhraseField {
  private readonly library = inject(EditorLibrary);
  private readonly editor = viewChild.required(ContentEditor);
  private readonly changes = inject(ChangeDetectorRef);

  readonly value = input<ContentNode | null>(null);
  readonly label = input('Value');
  /** The component whose value this is. */
  readonly own = input.required<LibraryComponent>();
  readonly changed = output<ContentNode>();
  protected readonly menu = signal<(MenuAsked & { readonly at: { left: number; top: number } }) | null>(null);
  protected readonly empty = emptyPhrase;

  protected current(): ContentNode {
    return this.editor().currentBody();
  }

  protected openMenu(asked: MenuAsked = menuForAll): void {
    this.menu.set({ at: this.editor().caret(), ...asked });
    // What is typed next goes into the menu.
    this.changes.detectChanges();
  }

  protected typeLiterally(text: string): void {
    this.menu.set(null);
    this.editor().run(typeText(text));
  }

  protected insert(insertion: Insertion): void {
    this.menu.set(null);
    if (insertion.kind === 'variable') this.library.load(insertion.key).subscribe({ error: () => undefined });
    this.editor().run(insertionCommand(insertion, true));
  }
}
