import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { DatePipe } from '@angular/common';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import {
  flattenValues,
  valueStates,
  type Axis,
  type AxisChoice,
  type AxisValue,
  type StoredProfile,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { tap, type Observable } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { laneColours, lanePatterns } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { saveChange } from '../shared/save-change';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';
import { moveValue, placeOf, stepValue } from './axis-tree';
import { GiveUpValue, takeActBack, type ValueAsked } from './give-up-value';
import { OrderByDrag, type DropPlace } from './order-by-drag';
import { RowActs, type RowAct } from './row-acts';
import { Stamps } from './stamps';
import { VocabularyDialog, type KeptAxis, type KeptProfile, type VocabularyAsked } from './vocabulary-dialog';
import { VocabularyFiles } from './vocabulary-files';

/** The vocabulary: axes with their trees of values, and the profiles as columns beside them. */
@Component({
  selector: 'al-variation',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    DatePipe,
    FormsModule,
    RouterLink,
    Button,
    GiveUpValue,
    InputText,
    RowActs,
    Stamps,
    VocabularyDialog,
    VocabularyFiles,
  ],
  templateUrl: './variation.html',
  styleUrl: './variation.css',
})
export class VariationPlace {
  private readonly api = inject(Api);
  protected readonly lens = inject(Lens);
  protected readonly wording = inject(Wording);
  protected readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly deletion = inject(Deletion);

  protected readonly asked = signal<VocabularyAsked | null>(null);
  protected readonly patterns = lanePatterns;
  protected readonly axes = computed(() => this.lens.variation().axes);
  protected readonly givenUp = signal<ValueAsked | null>(null);
  protected readonly order = new OrderByDrag((dragged, target, place) => {
    const axis = this.axes().find(({ key }) => key === dragged.axis);
    const [value, beside] = [dragged.value, target.value];
    if (value === null || beside === null) this.orderAxes(dragged.axis, target.axis, place);
    else if (axis) this.moveValue(axis, value, (values) => moveValue(values, value, beside, place));
  });
  private readonly uses = rxResource({ params: () => this.lens.variation(), stream: () => this.api.valueUses() });
  private readonly usesByValue = computed(
    () =>
      new Map(
        (this.uses.hasValue() ? this.uses.value() : []).map((use) => [`${use.axis}=${use.value}`, use.components]),
      ),
  );
  protected readonly usesAreKnown = computed(() => this.uses.hasValue());
  private readonly readActs = rxResource({
    params: () => (this.session.mayKeep() ? this.lens.variation() : undefined),
    stream: () => this.api.vocabularyActs(),
  });
  protected readonly acts = computed(() => (this.readActs.hasValue() ? this.readActs.value() : []));
  protected readonly findProfile = addressState('profile');
  protected readonly findValue = addressState('value');
  private readonly allProfiles = computed(() => this.lens.variation().profiles);
  /** Whether there is so much that it has to be looked through. */
  protected readonly isLarge = computed(
    () => this.allProfiles().length > 6 || this.axes().some((axis) => flattenValues(axis).length > 15),
  );
  protected readonly profiles = computed(() => {
    const wanted = this.findProfile.value().trim().toLowerCase();
    return this.allProfiles().filter(({ title, key }) => `${title} ${key}`.toLowerCase().includes(wanted));
  });
  private readonly states = computed(
    () =>
      new Map(
        this.profiles().flatMap((profile) =>
          this.lens
            .axes()
            .map((axis) => [`${profile.key}/${axis.key}`, valueStates(axis, profile.axes[axis.key])] as const),
        ),
      ),
  );
  constructor() {
    this.lens.hidden.set(null);
  }

  protected profileActs(profile: KeptProfile): readonly RowAct[] {
    const { title } = profile;
    return [
      { icon: 'pencil', text: `Rename ${title}`, act: () => this.asked.set({ kind: 'change profile', profile }) },
      { icon: 'copy', text: `Copy ${title}`, act: () => this.asked.set({ kind: 'profile', from: profile }) },
      { icon: 'trash', text: `Delete ${title}`, act: () => this.removeProfile(profile) },
    ];
  }

  protected axisActs(axis: KeptAxis): readonly RowAct[] {
    const { title } = axis;
    return [
      {
        icon: 'plus',
        text: `Add a value to ${title}`,
        act: () => this.asked.set({ kind: 'value', axis, parent: null }),
      },
      { icon: 'pencil', text: `Rename ${title}`, act: () => this.asked.set({ kind: 'change axis', axis }) },
      { icon: 'arrow-up', text: `Move ${title} up`, act: () => this.stepAxis(axis, -1) },
      { icon: 'arrow-down', text: `Move ${title} down`, act: () => this.stepAxis(axis, 1) },
      { icon: 'trash', text: `Delete ${title}`, act: () => this.removeAxis(axis) },
    ];
  }

  protected valueActs(axis: KeptAxis, value: AxisValue): readonly RowAct[] {
    const { key, title } = value;
    return [
      {
        icon: 'plus',
        text: `Add a value below ${title}`,
        act: () => this.asked.set({ kind: 'value', axis, parent: key }),
      },
      { icon: 'pencil', text: `Change ${title}`, act: () => this.asked.set({ kind: 'change value', axis, value }) },
      { icon: 'arrow-up', text: `Move ${title} up`, act: () => this.stepValue(axis, key, -1) },
      { icon: 'arrow-down', text: `Move ${title} down`, act: () => this.stepValue(axis, key, 1) },
      { icon: 'trash', text: `Retire or merge ${title}`, act: () => this.givenUp.set({ axis, value }) },
    ];
  }

