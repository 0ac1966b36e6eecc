import { inCaseOf } from '../search/case-of.js';
import { childrenOf, textAttr, type ContentNode } from '../model/node.js';

/** What is looked at when something is saved; a team switches off what it does not want, and says why. */
export const checkKinds = [
  'alternative-text',
  'heading-depth',
  'empty-section',
  'words-to-avoid',
  'long-sentence',
  'step-without-act',
  'late-warning',
] as const;
export type CheckKind = (typeof checkKinds)[number];

/** Words that a team does not want to read, with better ones; empty: none. */
export interface WordsToAvoid {
  readonly words: string;
  readonly better: string;
}

export interface CheckSettings {
  /** What is switched off, each with its reason. */
  readonly off: Readonly<Partial<Record<CheckKind, string>>>;
  /** How deep sections may stand in each other. */
  readonly mostLevels: number;
  /** Words of a sentence. */
  readonly mostWords: number;
  readonly avoid: readonly WordsToAvoid[];
}

/** What a team begins with; a sentence of more than 30 words is long by common practice. */
export const firstCheckSettings: CheckSettings = { off: {}, mostLevels: 3, mostWords: 30, avoid: [] };

/** What can be done about a finding in one step. */
export type Mend =
  /** Other words in a line, from one offset of its text to another. */
  | { readonly kind: 'words'; readonly from: number; readonly to: number; readonly becomes: string }
  /** The block goes before what stands in front of it in its step. */
  | { readonly kind: 'to the front' }
  | { readonly kind: 'remove' };

export interface CheckFinding {
  readonly kind: CheckKind;
  /** One sentence. */
  readonly message: string;
  /** The way to the block, by the numbers of children from the body. */
  readonly path: readonly number[];
  readonly mend: Mend | null;
}

export interface CheckContext {
  /** The language of the page, as a language tag. */
  readonly language: string;
  /** The alternative text of an image of the library. */
  readonly altOf: (image: string) => string;
}

/** So many findings are told of one page: whoever has more mends these first. */
export const mostFindings = 200;

/** Looks through a body for what a team wants to be told of. */
export function checkWriting(
  body: ContentNode,
  settings: CheckSettings,
  context: CheckContext,
): readonly CheckFinding[] {
  const found: CheckFinding[] = [];
  const isOn = (kind: CheckKind): boolean => settings.off[kind] === undefined;
  const avoid = isOn('words-to-avoid') ? settings.avoid.flatMap(wordPattern) : [];
  const add = (kind: CheckKind, message: string, path: readonly number[], mend: Mend | null = null): void => {
    if (isOn(kind) && found.length < mostFindings) found.push({ kind, message, path, mend });
  };
  const visit = (node: ContentNode, path: readonly number[], sections: number): void => {
    const children = childrenOf(node);
    if (node.type === 'section') checkSection(node, path, sections + 1, settings, add);
    else if (node.type === 'step') checkStep(node, path, context.language, add);
    else if (node.type === 'picture' || node.type === 'image') {
      if (textAttr(node, 'alt') === null && context.altOf(textAttr(node, 'component') ?? '').trim() === '')
        add(
          'alternative-text',
          'This picture says nothing to readers who cannot see it: it has no alternative text.',
          path,
        );
    }
    if (children.some(({ type }) => type === 'text') && node.type !== 'code_block')
      checkLine(node, path, settings, avoid, context, add);
    children.forEach((child, at) => {
      const before = children[at - 1];
      if (isWarning(child) && before?.type === 'steps')
        add('late-warning', 'A warning stands behind the steps that it warns of.', [...path, at]);
      visit(child, [...path, at], node.type === 'section' ? sections + 1 : sections);
    });
  };
  visit(body, [], 0);
  return found;
}

type Add = (kind: CheckKind, message: string, path: readonly number[], mend?: Mend | null) => void;

const isEmpty = (node: ContentNode): boolean => node.type === 'paragraph' && childrenOf(node).length === 0;

function checkSection(
  node: ContentNode,
  path: readonly number[],
  depth: number,
  { mostLevels }: CheckSettings,
  add: Add,
): void {
  const [title, ...rest] = childrenOf(node);
  if (depth > mostLevels) {
    add('heading-depth', `This section stands on level ${depth}; none below level ${mostLevels} is wanted.`, path);
  }
  if (!title || childrenOf(title).length === 0) add('empty-section', 'This section has no title.', path);
  else if (rest.every(isEmpty))
    add('empty-section', 'This section has a title and nothing below.', path, { kind: 'remove' });
}

