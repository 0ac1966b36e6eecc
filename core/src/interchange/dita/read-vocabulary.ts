import { flattenValues, type Axis, type AxisValue } from '../../model/axis.js';
import type { StoredProfile } from '../../contract/variation.js';
import { parseXml, type XmlElement, type XmlNode } from '../docbook/xml.js';
import type { VocabularyFile } from './write-vocabulary.js';

/** What files of a vocabulary say. */
export interface ReadVocabulary {
  readonly axes: readonly Axis[];
  readonly profiles: readonly StoredProfile[];
  /** What was passed over, each in a sentence with its place. */
  readonly notes: readonly string[];
}

const [colours, patterns] = [8, 6];
/** Elements of a scheme that only group what is in them, or say how it hangs together (DITA 1.3, 3.4.3). */
const grouping: ReadonlySet<string> = new Set([
  'hasNarrower',
  'hasKind',
  'hasPart',
  'hasInstance',
  'subjectHead',
  'topicref',
  'topicgroup',
  'mapref',
]);
const included: ReadonlySet<string> = new Set(['include', 'passthrough', 'flag']);

interface Subject {
  readonly keys: readonly string[];
  readonly title: string;
  readonly value: AxisValue;
  readonly below: readonly Subject[];
}

/**
 * Reads subject scheme maps and DITAVAL documents (DITA 1.3, OASIS Standard, 17 December 2015). Each enumeration of an attribute is an
 * axis with the tree of subjects that it names; without any, each outermost subject is one. What a DITAVAL document names and no
 * scheme has is added, as are axes and values that are known already.
 * @throws ImportFault where a file is not well-formed XML
 */
export function readVocabulary(files: readonly VocabularyFile[], known: readonly Axis[] = []): ReadVocabulary {
  const notes: string[] = [];
  const axes = new Map<string, Axis>(known.map((axis) => [axis.key, axis]));
  const profiles: StoredProfile[] = [];
  const documents = files.map(({ name, text }) => ({ name, text, root: rootOf(parseXml(text, name)) }));
  for (const { name, root } of documents) {
    if (root?.name === 'subjectScheme')
      for (const axis of readScheme(root)) axes.set(axis.key, joined(axes.get(axis.key), axis));
    else if (root?.name !== 'val')
      notes.push(`“${name}” is neither a subject scheme map nor a DITAVAL document: it was passed over.`);
  }
  for (const { name, text, root } of documents) {
    if (root?.name !== 'val') continue;
    const title = titleIn(text) ?? titleOfFile(name);
    profiles.push({ key: keyOf(titleOfFile(name)), title, axes: readChoices(root, axes, notes, name) });
  }
  return { axes: [...axes.values()], profiles, notes };
}

/** The values of one axis and those of another that it lacks, each below the value that it stands under. */
function joined(known: Axis | undefined, read: Axis): Axis {
  if (!known) return read;
  const has = new Set(flattenValues(known).map(({ value }) => value.key));
  const join = (mine: readonly AxisValue[], theirs: readonly AxisValue[]): readonly AxisValue[] => [
    ...mine.map((value) => {
      const same = theirs.find(({ key }) => key === value.key);
      const values = same ? join(value.values ?? [], same.values ?? []) : (value.values ?? []);
      return values.length > 0 ? { ...value, values } : value;
    }),
    ...theirs.filter(({ key }) => !mine.some((value) => value.key === key)).flatMap(news),
  ];
  // What is known in another place stays there; what is new below it comes where the file has it.
  const news = (value: AxisValue): readonly AxisValue[] => {
    const values = (value.values ?? []).flatMap(news);
    if (has.has(value.key)) return values;
    return [{ ...value, values }];
  };
  return { ...known, values: join(known.values, read.values) };
}

function readScheme(root: XmlElement): readonly Axis[] {
  let count = 0;
  const byKey = new Map<string, Subject>();
  const subjectsIn = (element: XmlElement): readonly Subject[] =>
    elementsIn(element).flatMap((child) => {
      if (grouping.has(child.name)) return subjectsIn(child);
      if (child.name !== 'subjectdef') return [];
      const own = (child.attrs['keys'] ?? '').split(/\s+/).filter((key) => key !== '');
      const refers = byKey.get(child.attrs['keyref'] ?? '');
      if (own.length === 0 && refers) return [refers];
      const [name = child.attrs['keyref'] ?? ''] = own;
      if (name === '') return subjectsIn(child);
      const title = titleOf(child) ?? name;
      const at = count++;
      const said = dataOf(child);
      const value: AxisValue = {
        key: keyOf(said.get('value') ?? name),
        title,
        code: (said.get('code') ?? codeOf(title)).slice(0, 2),
        colour: Number(said.get('colour') ?? at) % colours || 0,
        pattern: Number(said.get('pattern') ?? at) % patterns || 0,
      };
      const subject: Subject = { keys: own, title, value, below: subjectsIn(child) };
      for (const key of own) byKey.set(key, subject);
      return [subject];
    });
  const outermost = subjectsIn(root);
  const used = new Set<string>();
  const valuesOf = (subjects: readonly Subject[]): readonly AxisValue[] =>
    subjects.flatMap(({ value, below }) => {
      if (used.has(value.key)) return [];
      used.add(value.key);
      const values = valuesOf(below);
      return [values.length > 0 ? { ...value, values } : value];
    });
  const axisOf = (key: string, title: string, subjects: readonly Subject[]): Axis => {
    used.clear();
    return { key: keyOf(key), title, values: valuesOf(subjects) };
  };
  const enumerations = elementsIn(root).filter(({ name }) => name === 'enumerationdef');
  if (enumerations.length === 0) return outermost.map(({ value, title, below }) => axisOf(value.key, title, below));
  const axes = new Map<string, Axis>();
  for (const enumeration of enumerations) {
    const parts = elementsIn(enumeration);
    const attribute = parts.find(({ name }) => name === 'attributedef')?.attrs['name'];
    if (attribute === undefined) continue;
    const named = parts.flatMap(({ name, attrs }) => {
      const subject = name === 'subjectdef' ? byKey.get(attrs['keyref'] ?? '') : undefined;
      return subject ? [subject] : [];
    });
    const [only] = named;
    const axis = axisOf(
      attribute,
      named.length === 1 && only ? only.title : attribute,
      named.flatMap(({ below }) => below),
    );
    axes.set(axis.key, joined(axes.get(axis.key), axis));
  }
  return [...axes.values()];
}

