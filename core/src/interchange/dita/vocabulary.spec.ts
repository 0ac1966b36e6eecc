import fc from 'fast-check';
import type { Axis, AxisValue } from '../../model/axis.js';
import { valueStates } from '../../model/profile.js';
import { ImportFault } from '../import-result.js';
import { readVocabulary } from './read-vocabulary.js';
import { writeVocabulary } from './write-vocabulary.js';

/** The tree of an axis: keys, those below in brackets. */
function treeOf({ values }: Pick<Axis, 'values'>): string {
  return values
    .map(({ key, values: below = [] }) => (below.length > 0 ? `${key}(${treeOf({ values: below })})` : key))
    .join(' ');
}

// The example of “Controlling values” in the standard (DITA 1.3, OASIS Standard, 2.2.3.1; from memory).
const scheme = `<?xml version="1.0"?>
<subjectScheme>
  <subjectdef keys="os" navtitle="Operating system">
    <subjectdef keys="linux" navtitle="Linux">
      <subjectdef keys="redhat" navtitle="RedHat Linux"/>
      <subjectdef keys="suse" navtitle="SuSE Linux"/>
    </subjectdef>
    <subjectdef keys="windows" navtitle="Windows"/>
    <subjectdef keys="zos" navtitle="z/OS"/>
  </subjectdef>
  <enumerationdef>
    <attributedef name="platform"/>
    <subjectdef keyref="os"/>
  </enumerationdef>
</subjectScheme>`;

