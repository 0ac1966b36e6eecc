import { computed, effect, inject, Injectable, signal } from '@angular/core';
import {
  type Axis,
  flattenValues,
  makeNode,
  makeText,
  plainDesign,
  OpenSelector,
  Selector,
  valueStates,
  type ConditionTest,
  type Profile,
  type Recipe,
  type StoredVariant,
  type VariableValues,
  type Variation,
  type Vocabulary,
} from '@allomorph/core';
import { forkJoin, type Observable, tap } from 'rxjs';
import { Api } from './api';
import { pickId, pickOf, pickOfProfile, profileOfPick } from './lens-pick';

/** How content that the lens leaves out is drawn. */
export type LensMode = 'ghost' | 'fold';

/** One thing to look through. */
export interface LensChoice {
  /** `variant:ID` or `profile:KEY`. */
  readonly id: string;
  readonly title: string;
  readonly group: string;
  readonly profile: Profile;
  readonly variant: StoredVariant | null;
}

const lensColours = ['#7a2f6b', '#1d4f91', '#8a3b12', '#3b6420', '#7c1f3f', '#4a4390'] as const;
/** What a lens is called whose values are picked freely. */
export const ownPick = 'Own pick';
const pickColour = '#5b4a1f';
const stored = 'allomorph.lens';

/** The vocabulary, and the lens through which content is looked at. One for the whole window. */
@Injectable({ providedIn: 'root' })
export class Lens {
  private readonly api = inject(Api);
  private readonly chosen = signal<string | null>(sessionStorage.getItem(stored));
  private last: string | null = null;

  readonly variation = signal<Variation>({ axes: [], profiles: [], stamps: [], designs: [] });
  readonly variants = signal<readonly StoredVariant[]>([]);
  readonly publicationTitles = signal<ReadonlyMap<string, string>>(new Map());
  private readonly publicationValues = signal<VariableValues>({});
  readonly mode = signal<LensMode>('ghost');
  /** How much the screen in view has out; null where that is not counted. */
  readonly hidden = signal<{
    readonly count: number;
    readonly what: 'block' | 'entry';
    /** How much hangs on axes that the lens leaves open. */
    readonly open?: number;
  } | null>(null);

