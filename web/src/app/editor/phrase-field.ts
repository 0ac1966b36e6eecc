import { ChangeDetectionStrategy, Component, input, output, viewChild } from '@angular/core';
import { makeNode, type Component as LibraryComponent, type ContentNode } from '@allomorph/core';
import { ContentEditor } from './content-editor';
import { PageMenu } from './page-menu';
import { PageMenuLayer } from './page-menu-layer';

const emptyPhrase = makeNode('phrase');

/** Edits one short value: inline content, with variables and phrases from the library. */
@Component({
  selector: 'al-phrase-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ContentEditor, PageMenuLayer],
  template: `
    <al-content-editor
      [body]="value() ?? empty"
      [lanes]="false"
      [label]="label()"
      (changed)="changed.emit(current())"
      (insertAsked)="menu.open($event)"
    />
    <button type="button" class="insert" title="Insert a variable or phrase (Ctrl Space)" (click)="menu.open()">
      +
    </button>
    <al-page-menu [menu]="menu" [own]="own()" [blocks]="false" />
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
  private readonly editor = viewChild.required(ContentEditor);

  readonly value = input<ContentNode | null>(null);
  readonly label = input('Value');
  /** The component whose value this is. */
  readonly own = input.required<LibraryComponent>();
  readonly changed = output<ContentNode>();
  protected readonly menu = new PageMenu(this.editor, () => true);
  protected readonly empty = emptyPhrase;

  protected current(): ContentNode {
    return this.editor().currentBody();
  }
}
