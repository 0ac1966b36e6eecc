import type { EntryAlone } from '../assemble/assemble.js';
import { digestOf } from '../model/digest.js';
import { kindSpec } from '../model/kinds.js';
import { childrenOf, textAttr, type AnyNode } from '../model/node.js';

/**
 * Two digests of what an entry shows. The exact one is equal only where everything that any format could show is; the
 * other one is of the words that every format shows, so that where it differs every deliverable does.
 */
export interface EntryDigests {
  readonly exact: string;
  readonly words: string;
}

/** Gives a text a digest; equal for equal texts. */
export type Digest = (text: string) => string;

type Shown = Pick<EntryAlone, 'title' | 'blocks' | 'role'>;

/** The digests of an entry. Content that did not change is not read again. */
export function digestsOf(entry: Shown, digest: Digest = digestOf): EntryDigests {
  const { blocks, title, role } = entry;
  const last = lastDigests.get(blocks);
  if (last && last.title === title && last.role === role && last.digest === digest) return last.digests;
  const digests = { exact: exactDigest(entry, digest), words: wordsDigest(entry, digest) };
  lastDigests.set(blocks, { title, role, digest, digests });
  return digests;
}

interface LastDigests extends Pick<Shown, 'title' | 'role'> {
  readonly digest: Digest;
  readonly digests: EntryDigests;
}

const lastDigests = new WeakMap<readonly AnyNode[], LastDigests>();

export function exactDigest({ title, blocks, role }: Shown, digest: Digest = digestOf): string {
  const ofBlocks = rememberedFor(exactDigests, digest, blocks, () => digest(exactText(blocks)));
  return digest(`${role} ${exactText(title)} ${ofBlocks}`);
}

export function wordsDigest({ title, blocks }: Shown, digest: Digest = digestOf): string {
  const ofBlocks = rememberedFor(wordDigests, digest, blocks, () => digest(wordsIn(blocks)));
  return digest(`${wordsIn(title)}\n${ofBlocks}`);
}

// Variants that agree on a topic have its blocks in the same list.
type ByBlocks = WeakMap<readonly AnyNode[], string>;
const exactDigests = new WeakMap<Digest, ByBlocks>();
const wordDigests = new WeakMap<Digest, ByBlocks>();

function rememberedFor(
  all: WeakMap<Digest, ByBlocks>,
  digest: Digest,
  blocks: readonly AnyNode[],
  make: () => string,
): string {
  let known = all.get(digest);
  if (!known) all.set(digest, (known = new WeakMap()));
  let found = known.get(blocks);
  if (found === undefined) known.set(blocks, (found = make()));
  return found;
}

const texts = new WeakMap<AnyNode, string>();

/** Content as text, with all that a format could show of it. */
function exactText(nodes: readonly AnyNode[]): string {
  let text = '';
  for (const node of nodes) text += exactNode(node);
  return text;
}

function exactNode(node: AnyNode): string {
  if (node.text !== undefined) return marksText(node) + JSON.stringify(node.text);
  const remembers = composed.has(node.type);
  if (remembers) {
    const known = texts.get(node);
    if (known !== undefined) return known;
  }
  const text = `${marksText(node)}<${node.type}${attributesText(node)}>${node.content ? exactText(node.content) : ''}</>`;
  if (remembers) texts.set(node, text);
  return text;
}

/** What is remembered: it holds much, and most of it stays when one place changes. The rest is quick to write again. */
const composed: ReadonlySet<string> = new Set(['section', 'placed', 'slot']);

function marksText({ marks }: AnyNode): string {
  if (!marks) return '';
  let text = '';
  for (const mark of marks) if (mark.type !== 'condition') text += `${mark.type}${attributesText(mark)}:`;
  return text;
}

function attributesText({ attrs }: Pick<AnyNode, 'attrs'>): string {
  if (!attrs) return '';
  let text = '';
  for (const name of Object.keys(attrs).sort()) {
    // Conditions have done their work, and no format shows which revision was placed.
    if (name === 'when' || name === 'revision' || attrs[name] === null || attrs[name] === undefined) continue;
    text += ` ${name}=${JSON.stringify(attrs[name])}`;
  }
  return text;
}

/** The words that stand wherever content stands, in whatever format. */
function wordsIn(nodes: readonly AnyNode[]): string {
  let text = '';
  for (const node of nodes) {
    if (node.text !== undefined) text += node.text;
    // Footnotes show where they are called, and of a slot perhaps only the stated candidate.
    else if (node.type === 'footnote') continue;
    else if (node.type === 'slot') {
      text += wordsIn(childrenOf(node).filter((each) => textAttr(each, 'component') === textAttr(node, 'stated')));
    } else if (node.content) text += kindSpec(node.type).line ? `${wordsIn(node.content)}\n` : wordsIn(node.content);
  }
  return text;
}
