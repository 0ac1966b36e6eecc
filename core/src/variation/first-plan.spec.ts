import { flattenValues, type Axis } from '../model/axis.js';
import { axisSchema, profileSchema } from '../contract/variation.js';
import { planFirst, type ToldAxis, type ToldDocument } from './first-plan.js';
import { Selector } from './selector.js';

const product: ToldAxis = { title: 'Product', values: 'Dunlin 2\nDunlin 4 family\n  Dunlin 4\n  Dunlin 4X\n' };
const audience: ToldAxis = { title: 'Audience', values: '- Observer\n- Installer' };
const nothing = { axes: [], profiles: [] };
const guide = (madeFor: ToldDocument['madeFor'], more: Partial<ToldDocument> = {}): ToldDocument => ({
  title: 'Guide',
  languages: ['en'],
  formats: ['pdf'],
  madeFor,
  ...more,
});
const titles = (told: readonly ToldDocument[], axes = [product, audience]): readonly string[] =>
  planFirst(axes, told, nothing).documents.flatMap(({ variants }) => variants.map(({ title }) => title));
const values = (axis: Axis | undefined): readonly string[] =>
  axis ? flattenValues(axis).map(({ value, ancestors }) => [...ancestors, value.key].join('/')) : [];

describe('The plan of the first hour', () => {
  it('makes trees of values of lines, with codes that tell them apart', () => {
    const { axes, faults } = planFirst([product, audience, { title: '', values: ' ' }], [], nothing);
    expect(faults).toEqual([]);
    expect(values(axes[0])).toEqual([
      'dunlin-2',
      'dunlin-4-family',
      'dunlin-4-family/dunlin-4',
      'dunlin-4-family/dunlin-4x',
    ]);
    for (const axis of axes) {
      expect(axisSchema.safeParse(axis).error).toBeUndefined();
      const codes = flattenValues(axis).map(({ value }) => value.code);
      expect(new Set(codes).size).toBe(codes.length);
    }
    const many = planFirst(
      [{ title: 'Part', values: Array.from({ length: 60 }, (_, at) => `Pa ${at} x`).join('\n') }],
      [],
      nothing,
    );
    expect(axisSchema.safeParse(many.axes[0]).error).toBeUndefined();
    expect(new Set(many.axes[0]?.values.map(({ code }) => code)).size).toBe(60);
  });

  it('makes a variant for each value that has none below it, for all, or for some together', () => {
    expect(titles([guide({ Product: 'each' })])).toEqual(['Dunlin 2', 'Dunlin 4', 'Dunlin 4X']);
    expect(titles([guide({})])).toEqual(['All']);
    expect(titles([guide({ product: 'each', Audience: ['installer'] })])).toEqual([
      'Dunlin 2, Installer',
      'Dunlin 4, Installer',
      'Dunlin 4X, Installer',
    ]);
    expect(titles([guide({ Product: ['Dunlin 4', 'Dunlin 4X'] }, { languages: ['en', 'de', 'en'] })])).toEqual([
      'Dunlin 4 and Dunlin 4X, en',
      'Dunlin 4 and Dunlin 4X, de',
    ]);
    expect(titles([guide({ Product: 'each', Audience: 'each' })]).length).toBe(6);
  });

  it('gives each variant a profile that lets in what it is for and nothing beside it', () => {
    const { axes, documents, profiles } = planFirst(
      [product, audience],
      [
        guide({ Product: 'each', Audience: ['Observer'] }),
        guide({ Product: 'each', Audience: ['Observer'] }, { title: 'Card' }),
        guide({}, { title: 'All' }),
      ],
      nothing,
    );
    // The same choice is one profile, whatever document it is for.
    expect(profiles.map(({ title }) => title)).toEqual([
      'Dunlin 2, Observer',
      'Dunlin 4, Observer',
      'Dunlin 4X, Observer',
      'Everything',
    ]);
    for (const profile of profiles) expect(profileSchema.safeParse(profile).error).toBeUndefined();
    const holds = (at: number, when: string): boolean => {
      const profile = documents[0]?.variants[at]?.profile;
      if (!profile) throw new Error('There is no such variant.');
      return new Selector({ axes, stamps: [] }, profile).holds(when);
    };
    expect(holds(1, 'product is dunlin-4')).toBeTrue();
    expect(holds(1, 'product is dunlin-4x')).toBeFalse();
    expect(holds(1, 'audience is installer')).toBeFalse();
    expect(holds(0, 'product is dunlin-4-family')).toBeFalse();
  });

  it('takes up what is there, and adds to it without changing it', () => {
    const before = planFirst([product], [guide({ Product: 'each' })], nothing);
    const known = { axes: before.axes, profiles: before.profiles };
    const again = planFirst([product], [guide({ Product: 'each' })], known);
    expect([again.axes, again.profiles]).toEqual([[], []]);
    expect(again.documents[0]?.variants.map(({ profile }) => profile.key)).toEqual(
      before.documents[0]?.variants.map(({ profile }) => profile.key) ?? [],
    );
    const more = planFirst([{ title: 'product', values: 'Dunlin 4 family\n  Dunlin 5' }], [], known);
    expect(values(more.axes[0])).toEqual([...values(before.axes[0]), 'dunlin-4-family/dunlin-5']);
    expect(more.axes[0]?.values.slice(0, 1)).toEqual(before.axes[0]?.values.slice(0, 1) ?? []);
    const inBin = planFirst([product], [], { ...nothing, takenKeys: ['product'] });
    expect(inBin.axes[0]?.key).toBe('product-2');
  });

  it('says in a sentence what cannot be made so', () => {
    const faults = (axes: readonly ToldAxis[], documents: readonly ToldDocument[]): readonly string[] =>
      planFirst(axes, documents, nothing).faults;
    expect(faults([{ title: '', values: 'a' }], [])).toEqual(['What differs by a has no name.']);
    expect(faults([], [guide({}, { languages: ['english!'] })])).toEqual([
      '“Guide”: “english!” is no language tag such as “en” or “de-AT”.',
    ]);
    expect(faults([], [guide({}, { formats: [] })])).toEqual(['“Guide” has no format.']);
    expect(faults([product], [guide({ Product: [] })])).toEqual(['“Guide” is made for none of “Product”.']);
    expect(faults([], [guide({}), guide({}, { title: 'guide ' })])).toEqual(['Two documents are called “guide”.']);
    const wide = Array.from({ length: 8 }, (_, at) => ({ title: `A${at}`, values: 'a\nb\nc\nd' }));
    const each = Object.fromEntries(wide.map(({ title }) => [title, 'each' as const]));
    expect(faults(wide, [guide(each)])[0]).toContain('Begin with no more than 100');
  });
});