  protected flat(axis: Axis): ReturnType<typeof flattenValues> {
    const wanted = this.findValue.value().trim().toLowerCase();
    return flattenValues(axis).filter(({ value }) => `${value.title} ${value.key}`.toLowerCase().includes(wanted));
  }

  protected colourOf(value: AxisValue): string {
    return laneColours[value.colour % laneColours.length] ?? laneColours[0];
  }

  /** in, out, or the same by inheritance. */
  protected cell(
    profile: StoredProfile,
    axis: Axis,
    value: AxisValue,
  ): { readonly state: 'in' | 'out'; readonly own: boolean } {
    const choice = profile.axes[axis.key];
    const own = (choice?.in?.includes(value.key) ?? false) || (choice?.out?.includes(value.key) ?? false);
    return { state: this.states().get(`${profile.key}/${axis.key}`)?.get(value.key) ? 'in' : 'out', own };
  }

  protected defaultOf(profile: StoredProfile, axis: Axis): 'in' | 'out' {
    return profile.axes[axis.key]?.default ?? 'in';
  }

  /** Own mark in, own mark out, no mark: each click takes the next. */
  protected turn(profile: KeptProfile, axis: Axis, value: AxisValue): void {
    // What is to become of the mark is decided by what the person sees.
    const choice: AxisChoice = profile.axes[axis.key] ?? { default: 'in' };
    const isIn = choice.in?.includes(value.key) ?? false;
    const isOut = choice.out?.includes(value.key) ?? false;
    const without = (keys: readonly string[] | undefined): readonly string[] =>
      (keys ?? []).filter((key) => key !== value.key);
    this.saveChoice(profile, axis, (now) => ({
      default: now.default,
      in: isIn || isOut ? without(now.in) : [...without(now.in), value.key],
      out: isIn ? [...without(now.out), value.key] : without(now.out),
    }));
  }

  protected turnDefault(profile: KeptProfile, axis: Axis): void {
    const turned = this.defaultOf(profile, axis) === 'in' ? 'out' : 'in';
    this.saveChoice(profile, axis, (now) => ({ ...now, default: turned }));
  }

  protected usedBy(profile: StoredProfile): number {
    return this.lens.variants().filter((variant) => variant.profile === profile.key).length;
  }

  protected usesOf(axis: Axis, value: AxisValue): number {
    return this.usesByValue().get(`${axis.key}=${value.key}`) ?? 0;
  }

  protected takeBack(id: string): void {
    takeActBack(this.api, this.notices, id, () => this.refresh());
  }

  private removeAxis(axis: Axis): void {
    this.deletion.toBin(
      'axis',
      axis,
      'Refused as long as a condition in the library names one of its values.',
      () => this.api.deleteAxis(axis.key),
      () => this.refresh(),
    );
  }

  private stepAxis({ key }: Axis, step: -1 | 1): void {
    const keys = this.axes().map((axis) => axis.key);
    const beside = keys[keys.indexOf(key) + step];
    if (beside !== undefined) this.orderAxes(key, beside, step < 0 ? 'before' : 'after');
  }

  private orderAxes(key: string, beside: string, place: DropPlace): void {
    const rest = this.axes()
      .map((axis) => axis.key)
      .filter((each) => each !== key);
    rest.splice(rest.indexOf(beside) + (place === 'before' ? 0 : 1), 0, key);
    this.keep(this.api.orderAxes(rest));
  }

  /** Where a value stands says what it inherits: moving one can be undone at once. */
  private moveValue(axis: KeptAxis, value: string, move: (values: readonly AxisValue[]) => readonly AxisValue[]): void {
    const before = placeOf(axis.values, value);
    if (!before || move(axis.values) === axis.values) return;
    // Made on what is there by then, so that no value that somebody adds meanwhile is lost.
    const put = (kept: KeptAxis, how: typeof move): Observable<KeptAxis> =>
      saveChange(
        kept,
        (each) => ({ ...each, values: [...how(each.values)] }),
        (changed) => this.api.saveAxis(changed),
      );
    this.keep(
      put(axis, move).pipe(
        tap((saved) =>
          this.notices.undoable(`The values of “${axis.title}” are in another order.`, () =>
            this.keep(put(saved, (values) => moveValue(values, value, before.beside, before.place))),
          ),
        ),
      ),
    );
  }

  private stepValue(axis: KeptAxis, key: string, step: -1 | 1): void {
    this.moveValue(axis, key, (values) => stepValue(values, key, step));
  }

  private removeProfile(profile: StoredProfile): void {
    this.deletion.toBin(
      'profile',
      profile,
      'Refused as long as a variant uses it.',
      () => this.api.deleteProfile(profile.key),
      () => this.refresh(),
    );
  }

  /** Changes what a profile says of one axis, and nothing else that it says. */
  private saveChoice(profile: KeptProfile, axis: Axis, change: (choice: AxisChoice) => AxisChoice): void {
    this.keep(
      saveChange(
        profile,
        ({ axes, ...rest }) => {
          const choice = change(axes[axis.key] ?? { default: 'in' });
          const saved = { default: choice.default, in: [...(choice.in ?? [])], out: [...(choice.out ?? [])] };
          return { ...rest, axes: { ...axes, [axis.key]: saved } };
        },
        (changed) => this.api.saveProfile(changed),
      ),
    );
  }

  private keep(request: Observable<unknown>): void {
    request.subscribe({
      next: () => this.refresh(),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected refresh(): void {
    this.lens.refresh().subscribe({ error: (error: unknown) => this.notices.failed(error) });
  }
}
