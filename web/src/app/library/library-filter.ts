import { computed } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { archivedFilters, componentKinds, usageFilters } from '@allomorph/core';
import { debounceTime } from 'rxjs';
import { addressState, type AddressState } from '../shared/address-state';
import type { LibraryFilter as Asked } from '../shared/api';

/** What the library is asked for; all of it stands in the address. */
export class LibraryFilter {
  readonly find = addressState('find');
  readonly kind = addressState('kind');
  readonly usage = addressState('usage', 'any');
  /** Whether what is archived is listed: “only” or “too”. */
  readonly archived = addressState('archived');
  readonly stamp = addressState('stamp');
  readonly collection = addressState('collection');
  /** “tag=value” */
  readonly tag = addressState('tag');
  /** “axis=value” */
  readonly value = addressState('value');
  /** The id of who changed it last. */
  readonly by = addressState('by');
  /** Changed in so many last days. */
  readonly days = addressState('days');

  private readonly all: Readonly<Record<string, AddressState>> = {
    find: this.find,
    kind: this.kind,
    usage: this.usage,
    archived: this.archived,
    stamp: this.stamp,
    collection: this.collection,
    tag: this.tag,
    value: this.value,
    by: this.by,
    days: this.days,
  };
  /** How many of those that are seldom used are on; the collection is seen in its tree. */
  readonly moreOn = computed(() => {
    const others = [this.archived, this.stamp, this.tag, this.value, this.by, this.days];
    return others.filter((each) => each.value() !== '').length + (this.usage.value() === 'any' ? 0 : 1);
  });
  readonly isOn = computed(() => this.query() !== '');
  /** The filter as a part of the address, in one order. */
  readonly query = computed(() => {
    const params = new URLSearchParams();
    for (const [name, { value }] of Object.entries(this.all)) {
      if (value() !== (name === 'usage' ? 'any' : '')) params.set(name, value());
    }
    return params.toString();
  });
  private readonly asked = computed(
    (): Omit<Asked, 'offset' | 'limit'> => ({
      find: this.find.value(),
      kind: componentKinds.find((kind) => kind === this.kind.value()),
      usage: usageFilters.find((usage) => usage === this.usage.value()) ?? 'any',
      archived: archivedFilters.find((each) => each === this.archived.value()),
      stamp: this.stamp.value() || undefined,
      collection: this.collection.value() || undefined,
      tag: this.tag.value() || undefined,
      value: this.value.value() || undefined,
      by: this.by.value() || undefined,
      days: Number(this.days.value()) || undefined,
    }),
    { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) },
  );
  private readonly settledFind = toSignal(toObservable(this.find.value).pipe(debounceTime(200)), {
    initialValue: this.find.value(),
  });
  /** What the server is asked: words when they have been typed, all else at once. */
  readonly settled = computed(() => ({ ...this.asked(), find: this.settledFind() }), {
    equal: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  });

  /** Takes over what a part of an address says, and nothing else. */
  show(query: string): void {
    const params = new URLSearchParams(query);
    for (const [name, state] of Object.entries(this.all))
      state.set(params.get(name) ?? (name === 'usage' ? 'any' : ''), true);
  }
}