/** What a DITAVAL document says of each axis; values that no axis has are added to it. */
function readChoices(root: XmlElement, axes: Map<string, Axis>, notes: string[], file: string): StoredProfile['axes'] {
  const props = elementsIn(root).filter(({ name }) => name === 'prop');
  const isIn = ({ attrs }: XmlElement): boolean => included.has(attrs['action'] ?? 'include');
  const general = props.find(({ attrs }) => attrs['att'] === undefined);
  const choices = new Map<string, { default: 'in' | 'out'; in: string[]; out: string[] }>();
  const choiceOf = (axis: string): { default: 'in' | 'out'; in: string[]; out: string[] } => {
    const choice = choices.get(axis) ?? { default: general && !isIn(general) ? 'out' : 'in', in: [], out: [] };
    choices.set(axis, choice);
    return choice;
  };
  if (general && !isIn(general)) for (const axis of axes.keys()) choiceOf(axis);
  for (const prop of props) {
    const { att, val } = prop.attrs;
    if (att === undefined) continue;
    const key = keyOf(att);
    const choice = choiceOf(key);
    if (!axes.has(key)) axes.set(key, { key, title: att, values: [] });
    if (val === undefined) choice.default = isIn(prop) ? 'in' : 'out';
    else {
      const value = keyOf(val);
      if (isIn(prop)) choice.in.push(value);
      else choice.out.push(value);
      addValue(axes, key, value, val);
    }
    if (prop.attrs['action'] === 'flag')
      notes.push(`“${file}”, line ${prop.line}: flagging of ${att} ${val ?? ''} is not kept; what bears it is in.`);
  }
  for (const { name, line } of elementsIn(root))
    if (name === 'revprop') notes.push(`“${file}”, line ${line}: marks of revisions are not kept.`);
  return Object.fromEntries(
    [...choices].map(([axis, { default: otherwise, in: marked, out }]) => [
      axis,
      { default: otherwise, ...(marked.length > 0 ? { in: marked } : {}), ...(out.length > 0 ? { out } : {}) },
    ]),
  );
}

function addValue(axes: Map<string, Axis>, axis: string, key: string, title: string): void {
  const found = axes.get(axis);
  if (!found) return;
  const flat = flattenValues(found);
  if (flat.some(({ value }) => value.key === key)) return;
  const value = { key, title, code: codeOf(title), colour: flat.length % colours, pattern: flat.length % patterns };
  axes.set(axis, { ...found, values: [...found.values, value] });
}

function rootOf(nodes: readonly XmlNode[]): XmlElement | undefined {
  return nodes.find((node): node is XmlElement => node.kind === 'element');
}

function elementsIn({ children }: XmlElement): readonly XmlElement[] {
  return children.filter((child): child is XmlElement => child.kind === 'element');
}

function textOf(node: XmlNode): string {
  if (node.kind === 'text') return node.text;
  return node.kind === 'element' ? node.children.map(textOf).join('') : '';
}

/** What a subject is called: its navigation title as an element or as an attribute. */
function titleOf(subject: XmlElement): string | null {
  const meta = elementsIn(subject).find(({ name }) => name === 'topicmeta');
  const written = meta && elementsIn(meta).find(({ name }) => name === 'navtitle');
  const title = (written ? textOf(written) : (subject.attrs['navtitle'] ?? '')).replace(/\s+/g, ' ').trim();
  return title === '' ? null : title;
}

function dataOf(subject: XmlElement): ReadonlyMap<string, string> {
  const meta = elementsIn(subject).find(({ name }) => name === 'topicmeta');
  const data = meta ? elementsIn(meta).filter(({ name }) => name === 'data') : [];
  return new Map(data.map(({ attrs }) => [attrs['name'] ?? '', attrs['value'] ?? '']));
}

/** The comment before what the profile says, where `writeVocabulary` keeps its title. */
function titleIn(text: string): string | null {
  return (
    /^(?:\uFEFF?<\?xml[^>]*\?>)?\s*<!-- (.{1,300}?) -->\s*<val[\s>]/.exec(text)?.[1]?.replace(/- (?=-)|- $/g, '-') ??
    null
  );
}

function titleOfFile(name: string): string {
  return (name.split('/').at(-1) ?? name).replace(/\.[^.]+$/, '');
}

/** A name as a key, with what keys cannot have (see `keySchema`) as hyphens. */
function keyOf(name: string): string {
  const key = name
    .trim()
    .replace(/[^\p{L}\p{N}._-]+/gu, '-')
    .replace(/^[.-]+/, '')
    .slice(0, 80);
  return key === '' ? 'unnamed' : key;
}

function codeOf(title: string): string {
  return title.replace(/[^\p{L}\p{N}]/gu, '').slice(0, 2) || '?';
}