  readonly axes = computed<readonly Axis[]>(() => this.variation().axes);
  /** What conditions are decided by. */
  readonly vocabulary = computed<Vocabulary>(() => ({ axes: this.axes(), stamps: this.variation().stamps }));
  readonly choices = computed<readonly LensChoice[]>(() => [
    ...this.variants().flatMap((variant) => {
      const profile = this.variation().profiles.find((each) => each.key === variant.profile);
      const publication = this.publicationTitles().get(variant.publication) ?? variant.publication;
      return profile
        ? [{ id: `variant:${variant.id}`, title: variant.title, group: publication, profile, variant }]
        : [];
    }),
    ...this.variation().profiles.map((profile) => ({
      id: `profile:${profile.key}`,
      title: profile.title,
      group: 'Profiles',
      profile,
      variant: null,
    })),
  ]);
  readonly current = computed(() => this.choices().find((choice) => choice.id === this.chosen()) ?? this.picked());
  /** The values that are picked freely; null where a variant or profile is looked through, or nothing. */
  readonly pick = computed(() => pickOf(this.chosen()));
  /** A free pick as a lens. */
  private readonly picked = computed<LensChoice | null>(() => {
    const [id, pick] = [this.chosen(), this.pick()];
    if (id === null || !pick) return null;
    return { id, title: ownPick, group: ownPick, profile: profileOfPick(this.axes(), pick), variant: null };
  });
  /** The id of a free pick that begins with what is looked through now. */
  readonly pickFromHere = computed(() => {
    const lens = this.current();
    return this.pick() && lens ? lens.id : pickId(lens ? pickOfProfile(this.axes(), lens.profile) : {});
  });
  readonly colour = computed(() => {
    const index = this.choices().findIndex((choice) => choice.id === this.chosen());
    if (index < 0 && this.pick()) return pickColour;
    return index < 0 ? null : (lensColours[index % lensColours.length] ?? null);
  });
  /** Decides conditions as the lens does; null without a lens. */
  readonly selector = computed<ConditionTest | null>(() => {
    const [lens, open] = [this.current(), this.open()];
    // What hangs on an axis that is left open is not out.
    if (open) return { holds: (when) => open.state(when) !== 'out' };
    return lens ? new Selector(this.vocabulary(), lens.profile) : null;
  });
  /** Tells what hangs on the axes that a free pick leaves open; null where every axis is decided. */
  readonly open = computed<OpenSelector | null>(() => {
    const picked = this.picked();
    return picked ? new OpenSelector(this.vocabulary(), picked.profile) : null;
  });
  /** Axis by axis, what is in. */
  readonly axisTexts = computed(() => {
    const lens = this.current();
    if (!lens) return [];
    return this.axes().map((axis) => {
      const states = valueStates(axis, lens.profile.axes[axis.key]);
      const all = flattenValues(axis);
      const leaves = all.filter(({ value }) => !value.values?.length);
      const kept = leaves.filter(({ value }) => states.get(value.key));
      const text =
        kept.length === leaves.length
          ? 'all'
          : kept.length === 0
            ? 'none'
            : kept.length > 3
              ? `${kept.length} of ${leaves.length}`
              : kept.map(({ value }) => value.title).join(', ');
      return { axis: axis.title, text };
    });
  });
  /** The lens as the recipe of an empty publication, for the engine; null without a lens. */
  readonly recipe = computed<Recipe | null>(() => {
    const lens = this.current();
    if (!lens) return null;
    const publicationTitle = this.publicationTitles().get(lens.variant?.publication ?? '') ?? '';
    return {
      publication: {
        key: '@lens',
        title: makeNode('phrase', null, publicationTitle === '' ? [] : [makeText(publicationTitle)]),
        values: this.publicationValues(),
        entries: [],
      },
      variantTitle: lens.title,
      profile: lens.profile,
      values: lens.variant?.values ?? {},
      language: lens.variant?.language ?? 'en',
      design: plainDesign,
      buildDate: new Date().toISOString().slice(0, 10),
      leaveOutEmpty: false,
    };
  });

  /** What a design is called. */
  designTitle(key: string): string {
    return this.variation().designs.find((design) => design.key === key)?.title ?? key;
  }

  constructor() {
    effect(() => {
      const id = this.chosen();
      if (id === null) sessionStorage.removeItem(stored);
      else sessionStorage.setItem(stored, id);
    });
    effect((cleanUp) => {
      const publication = this.current()?.variant?.publication;
      this.publicationValues.set({});
      if (publication === undefined) return;
      const reading = this.api.publication(publication).subscribe({
        next: ({ values }) => this.publicationValues.set(values),
        error: () => undefined,
      });
      cleanUp(() => reading.unsubscribe());
    });
  }

  /** Reads the vocabulary, the variants and the publications again. */
  refresh(): Observable<unknown> {
    return forkJoin({
      variation: this.api.variation(),
      variants: this.api.variants(),
      publications: this.api.publications(),
    }).pipe(
      tap(({ variation, variants, publications }) => {
        this.variation.set(variation);
        this.variants.set(variants);
        this.publicationTitles.set(new Map(publications.map((each) => [each.key, each.title])));
      }),
    );
  }

  /** The id of what is looked through, whether it is there or not. */
  readonly chosenId = this.chosen.asReadonly();

  /** Looks through what an address names. */
  show(id: string | null): void {
    this.chosen.set(id);
  }

  /** Picks the values of an axis, all others as they are; none: the whole axis is in. */
  pickValues(axis: string, values: readonly string[]): void {
    this.chosen.set(pickId({ ...this.pick(), [axis]: values }));
  }

  look(id: string | null): void {
    if (this.chosen() !== null) this.last = this.chosen();
    this.chosen.set(id);
  }

  /** Takes the lens off, or puts the last one on again. */
  toggle(): void {
    this.look(this.chosen() === null ? (this.last ?? this.choices()[0]?.id ?? null) : null);
  }
}
