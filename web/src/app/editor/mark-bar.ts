import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { safeAddress } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { toggleMark } from 'prosemirror-commands';
import { redo, undo } from 'prosemirror-history';
import { debounceTime } from 'rxjs';
import type { Command, EditorState } from 'prosemirror-state';
import { linkAt, putLink } from './commands';
import { redoes, undoes } from './undo-names';
import { kindName, markType } from './schema-types';
import { blockKinds, kindAtCursor, turnInto, type BlockKind } from './turn-into';

interface MarkButton {
  readonly name: string;
  readonly attrs: Readonly<Record<string, unknown>> | null;
  readonly label: string;
  readonly title: string;
}

const buttons: readonly MarkButton[] = [
  { name: 'strong', attrs: null, label: 'Strong', title: 'Strong (Ctrl B)' },
  { name: 'emphasis', attrs: null, label: 'Emphasis', title: 'Emphasis (Ctrl I)' },
  { name: 'interface_label', attrs: null, label: 'Label', title: 'Label of a button, menu or display' },
  { name: 'key', attrs: null, label: 'Key', title: 'A key to press' },
  { name: 'code', attrs: { kind: 'code' }, label: 'Code', title: 'Code' },
  { name: 'defined_term', attrs: null, label: 'Term', title: 'A term where it is defined' },
  { name: 'cited_title', attrs: null, label: 'Title', title: 'The title of a cited work' },
  { name: 'quote', attrs: null, label: 'Quote', title: 'Quoted words' },
  { name: 'superscript', attrs: null, label: 'x²', title: 'Superscript' },
  { name: 'subscript', attrs: null, label: 'x₂', title: 'Subscript' },
];

/** The row of marks above the page, and the dialog that links words to an address. */
@Component({
  selector: 'al-mark-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Dialog, InputText],
  templateUrl: './mark-bar.html',
  styleUrl: './mark-bar.css',
})
export class MarkBar {
  readonly state = input.required<EditorState | null>();
  /** Whether it offers to find on the page. */
  readonly finds = input(true);
  readonly run = output<Command>();
  readonly insertAsked = output();
  readonly findAsked = output();

  protected readonly marks = buttons;
  protected readonly linkOpen = signal(false);
  protected href = '';
  /** Whether the dialog changes a link that is there. */
  protected readonly linked = signal(false);
  protected readonly linkProblem = signal('');
  private readonly active = computed(() => {
    const state = this.state();
    if (!state) return new Set<string>();
    const { $from, empty, from, to } = state.selection;
    const marks = empty ? (state.storedMarks ?? $from.marks()) : [];
    const active = new Set(marks.map((mark) => mark.type.name));
    if (!empty) {
      for (const { name } of buttons) if (state.doc.rangeHasMark(from, to, markType(name))) active.add(name);
    }
    return active;
  });

  /** Undo and redo, which say what of. */
  protected readonly histories = computed(() => {
    const state = this.state();
    const [back, again] = state ? [undoes(state), redoes(state)] : [null, null];
    const told = (name: string, what: string | null): string =>
      what === null ? `Nothing to ${name.toLowerCase()}` : `${name}: ${what}`;
    return [
      { name: 'undo', title: told('Undo', back), isPossible: back !== null, command: undo, icon: 'pi pi-undo' },
      { name: 'redo', title: told('Redo', again), isPossible: again !== null, command: redo, icon: 'pi pi-undo again' },
    ];
  });

  /** What the block at the cursor is, and what it can be turned into. */
  protected readonly kinds = blockKinds;
  protected readonly kind = computed(() => {
    const state = this.state();
    return state ? kindAtCursor(state) : null;
  });
  /** What stands at the cursor that is turned into nothing else. */
  protected readonly fixedKind = computed(() => {
    const name = kindName(this.state()?.selection.$from.parent.type.name ?? '');
    return name.charAt(0).toUpperCase() + name.slice(1);
  });
  protected readonly possible = signal<ReadonlySet<BlockKind>>(new Set());

  constructor() {
    // While somebody types, nobody wants to know.
    toObservable(this.state)
      .pipe(debounceTime(150), takeUntilDestroyed())
      .subscribe(() => this.askKinds());
  }

  protected askKinds(): void {
    const state = this.state();
    if (state) this.possible.set(new Set(blockKinds.map(({ name }) => name).filter((name) => turnInto(name)(state))));
  }

  protected turn(event: Event): void {
    const chosen = blockKinds.find(({ name }) => name === (event.target as HTMLSelectElement).value);
    if (chosen) this.run.emit(turnInto(chosen.name));
  }

  protected isActive(mark: MarkButton): boolean {
    return this.active().has(mark.name);
  }

  protected mark({ name, attrs }: MarkButton): void {
    this.run.emit(toggleMark(markType(name), attrs));
  }

  protected openLink(): void {
    const state = this.state();
    const link = state ? linkAt(state) : null;
    this.href = link?.href ?? '';
    this.linked.set(link !== null);
    this.linkProblem.set('');
    this.linkOpen.set(true);
  }

  protected putLink(): void {
    const href = this.href.trim();
    if (href !== '' && safeAddress(href) === null) {
      this.linkProblem.set(
        'This address cannot be linked. Give one such as https://example.org/ or mailto:somebody@example.org.',
      );
      return;
    }
    this.linkOpen.set(false);
    if (href !== '') this.run.emit(putLink(href));
  }

  protected takeLinkAway(): void {
    this.linkOpen.set(false);
    this.run.emit(putLink(null));
  }
}