describe('A vocabulary in files of DITA', () => {
  const key = fc.stringMatching(/^[a-zA-Z_][a-zA-Z0-9_.-]{0,8}$/);
  const title = fc
    .stringMatching(/^[A-Za-z0-9<&>"' é-]{0,12}[A-Za-zé]$/)
    .map((text) => text.replace(/\s+/g, ' ').trim());
  const leaf = fc.record({
    title,
    code: fc.constantFrom('A', 'B2'),
    colour: fc.nat(7),
    pattern: fc.nat(5),
  });
  const library = fc
    .record({
      axes: fc.uniqueArray(
        fc.tuple(
          key,
          title,
          fc.uniqueArray(fc.tuple(key, leaf, fc.nat(3)), { selector: ([each]) => each, maxLength: 6 }),
        ),
        {
          selector: ([each]) => each,
          maxLength: 3,
        },
      ),
      picks: fc.array(fc.tuple(fc.boolean(), fc.array(fc.tuple(fc.nat(5), fc.boolean()), { maxLength: 4 })), {
        minLength: 3,
        maxLength: 3,
      }),
      name: title,
    })
    .map(({ axes, picks, name }) => {
      const made = axes.map(([axisKey, axisTitle, list]): Axis => {
        // Each value stands below the one before it, or beside it.
        const values: AxisValue[] = [];
        for (const [valueKey, facts, depth] of list) {
          let into = values;
          for (let level = 0; level < depth; level += 1) {
            const last = into.at(-1) as { values?: AxisValue[] } | undefined;
            if (!last) break;
            into = last.values ??= [];
          }
          into.push({ key: valueKey, ...facts });
        }
        return {
          key: axisKey,
          title: axisTitle,
          values: JSON.parse(
            JSON.stringify(values, (name, value: unknown) =>
              name === 'values' && Array.isArray(value) && value.length === 0 ? undefined : value,
            ),
          ) as AxisValue[],
        };
      });
      const choices = made.map((axis, at) => {
        const [isIn, marks] = picks[at] ?? [true, []];
        const keys = axes[at]?.[2].map(([each]) => each) ?? [];
        const marked = new Map(
          marks.flatMap(([index, on]) => (keys[index] === undefined ? [] : [[keys[index], on] as const])),
        );
        const those = (on: boolean): string[] => [...marked].filter(([, value]) => value === on).map(([each]) => each);
        return [
          axis.key,
          { default: isIn ? ('in' as const) : ('out' as const), in: those(true), out: those(false) },
        ] as const;
      });
      return { axes: made, profile: { key: 'one', title: name, axes: Object.fromEntries(choices) } };
    });

  it('is the same after it was written and read: trees, looks, titles, and what each profile lets in', () => {
    fc.assert(
      fc.property(library, ({ axes, profile }) => {
        const read = readVocabulary(writeVocabulary(axes, [profile]));
        expect(read.notes).toEqual([]);
        expect(read.axes).toEqual(axes);
        const [back] = read.profiles;
        expect([back?.key, back?.title]).toEqual(['one', profile.title]);
        for (const axis of axes)
          expect(valueStates(axis, back?.axes[axis.key])).toEqual(valueStates(axis, profile.axes[axis.key]));
      }),
      { numRuns: 200 },
    );
  });

  it('has an axis for each attribute that a scheme enumerates, with the subjects below', () => {
    const { axes } = readVocabulary([{ name: 'os.ditamap', text: scheme }]);
    expect(axes.map((axis) => [axis.key, axis.title, treeOf(axis)])).toEqual([
      ['platform', 'Operating system', 'linux(redhat suse) windows zos'],
    ]);
    expect(axes[0]?.values[0]?.values?.[0]).toEqual(
      jasmine.objectContaining({ key: 'redhat', title: 'RedHat Linux', code: 'Re' }),
    );
  });

  it('has one for each outermost subject where nothing is enumerated; what groups and refers is followed', () => {
    const text = `<subjectScheme>
      <subjectHead><topicmeta><navtitle>All</navtitle></topicmeta>
        <subjectdef keys="audience"><topicmeta><navtitle>Who reads</navtitle></topicmeta>
          <hasNarrower><subjectdef keys="novice"/><subjectdef keys="expert"/></hasNarrower>
        </subjectdef>
        <subjectdef keys="team"><subjectdef keyref="expert"/></subjectdef>
      </subjectHead></subjectScheme>`;
    const { axes } = readVocabulary([{ name: 'a.ditamap', text }]);
    expect(axes.map((axis) => `${axis.title}: ${treeOf(axis)}`)).toEqual(['Who reads: novice expert', 'team: expert']);
  });

  it('adds to what is known, and takes nothing of it away', () => {
    const known: Axis[] = [
      {
        key: 'platform',
        title: 'System',
        values: [{ key: 'linux', title: 'GNU/Linux', code: 'L', colour: 3, pattern: 2 }],
      },
      { key: 'market', title: 'Market', values: [] },
    ];
    const { axes } = readVocabulary([{ name: 'os.ditamap', text: scheme }], known);
    expect(axes.map((axis) => `${axis.title}: ${treeOf(axis)}`)).toEqual([
      'System: linux(redhat suse) windows zos',
      'Market: ',
    ]);
    expect(axes[0]?.values[0]).toEqual(jasmine.objectContaining({ title: 'GNU/Linux', colour: 3 }));
  });

  it('reads what a DITAVAL document includes and excludes, by value, by attribute and in general', () => {
    const text = `<val>
      <prop action="exclude"/>
      <prop att="platform" action="include"/>
      <prop att="platform" val="linux" action="exclude"/>
      <prop att="platform" val="suse" action="flag" color="red"/>
      <prop att="platform" val="os 2" action="exclude"/>
      <prop att="otherprops" val="draft" action="passthrough"/>
      <revprop val="2" action="flag"/>
    </val>`;
    const known = readVocabulary([{ name: 'os.ditamap', text: scheme }]).axes;
    const { axes, profiles, notes } = readVocabulary([{ name: 'books/All but Linux.ditaval', text }], known);
    expect(profiles.map(({ key: named, title: called }) => [named, called])).toEqual([
      ['All-but-Linux', 'All but Linux'],
    ]);
    expect(profiles[0]?.axes).toEqual({
      platform: { default: 'in', in: ['suse'], out: ['linux', 'os-2'] },
      otherprops: { default: 'out', in: ['draft'] },
    });
    expect(axes.map((axis) => `${axis.key}: ${treeOf(axis)}`)).toEqual([
      'platform: linux(redhat suse) windows zos os-2',
      'otherprops: draft',
    ]);
    const [platform] = axes;
    const states = platform && valueStates(platform, profiles[0]?.axes['platform']);
    expect([...(states ?? [])].filter(([, isIn]) => isIn).map(([each]) => each)).toEqual(['suse', 'windows', 'zos']);
    expect(notes).toEqual([
      '“books/All but Linux.ditaval”, line 5: flagging of platform suse is not kept; what bears it is in.',
      '“books/All but Linux.ditaval”, line 8: marks of revisions are not kept.',
    ]);
  });

  it('takes names that mean something to the language for names', () => {
    const text =
      '<val><prop att="__proto__" action="exclude"/><prop att="constructor" val="a" action="exclude"/></val>';
    const { axes, profiles } = readVocabulary([{ name: 'a.ditaval', text }]);
    expect(axes.map(({ key: named }) => named)).toEqual(['__proto__', 'constructor']);
    expect(Object.keys(profiles[0]?.axes ?? {})).toEqual(['__proto__', 'constructor']);
    expect('default' in {}).toBeFalse();
  });

  it('says what is no such file, and where one is broken', () => {
    expect(readVocabulary([{ name: 'a.xml', text: '<topic/>' }]).notes).toEqual([
      '“a.xml” is neither a subject scheme map nor a DITAVAL document: it was passed over.',
    ]);
    expect(() => readVocabulary([{ name: 'b.ditaval', text: '<val><prop></val>' }])).toThrowError(
      ImportFault,
      /not well formed/,
    );
  });
});
