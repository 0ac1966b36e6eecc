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
import { Api, problemText } from '../shared/api';
import { ConditionField } from '../shared/condition-field';
import { Deletion } from '../shared/deletion';
import { describeCondition } from '../shared/lanes';
import { LaneChips } from '../shared/lane-chips';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { saveChange } from '../shared/save-change';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';
import { RowActs, type RowAct } from './row-acts';

type KeptStamp = Stamp & Revised;

const places: readonly { readonly value: StampPlace; readonly title: string }[] = [
  { value: 'both', title: 'blocks and phrases' },
  { value: 'blocks', title: 'blocks' },
  { value: 'phrases', title: 'phrases' },
];

/** The stamps of the team: what blocks and phrases can be said to be, and where all that bears them applies. */
@Component({
  selector: 'al-stamps',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ConditionField, Dialog, FormsModule, InputText, LaneChips, RouterLink, RowActs, Select],
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

  /** What is being made or changed: null: nothing is; `new`: one that is not there yet. */
  protected readonly asked = signal<KeptStamp | 'new' | null>(null);
  protected readonly problem = signal('');
  protected readonly heading = computed(() => {
    const asked = this.asked();
    return asked === null || asked === 'new' ? 'New stamp' : `Stamp “${asked.title}”`;
  });
  protected title = '';
  protected on: StampPlace = 'both';
  protected from = '';
  protected readonly when = signal<string | null>(null);
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
    const asked = this.asked();
    const own = asked === null || asked === 'new' ? null : asked.key;
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

  protected ask(asked: KeptStamp | 'new'): void {
    const stamp = asked === 'new' ? { title: '', on: 'both' as const, from: null, when: null } : asked;
    this.problem.set('');
    [this.title, this.on, this.from] = [stamp.title, stamp.on, stamp.from ?? ''];
    this.when.set(stamp.when);
    this.asked.set(asked);
  }

  protected submit(): void {
    const asked = this.asked();
    const title = this.title.trim();
    if (asked === null) return;
    if (title === '') {
      this.problem.set('Give it a title.');
      return;
    }
    const said = { title, on: this.on, from: this.from === '' ? null : this.from, when: this.when() };
    const taken = this.stamps().map(({ key }) => key);
    const request =
      asked === 'new'
        ? this.api.saveStamp({
            key: freeKey(keyFromTitle(title), (key) => taken.includes(key)),
            ...said,
            revision: 0,
          })
        : saveChange(
            asked,
            (stamp) => ({ ...stamp, ...said }),
            (stamp) => this.api.saveStamp(stamp),
          );
    request.subscribe({
      next: () => {
        this.asked.set(null);
        this.refresh();
      },
      error: (error: unknown) => this.problem.set(problemText(error)),
    });
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
