import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { ChangeKind, EntryChange, PassageChange } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Select } from 'primeng/select';
import { Api, problemText } from '../shared/api';
import { TimePipe } from '../shared/wording';
import { LaneChips } from '../shared/lane-chips';
import { Lens } from '../shared/lens';

interface ShownPassage extends PassageChange {
  /** Where it was written: the second variant's place, or the first one's for what is gone. */
  readonly component: string;
  readonly query: Readonly<Record<string, string>>;
  readonly when: string | null;
}

interface ShownEntry {
  readonly change: EntryChange;
  readonly title: string;
  readonly passages: readonly ShownPassage[];
}

const entryWords: Readonly<Record<ChangeKind, string>> = {
  same: 'the same in both',
  changed: 'reads differently',
  added: 'only in the second',
  removed: 'only in the first',
  moved: 'stands elsewhere',
};

const countWords: Readonly<Record<ChangeKind, readonly [string, string]>> = {
  same: ['entry the same in both', 'entries the same in both'],
  changed: ['entry reads differently', 'entries read differently'],
  added: ['entry only in the second', 'entries only in the second'],
  removed: ['entry only in the first', 'entries only in the first'],
  moved: ['entry stands elsewhere', 'entries stand elsewhere'],
};

/** Two variants side by side: what is only in one, what reads differently, and where each difference comes from. */
@Component({
  selector: 'al-compare',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RouterLink, Button, Select, LaneChips, TimePipe],
  templateUrl: './compare.html',
  styleUrl: './compare.css',
})
export class ComparePlace {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly lens = inject(Lens);

  /** The ids of the two variants, from the address. */
  readonly before = input<string>();
  readonly after = input<string>();
  /** A build whose content stands first, instead of a variant as it is now. */
  readonly build = input<string>();

  protected readonly words = entryWords;
  protected readonly text = problemText;
  protected readonly choices = computed(() => {
    const groups = new Map<string, { label: string; value: string }[]>();
    for (const { id, title, publication } of this.lens.variants()) {
      const name = this.lens.publicationTitles().get(publication) ?? publication;
      groups.set(name, [...(groups.get(name) ?? []), { label: title, value: id }]);
    }
    return [...groups].map(([label, items]) => ({ label, items }));
  });
  protected readonly comparison = rxResource({
    params: () => {
      const [before, after, build] = [this.before(), this.after(), this.build()];
      if (after === undefined) return undefined;
      if (build !== undefined) return { build, after };
      return before !== undefined && before !== after ? { before, after } : undefined;
    },
    stream: ({ params }) => this.api.compare(params),
  });
  private readonly entries = computed(() => (this.comparison.hasValue() ? this.comparison.value().entries : []));
  /** How many entries there are of each kind. */
  protected readonly counts = computed(() =>
    (['changed', 'added', 'removed', 'moved', 'same'] as const).map((kind) => {
      const count = this.entries().filter((entry) => entry.kind === kind).length;
      return { kind, count, words: countWords[kind][count === 1 ? 0 : 1] };
    }),
  );
  protected readonly shown = computed<readonly ShownEntry[]>(() =>
    this.entries()
      .filter((change) => change.kind !== 'same')
      .map((change) => ({
        change,
        title: change.titleAfter ?? change.titleBefore ?? change.topic,
        passages:
          change.kind === 'changed'
            ? change.passages.filter((passage) => passage.kind !== 'same').map(showPassage)
            : [],
      })),
  );

  constructor() {
    this.lens.hidden.set(null);
  }

  /** The build that stands first, in words. */
  protected readonly built = rxResource({
    params: () => this.build(),
    stream: ({ params }) => this.api.build(params),
  });

  protected titleOf(id: string | undefined): string {
    return this.lens.variants().find((variant) => variant.id === id)?.title ?? '';
  }

  protected choose(which: 'before' | 'after', id: string): void {
    const others = which === 'before' ? { build: null } : {};
    void this.router.navigate(['/compare'], { queryParams: { [which]: id, ...others }, queryParamsHandling: 'merge' });
  }

  protected swap(): void {
    void this.router.navigate(['/compare'], { queryParams: { before: this.after(), after: this.before() } });
  }
}

function showPassage(change: PassageChange): ShownPassage {
  const unit = change.after ?? change.before;
  return {
    ...change,
    component: unit?.component ?? '',
    query: unit?.block ? { block: unit.block } : {},
    when: unit?.when ?? null,
  };
}
