import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { Command, EditorState } from 'prosemirror-state';
import { Wording } from '../shared/wording';
import { removeBlock } from './commands';
import { EditorLibrary } from './editor-library';
import { placedKinds, placedRows, type PlacedKind, type PlacedRow } from './placed-rows';
import { kindName } from './schema-types';

/** So many are listed at once; whoever looks for others narrows the list. */
const mostListed = 300;

interface ShownRow extends PlacedRow {
  readonly title: string;
  readonly told: string;
  /** The newest revision of what is held at an older one; null: there is none. */
  readonly newer: number | null;
}

/** One list of everything that the page takes from elsewhere or leads to: to walk it by its reuse, and to act on each. */
@Component({
  selector: 'al-placed-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RouterLink, Button, InputText],
  templateUrl: './placed-panel.html',
  styleUrl: './placed-panel.css',
})
export class PlacedPanel {
  private readonly library = inject(EditorLibrary);
  protected readonly wording = inject(Wording);

  readonly state = input.required<EditorState | null>();
  readonly editable = input(true);
  readonly chosen = output<number>();
  readonly run = output<Command>();
  readonly ownText = output<PlacedRow>();

  protected readonly kinds = Object.entries(placedKinds) as readonly (readonly [PlacedKind, string])[];
  protected readonly find = signal('');
  protected readonly kind = signal<PlacedKind | ''>('');
  protected readonly onlyNewer = signal(false);
  private readonly doc = computed(() => this.state()?.doc ?? null);
  private readonly all = computed<readonly ShownRow[]>(() => {
    this.library.changes();
    const doc = this.doc();
    return doc ? placedRows(doc).map((row) => this.shown(row)) : [];
  });
  protected readonly fitting = computed(() => {
    const looked = this.find().trim().toLowerCase();
    return this.all().filter(
      ({ title, component, kind, newer }) =>
        `${title} ${component ?? ''}`.toLowerCase().includes(looked) &&
        (this.kind() === '' || kind === this.kind()) &&
        (!this.onlyNewer() || newer !== null),
    );
  });
  protected readonly listed = computed(() => this.fitting().slice(0, mostListed));
  protected readonly count = computed(() => this.all().length);
  protected readonly outdated = computed(() =>
    this.all().filter(({ newer, kind }) => newer !== null && kind === 'placed'),
  );
  protected readonly at = computed(() => this.state()?.selection.from ?? -1);

  private shown(row: PlacedRow): ShownRow {
    const { node, kind, component, held } = row;
    const newest = component === null ? undefined : this.library.get(component)?.revision;
    const newer = held !== null && newest !== undefined && newest > held ? newest : null;
    const title = this.titleOf(row);
    const mode = kind === 'copy' ? 'copied' : held === null ? 'live' : 'held';
    const of = held === null ? '' : ` at revision ${held}`;
    const told = kind === 'placed' || kind === 'copy' ? `${mode}${of}${newer === null ? '' : `, newest ${newer}`}` : '';
    return {
      ...row,
      title,
      told: told || (kind === 'slot' ? 'fills itself' : kindName(node.type.name)),
      newer,
    };
  }

  private titleOf({ node, kind, component }: PlacedRow): string {
    if (kind === 'slot') return `“${String(node.attrs['collection'] ?? '')}”`;
    if (kind === 'reference') {
      const target: unknown = node.attrs['target'];
      const own = component === null;
      return own ? 'this page' : this.library.targetTitle(component, typeof target === 'string' ? target : null, null);
    }
    return component === null ? 'nothing chosen' : this.library.titleOf(component);
  }

  protected bringUp(rows: readonly ShownRow[]): void {
    this.run.emit((state, dispatch) => {
      const { tr } = state;
      for (const { position, node, newer } of rows)
        if (newer !== null && state.doc.nodeAt(position)?.eq(node)) tr.setNodeAttribute(position, 'revision', newer);
      if (!tr.docChanged) return false;
      dispatch?.(tr);
      return true;
    });
  }

  protected remove({ position, node }: ShownRow): void {
    this.run.emit((state, dispatch) => {
      if (!state.doc.nodeAt(position)?.eq(node)) return false;
      if (!node.isInline) return removeBlock(position)(state, dispatch);
      dispatch?.(state.tr.delete(position, position + node.nodeSize));
      return true;
    });
  }
}
