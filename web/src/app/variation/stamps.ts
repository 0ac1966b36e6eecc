import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { freeKey, keyFromTitle, wayOfStamp, type Revised, type Stamp, type StampPlace } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { catchError, of, startWith, Subject, switchMap } from 'rxjs';
import { Api } from '../shared/api';
import { ConditionField } from '../shared/condition-field';
import { Deletion } from '../shared/deletion';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { describeCondition } from '../shared/lanes';
import { LaneChips } from '../shared/lane-chips';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';
import { RowActs, type RowAct } from './row-acts';

type KeptStamp = Stamp & Revised;
type StampParts = Pick<Stamp, 'title' | 'on' | 'from' | 'when'>;

const newStamp: KeptStamp = { key: '', title: '', on: 'both', from: null, when: null, revision: 0 };

const places: readonly { readonly value: StampPlace; readonly title: string }[] = [
  { value: 'both', title: 'blocks and phrases' },
  { value: 'blocks', title: 'blocks' },
  { value: 'phrases', title: 'phrases' },
];

/** The stamps of the team: what blocks and phrases can be said to be, and where all that bears them applies. */
@Component({
  selector: 'al-stamps',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Button,
    ConditionField,
    Dialog,
    EditingBands,
    FormsModule,
    InputText,
    LaneChips,
    RouterLink,
    RowActs,
    Select,
  ],
  templateUrl: './stamps.html',
  styleUrl: './stamps.css',
})
export class Stamps {
  private readonly api = inject(Api);
  private readonly deletion = inject(Deletion);
  private readonly notices = inject(Notices);
  protected readonly lens = inject(Lens);
  protected readonly session = inject(Session);
  protected readonly wording = inject(Wording);

  /** What is being made or changed; null: nothing is. */
  protected readonly asked = signal<KeptStamp | null>(null);
  protected readonly problem = signal('');
  protected readonly editing = inject(Edits).of<KeptStamp, StampParts>({
    nameOf: ({ key }) => (key === '' ? 'new stamp' : `stamp ${key}`),
    titleOf: ({ title }) => title,
    partsOf: ({ title, on, from, when }) => ({ title, on, from, when }),
    save: (stamp, { title, ...rest }) => {
      const key =
        stamp.key || freeKey(keyFromTitle(title), (each) => this.stamps().some(({ key: has }) => has === each));
      return this.api.saveStamp({ ...stamp, ...rest, key, title: title.trim() });
    },
    theirs: ({ key }, current) => (key === '' ? null : (current as KeptStamp)),
  });
  protected readonly partNames = {
    title: 'the title',
    on: 'where it may stand',
    from: 'what it derives from',
    when: 'the condition',
  };
  protected readonly parts = computed(() => this.editing.parts() ?? newStamp);
  protected readonly places = places;
  protected readonly stamps = computed(() => this.lens.variation().stamps);
  private readonly changed = new Subject<void>();
  private readonly counted = toSignal(
    this.changed.pipe(
      startWith(undefined),
      switchMap(() => this.api.stampUses().pipe(catchError(() => of([])))),
    ),
    { initialValue: [] },
  );
  private readonly uses = computed(() => new Map(this.counted().map(({ stamp, components }) => [stamp, components])));
  /** The stamps from which the one at hand can derive: none that derives from it. */
  protected readonly bases = computed(() => {
    const own = this.asked()?.key;
    const all = this.stamps().filter(({ key }) => !wayOfStamp(key, this.stamps()).some((each) => each.key === own));
    return [{ key: '', title: 'no other stamp' }, ...all];
  });

  protected usesOf({ key }: Stamp): number {
    return this.uses().get(key) ?? 0;
  }

  protected placeOf({ on }: Stamp): string {
    return places.find(({ value }) => value === on)?.title ?? on;
  }

  protected titleOf(key: string): string {
    return this.stamps().find((stamp) => stamp.key === key)?.title ?? key;
  }

  protected describe(when: string): string {
    return describeCondition(when, this.lens.vocabulary());
  }

  protected acts(stamp: KeptStamp): readonly RowAct[] {
    const { title } = stamp;
    return [
      { icon: 'pencil', text: `Change ${title}`, act: () => this.ask(stamp) },
      { icon: 'trash', text: `Delete ${title}`, act: () => this.remove(stamp) },
    ];
  }

  protected ask(stamp = newStamp): void {
    this.problem.set('');
    // What was begun and left open waits, and is told as that.
    if (this.editing.dirty() && this.editing.base()?.key === stamp.key) this.editing.fromDraft.set(true);
    this.asked.set(stamp);
    void this.editing.show(stamp);
  }

  protected cancel(): void {
    this.editing.discard();
    this.asked.set(null);
  }

  protected submit(): void {
    const isUntitled = this.parts().title.trim() === '';
    this.problem.set(isUntitled ? 'Give it a title.' : '');
    if (isUntitled) return;
    const asked = this.asked();
    if (this.editing.dirty()) this.editing.save(() => this.taken(asked));
    else this.asked.set(null);
  }

  /** @param asked what was asked for when the save began */
  protected taken(asked = this.asked()): void {
    if (this.asked() === asked) this.asked.set(null);
    this.refresh();
  }

  private remove(stamp: KeptStamp): void {
    this.deletion.toBin(
      'stamp',
      stamp,
      'Refused as long as content bears it or another stamp derives from it.',
      () => this.api.deleteStamp(stamp.key),
      () => this.refresh(),
    );
  }

  private refresh(): void {
    this.changed.next();
    this.lens.refresh().subscribe({ error: (error: unknown) => this.notices.failed(error) });
  }
}
