import { computed, inject, signal, type Signal } from '@angular/core';
import { flattenEntries, type OutlineEntry } from '@allomorph/core';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';
import {
  addEntries,
  changeEntries,
  cutEntries,
  moveEntries,
  pickedEntries,
  putEntries,
  removeEntries,
  withFreshIds,
  type DropPlace,
  type EntryMove,
} from './outline';
import { entriesOnClipboard, putOnClipboard } from './outline-clipboard';
import { OutlineHistory } from './outline-history';

/** The outline that is worked on. */
export interface WorkedOutline {
  readonly entries: Signal<readonly OutlineEntry[]>;
  /** The entry that is chosen, shown beside the outline. */
  readonly chosenId: Signal<string | null>;
  readonly titleOf: Signal<(entry: OutlineEntry) => string>;
  choose(id: string | null): void;
  put(entries: readonly OutlineEntry[]): void;
  /** Brings the keyboard back to the entries. */
  focus(): void;
}

/** Whether an entry is only a heading, with what stands below it. */
export const isHeading = ({ topic, publication, link }: OutlineEntry): boolean =>
  topic === undefined && publication === undefined && link === undefined;

/** What people do to the entries that they have picked; each act can be undone. Needs a place to inject from. */
export class OutlineActs {
  private readonly notices = inject(Notices);
  private readonly session = inject(Session);
  private readonly wording = inject(Wording);
  private readonly picked = signal<ReadonlySet<string>>(new Set());
  /** The entries that acts are for. */
  readonly pickedNow = computed<ReadonlySet<string>>(() => {
    const [chosen, picked] = [this.outline.chosenId(), this.picked()];
    return chosen === null || picked.has(chosen) ? picked : new Set([chosen]);
  });
  readonly history = new OutlineHistory();

  constructor(private readonly outline: WorkedOutline) {}

  /** Another outline begins: nothing of it is picked, and nothing was done to it. */
  begin(): void {
    this.picked.set(new Set());
    this.history.forget();
  }

  pick(entries: ReadonlySet<string>): void {
    this.picked.set(entries);
  }

  choose(id: string | null): void {
    this.outline.choose(id);
    this.picked.set(new Set(id === null ? [] : [id]));
  }

  add(target: Omit<OutlineEntry, 'id'>): void {
    this.put('Add an entry', [{ id: '', ...target }]);
  }

  /** Adds several topics behind the last entry; the list that they were chosen from stays. */
  addMany(topics: readonly string[]): void {
    this.set(`Add ${this.entryCount(topics.length)}`, addEntries(this.outline.entries(), null, this.entriesOf(topics)));
  }

  dropTopics(dropped: {
    readonly topics: readonly string[];
    readonly target: string;
    readonly place: DropPlace;
  }): void {
    const { topics, target, place } = dropped;
    this.set(
      `Add ${this.entryCount(topics.length)}`,
      putEntries(this.outline.entries(), this.entriesOf(topics), target, place),
    );
  }

  private entriesOf(topics: readonly string[]): readonly OutlineEntry[] {
    return withFreshIds(
      topics.map((topic) => ({ id: '', topic })),
      this.outline.entries(),
    );
  }

  change(change: Partial<OutlineEntry>): void {
    const picked = this.pickedNow();
    if (picked.size === 0) return;
    const what = 'title' in change ? 'Title' : 'role' in change ? 'Role' : 'when' in change ? 'Condition' : 'Values';
    const joins = what === 'Title' ? `title of ${[...picked].join()}` : null;
    this.set(
      `${what} of ${this.entryCount(picked.size)}`,
      changeEntries(this.outline.entries(), picked, change),
      joins,
    );
  }

  /** A heading keeps its last sign: without a title it would be nothing. */
  retitleEntry(entry: OutlineEntry, title: string): void {
    if (title.trim() !== '' || !isHeading(entry)) this.change({ title: title || null });
  }

  move(to: EntryMove): void {
    if (!this.session.mayOutline()) return;
    const picked = this.pickedNow();
    const moved = moveEntries(this.outline.entries(), picked, to);
    if (moved !== this.outline.entries()) this.set(`Move ${this.entryCount(picked.size)}`, moved);
    // The next key moves it on.
    this.outline.focus();
  }

  remove(): void {
    const picked = this.pickedNow();
    if (picked.size === 0) return;
    this.set(`Take out ${this.entryCount(picked.size)}`, removeEntries(this.outline.entries(), picked));
    this.choose(null);
  }

  copy(event: ClipboardEvent): void {
    const entries = pickedEntries(this.outline.entries(), this.pickedNow());
    if (entries.length === 0 || !event.clipboardData) return;
    event.preventDefault();
    putOnClipboard(event.clipboardData, entries, this.outline.titleOf());
    if (event.type !== 'cut' || !this.session.mayOutline()) return;
    this.set(`Cut ${this.entryCount(entries.length)}`, cutEntries(this.outline.entries(), this.pickedNow()));
    this.choose(null);
  }

  paste(event: ClipboardEvent): void {
    const entries = event.clipboardData ? entriesOnClipboard(event.clipboardData) : [];
    if (entries.length === 0 || !this.session.mayOutline()) return;
    event.preventDefault();
    this.put(`Paste ${this.entryCount(entries.length)}`, entries);
    this.outline.focus();
  }

  undo(): void {
    if (this.history.undoes() !== '') this.show(this.history.undo(this.outline.entries()));
  }

  redo(): void {
    if (this.history.redoes() !== '') this.show(this.history.redo(this.outline.entries()));
  }

  /** Puts entries behind the last picked one, or at the end, and picks them. */
  private put(what: string, entries: readonly OutlineEntry[]): void {
    const added = withFreshIds(entries, this.outline.entries());
    const last = pickedEntries(this.outline.entries(), this.pickedNow()).at(-1);
    this.set(what, addEntries(this.outline.entries(), last?.id ?? null, added));
    this.choose(added[0]?.id ?? null);
    this.picked.set(new Set(added.map(({ id }) => id)));
  }

  entryCount(count: number): string {
    return this.wording.count(count, 'entry', 'entries');
  }

  private show(entries: readonly OutlineEntry[] | null): void {
    if (entries) this.outline.put(entries);
    else this.notices.done('Somebody else has changed the outline since: what was done before that stays.');
    const there = new Set(flattenEntries(this.outline.entries()).map(({ entry }) => entry.id));
    if (!there.has(this.outline.chosenId() ?? '')) this.choose(null);
    this.picked.update((picked) => new Set([...picked].filter((id) => there.has(id))));
    this.outline.focus();
  }

  /** @param what said by the button that undoes it */
  set(what: string, entries: readonly OutlineEntry[], joins: string | null = null): void {
    this.history.keep(what, this.outline.entries(), entries, joins);
    this.outline.put(entries);
  }
}
