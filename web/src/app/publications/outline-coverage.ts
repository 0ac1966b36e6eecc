import { computed, effect, inject, type Signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import {
  conditionOfTopic,
  flattenEntries,
  Selector,
  type ConditionTest,
  type OutlineEntry,
  type StoredPublication,
  type StoredVariant,
} from '@allomorph/core';
import { catchError, of } from 'rxjs';
import { Api } from '../shared/api';
import { latest } from '../shared/latest';
import { Lens } from '../shared/lens';
import type { GridCell } from './outline-grid';

/** The outline that is looked at. */
export interface CoveredOutline {
  /** As it is saved. */
  readonly base: Signal<StoredPublication | null>;
  /** As it stands on the page. */
  readonly entries: Signal<readonly OutlineEntry[]>;
  readonly variants: Signal<readonly StoredVariant[]>;
}

/** What each variant has of the entries of an outline, and what the lens leaves out of them. Needs a place to inject from. */
export class OutlineCoverage {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);

  /** For each variant, the entries whose own and outer conditions hold; worked out for those that are in view. */
  private readonly covered = computed(() => {
    const entries = this.outline.entries();
    const [profiles, vocabulary] = [this.lens.variation().profiles, this.lens.vocabulary()];
    const own = this.ownConditions();
    const known = new Map<string, ReadonlySet<string>>();
    return (variant: StoredVariant): ReadonlySet<string> => {
      let found = known.get(variant.profile);
      if (!found) {
        const profile = profiles.find((each) => each.key === variant.profile);
        found = profile ? entriesIn(entries, new Selector(vocabulary, profile), own) : new Set();
        known.set(variant.profile, found);
      }
      return found;
    };
  });
  /** What each variant has of each entry of the outline as it is saved, blocks counted. */
  private readonly read = rxResource({
    params: () => {
      const base = this.outline.base();
      return base ? { key: base.key, revision: base.revision, variants: this.outline.variants() } : undefined;
    },
    stream: ({ params }) => this.api.coverage(params.key).pipe(catchError(() => of(null))),
  });
  readonly saved = latest(this.read, null);
  /** What topics of the outline say of themselves, as they are saved. */
  readonly ownConditions = computed(() => this.saved()?.ownConditions ?? {});
  /** The same, to look up by variant and entry. */
  private readonly savedCells = computed(() => {
    const coverage = this.saved();
    return {
      column: new Map(coverage?.variants.map((id, at) => [id, at] as const)),
      row: new Map(coverage?.rows.map((row) => [row.entry, row] as const)),
    };
  });
  /** Entries that the lens leaves out; null without a lens. */
  private readonly throughLens = computed(() => {
    const selector = this.lens.selector();
    return selector ? entriesIn(this.outline.entries(), selector, this.ownConditions()) : null;
  });

  constructor(private readonly outline: CoveredOutline) {
    effect(() => {
      const shown = this.throughLens();
      const all = flattenEntries(this.outline.entries()).length;
      this.lens.hidden.set(shown ? { count: all - shown.size, what: 'entry', open: this.openEntries().size } : null);
    });
  }

  /**
   * How much of an entry one variant has. While the outline is being changed only the entry's own and
   * outer conditions are known here; content is counted again when it is saved.
   */
  readonly cellOf = computed(() => {
    const variants = new Map(this.outline.variants().map((variant) => [variant.id, variant]));
    const [covered, cells] = [this.covered(), this.savedCells()];
    return (column: string, entry: string): GridCell => {
      const variant = variants.get(column);
      const title = variant?.title ?? '';
      if (!variant || !covered(variant).has(entry))
        return { share: 0, word: 'out', title: `${title}: left out by a condition on this entry, its topic or above` };
      const row = cells.row.get(entry);
      const blocks = row?.cells[cells.column.get(column) ?? -1]?.blocks;
      if (!row || blocks === undefined || row.blocks === 0 || blocks === row.blocks)
        return { share: 1, word: 'in', title: `${title}: wholly in` };
      const count = `${blocks} of ${row.blocks} blocks`;
      return {
        share: blocks / row.blocks,
        word: `in, ${count}`,
        title: `${title}: ${count}; conditions inside leave out the rest`,
      };
    };
  });
  readonly isOut = computed(() => {
    const shown = this.throughLens();
    return (entry: OutlineEntry): boolean => shown?.has(entry.id) === false;
  });

  /** Entries that hang on axes which the lens leaves open, by their own condition or that of their topic. */
  private readonly openEntries = computed<ReadonlySet<string>>(() => {
    const [open, own] = [this.lens.open(), this.ownConditions()];
    if (!open) return new Set();
    const hangs = (entry: OutlineEntry): boolean =>
      open.state(entry.when ?? null) === 'open' ||
      open.state(conditionOfTopic(entry, (topic) => own[topic] ?? null)) === 'open';
    const found = flattenEntries(this.outline.entries()).filter(({ entry }) => hangs(entry) && !this.isOut()(entry));
    return new Set(found.map(({ entry }) => entry.id));
  });
  readonly isOpen = computed(() => {
    const open = this.openEntries();
    return (entry: OutlineEntry): boolean => open.has(entry.id);
  });
}

/**
 * The ids of the entries that a selector lets through, with all entries above them.
 * @param own the conditions that topics bear wherever they stand, by their keys
 */
function entriesIn(
  entries: readonly OutlineEntry[],
  selector: ConditionTest,
  own: Readonly<Record<string, string>>,
): ReadonlySet<string> {
  const found = new Set<string>();
  const visit = (list: readonly OutlineEntry[]): void => {
    for (const entry of list) {
      const ofTopic = conditionOfTopic(entry, (topic) => own[topic] ?? null);
      if (!selector.holds(entry.when ?? null) || !selector.holds(ofTopic)) continue;
      found.add(entry.id);
      visit(entry.entries ?? []);
    }
  };
  visit(entries);
  return found;
}
