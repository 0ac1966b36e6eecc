import type { Axis, AxisValue } from '../../model/axis.js';
import type { Profile } from '../../model/profile.js';
import { element, escapeHtml, startTag } from '../../output/markup.js';

/** A file of a vocabulary, such as `vocabulary.ditamap`. */
export interface VocabularyFile {
  readonly name: string;
  readonly text: string;
}

interface NamedProfile extends Profile {
  readonly key: string;
  readonly title: string;
}

const declaration = '<?xml version="1.0" encoding="UTF-8"?>\n';

/**
 * Axes and profiles as files of DITA 1.3 (OASIS Standard, 17 December 2015): a subject scheme map (2.2.3), in which each axis is a
 * subject and an enumeration of the attribute with its key, and a DITAVAL document (2.2.4.4) for each profile.
 */
export function writeVocabulary(axes: readonly Axis[], profiles: readonly NamedProfile[]): readonly VocabularyFile[] {
  return [
    { name: 'vocabulary.ditamap', text: writeScheme(axes) },
    ...profiles.map((profile) => ({ name: `${profile.key}.ditaval`, text: writeProfile(profile, axes) })),
  ];
}

function writeScheme(axes: readonly Axis[]): string {
  const subjects = axes.map((axis) => lines(2, subject(axis.key, axis.title, [], axis.values, axis.key)));
  const enumerations = axes.map((axis) =>
    lines(2, [
      '<enumerationdef>',
      `  ${empty('attributedef', { name: axis.key })}`,
      `  ${empty('subjectdef', { keyref: axis.key })}`,
      '</enumerationdef>',
    ]),
  );
  return `${declaration}<!DOCTYPE subjectScheme PUBLIC "-//OASIS//DTD DITA Subject Scheme Map//EN" "subjectScheme.dtd">
<subjectScheme>
${[...subjects, ...enumerations].join('')}</subjectScheme>
`;
}

/** A subject with those below it; in a map a key stands once, so that of a value has its axis before it. */
function subject(
  key: string,
  title: string,
  data: readonly string[],
  values: readonly AxisValue[],
  axis: string,
): readonly string[] {
  const below = values.flatMap((value) =>
    subject(
      `${axis}.${value.key}`,
      value.title,
      [
        empty('data', { name: 'value', value: value.key }),
        empty('data', { name: 'code', value: value.code }),
        empty('data', { name: 'colour', value: value.colour }),
        empty('data', { name: 'pattern', value: value.pattern }),
      ],
      value.values ?? [],
      axis,
    ).map((line) => `  ${line}`),
  );
  const meta = [
    '<topicmeta>',
    `  ${element('navtitle', undefined, escapeHtml(title))}`,
    ...data.map((each) => `  ${each}`),
  ];
  return [
    startTag('subjectdef', { keys: key }),
    ...[...meta, '</topicmeta>'].map((line) => `  ${line}`),
    ...below,
    '</subjectdef>',
  ];
}

function writeProfile({ title, axes: choices }: NamedProfile, axes: readonly Axis[]): string {
  const props = axes.flatMap(({ key }) => {
    const choice = choices[key];
    if (!choice) return [];
    const action = (isIn: boolean): string => (isIn ? 'include' : 'exclude');
    const marks = [
      ...(choice.in ?? []).map((value) => ({ value, isIn: true })),
      ...(choice.out ?? []).map((value) => ({ value, isIn: false })),
    ];
    return [
      empty('prop', { att: key, action: action(choice.default === 'in') }),
      ...marks.map(({ value, isIn }) => empty('prop', { att: key, val: value, action: action(isIn) })),
    ];
  });
  // A comment may not hold two hyphens (XML 1.0, 2.5).
  const name = title.replace(/-(?=-|$)/g, '- ');
  return `${declaration}<!-- ${name} -->\n<val>\n${lines(2, props)}</val>\n`;
}

function empty(name: string, attributes: Readonly<Record<string, string | number>>): string {
  return startTag(name, attributes).replace(/>$/, '/>');
}

function lines(indent: number, all: readonly string[]): string {
  return all.map((line) => `${' '.repeat(indent)}${line}\n`).join('');
}