const warnings: ReadonlySet<string> = new Set(['caution', 'warning', 'danger']);
const isWarning = (node: ContentNode): boolean =>
  node.type === 'admonition' && warnings.has(textAttr(node, 'kind') ?? '');

/** How sentences begin that say how something is, by language; what is not among these is not judged. */
const statements: Readonly<Record<string, RegExp>> = {
  en: /^(?:the|this|that|these|those|it|there|a|an)\s/i,
  de: /^(?:der|die|das|dies(?:e|er|es)?|es|ein|eine)\s/i,
};

function checkStep(node: ContentNode, path: readonly number[], language: string, add: Add): void {
  const children = childrenOf(node);
  const first = children.find(({ type }) => type === 'paragraph');
  const words = first ? lineText(first).trim() : '';
  // What is placed or shown may say the act.
  const saysNothing = words === '' && children.every((child) => isEmpty(child) || child.type === 'figure');
  const statement = statements[language.split('-')[0]?.toLowerCase() ?? ''];
  if (saysNothing) add('step-without-act', 'This step does not say what to do.', path);
  else if (statement?.test(words) && !hasLeaf(first))
    add('step-without-act', `This step says how something is, not what to do: “${shortened(words)}”`, path);
  children.forEach((child, at) => {
    const isBehind = children.slice(0, at).some(({ type, content }) => type === 'paragraph' && content?.length);
    if (isWarning(child) && isBehind)
      add('late-warning', 'A warning stands behind the act that it warns of.', [...path, at], { kind: 'to the front' });
  });
}

const hasLeaf = (line: ContentNode | undefined): boolean => {
  const [first] = line ? childrenOf(line) : [];
  return first !== undefined && first.type !== 'text';
};

/** The text of a line, with one sign for each leaf and each sign of code, so that offsets are places. */
function lineText(line: ContentNode): string {
  return childrenOf(line)
    .map((node) => {
      if (node.text === undefined) return '\ufffc';
      return node.marks?.some(({ type }) => type === 'code') ? '\ufffc'.repeat(node.text.length) : node.text;
    })
    .join('');
}

interface Avoided {
  readonly pattern: RegExp;
  readonly better: string;
}

function wordPattern({ words, better }: WordsToAvoid): readonly Avoided[] {
  const wanted = words.trim();
  if (wanted === '') return [];
  const escaped = wanted.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&').replace(/\s+/g, '\\s+');
  return [{ pattern: new RegExp(`(?<![\\p{L}\\p{N}])${escaped}(?![\\p{L}\\p{N}])`, 'giu'), better: better.trim() }];
}

function checkLine(
  line: ContentNode,
  path: readonly number[],
  { mostWords }: CheckSettings,
  avoid: readonly Avoided[],
  { language }: CheckContext,
  add: Add,
): void {
  const text = lineText(line);
  for (const { pattern, better } of avoid) {
    for (const { 0: words, index } of text.matchAll(pattern)) {
      const mend: Mend | null =
        better === ''
          ? null
          : {
              kind: 'words',
              from: index,
              to: index + words.length,
              becomes: inCaseOf(words.toLowerCase(), words, better),
            };
      const instead = better === '' ? '' : `: rather “${better}”`;
      add('words-to-avoid', `“${words}” is not wanted${instead}.`, path, mend);
    }
  }
  // Short lines hold no long sentence; most lines are short.
  if (text.length < mostWords * 2) return;
  for (const sentence of sentencesOf(text, language)) {
    const count = sentence.match(/[\p{L}\p{N}]+(?:['’.-][\p{L}\p{N}]+)*/gu)?.length ?? 0;
    if (count > mostWords)
      add(
        'long-sentence',
        `A sentence of ${count} words; no more than ${mostWords} are wanted: “${shortened(sentence)}”`,
        path,
      );
  }
}

const segmenters = new Map<string, Intl.Segmenter>();

/** Sentences by the rules of the language (Unicode, UAX 29, section 5). */
function sentencesOf(text: string, language: string): readonly string[] {
  let segmenter = segmenters.get(language);
  if (!segmenter) segmenters.set(language, (segmenter = new Intl.Segmenter(language, { granularity: 'sentence' })));
  return [...segmenter.segment(text)].map(({ segment }) => segment);
}

function shortened(text: string): string {
  const plain = text.replaceAll('\ufffc', '…').trim();
  return plain.length > 50 ? `${plain.slice(0, 50).replace(/\s*\S*$/, '')} …` : plain;
}
