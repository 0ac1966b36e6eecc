import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { AssembledEntry, AssembledNode } from '../assemble/assembled.js';
import { languageMatches } from '../assemble/assemble-content.js';
import { filterGrid } from '../assemble/filter-table.js';
import { columnsOf } from '../content/body.js';
import { childrenOf, textAttr, type ContentMark, type ContentNode } from '../content/node.js';
import { partsOf, type PreparedNode } from '../content/prepared.js';
import type { Component, ImageBody, VariableBody } from '../library/component.js';
import type { Selector } from '../variation/selector.js';

/** The first 128 bits of the SHA-256 of a text (FIPS 180-4), in hexadecimal. */
export function digestOf(text: string): string {
  return bytesToHex(sha256(utf8ToBytes(text))).slice(0, 32);
}

/**
 * Content as a text that is equal for content that comes out equal: without conditions, and without the ids
 * of blocks that output gives none.
 */
export function contentText(nodes: readonly ContentNode[]): string {
  let text = '';
  for (const node of nodes) text += nodeText(node, contentText(childrenOf(node)), hiddenIn(node));
  return text;
}

function nodeText(node: ContentNode, inner: string, hidden: readonly string[] = justWhen): string {
  const marks = node.marks ? marksText(node.marks) : '';
  if (node.text !== undefined) return `${marks}${JSON.stringify(node.text)}`;
  return `${marks}<${node.type}${attrsText(node.attrs, hidden)}>${inner}</>`;
}

const justWhen = ['when'];
const withoutId = ['when', 'id'];
const shownIds = new Set(['section', 'figure', 'table', 'example', 'step', 'slot']);

/** The attributes of assembled content that do not come out. */
function hiddenIn(node: ContentNode): readonly string[] {
  if (shownIds.has(node.type)) return justWhen;
  if (node.type !== 'placed') return withoutId;
  // A placement's name stands in the ids of what carries a label in it.
  const { labels } = node as Partial<PreparedNode>;
  return labels === 0 ? ['when', 'revision', 'placement'] : ['when', 'revision'];
}

function marksText(marks: readonly ContentMark[]): string {
  let text = '';
  for (const mark of marks) if (mark.type !== 'condition') text += `${mark.type}${attrsText(mark.attrs, justWhen)}:`;
  return text;
}

function attrsText(attrs: Readonly<Record<string, unknown>> | undefined, hidden: readonly string[]): string {
  if (!attrs) return '';
  let text = '';
  for (const name of Object.keys(attrs).sort()) {
    if (!hidden.includes(name) && attrs[name] !== null && attrs[name] !== undefined)
      text += ` ${name}=${JSON.stringify(attrs[name])}`;
  }
  return text;
}

const digests = new WeakMap<PreparedNode, string>();
/** What has a digest of its own, so that a change elsewhere does not cost reading it again. */
const composed = new Set(['section', 'placed', 'slot']);

function nodeDigest(node: PreparedNode): string {
  let digest = digests.get(node);
  if (digest === undefined) {
    digest = digestOf(nodeText(node, textOfParts(partsOf(node)), hiddenIn(node)));
    digests.set(node, digest);
  }
  return digest;
}

function textOfParts(parts: readonly PreparedNode[]): string {
  let text = '';
  for (const part of parts) text += composed.has(part.type) ? `[${nodeDigest(part)}]` : contentText([part]);
  return text;
}

/**
 * The digest of what an assembled entry shows: its title and its blocks, without numbers and references' texts.
 * @param targets the blocks that references lead to, as `targetName` names them: these have ids in the output
 */
export function digestOfEntry(entry: AssembledEntry, targets: ReadonlySet<string>): string {
  const reached = targets.size === 0 ? '' : targetsIn(entry.blocks, entry.topic, targets);
  return digestOf(`${contentText(entry.title)}|${digestOfBlocks(entry.blocks)}|${reached}`);
}

const blockDigests = new WeakMap<readonly AssembledNode[], string>();

/** Variants that agree on a topic have its blocks in the same list. */
function digestOfBlocks(blocks: readonly AssembledNode[]): string {
  let digest = blockDigests.get(blocks);
  if (digest === undefined) {
    digest = digestOf(textOfParts(blocks as readonly PreparedNode[]));
    blockDigests.set(blocks, digest);
  }
  return digest;
}

/** Names a block that a reference leads to. */
export function targetName(component: string, block: string): string {
  return `${component}#${block}`;
}

function targetsIn(nodes: readonly AssembledNode[], component: string, targets: ReadonlySet<string>): string {
  let found = '';
  for (const node of nodes) {
    const name = targetName(component, textAttr(node, 'id') ?? '');
    if (targets.has(name)) found += `${name} `;
    const inside = node.type === 'placed' ? (textAttr(node, 'component') ?? '') : component;
    if (node.content) found += targetsIn(node.content, inside, targets);
  }
  return found;
}

/**
 * The digest of what a component itself contributes to a variant: of what its conditions let through, with
 * placements and variables as they are written. Where it is equal for two revisions, every deliverable of
 * the variant is the same with either.
 */
export function contributionOf(component: Component, selector: Selector, language: string): string {
  return digestOf(`${component.kind}|${contributed(component, selector, language)}`);
}

function contributed({ body, revision }: Component, selector: Selector, language: string): string {
  switch (body.type) {
    case 'variable': {
      const { rules, default: otherwise } = body as VariableBody;
      const rule = rules.find(
        (each) => selector.holds(each.when) && (each.language === null || languageMatches(each.language, language)),
      );
      const value = rule?.value ?? otherwise;
      return value ? selectedText(value, selector) : '';
    }
    case 'image': {
      const { alt, file, versions } = body as ImageBody;
      return JSON.stringify([alt, versions.find((each) => selector.holds(each.when))?.file ?? file]);
    }
    case 'link':
      return JSON.stringify(body);
    default:
      // The built-in variable shows the revision itself.
      return selectedText(body as ContentNode, selector).replaceAll(
        'key="@revision"',
        `key="@revision" is=${revision}`,
      );
  }
}

/** Content that the conditions let through, as text; a sign stands where inline content was taken out. */
function selectedText(node: ContentNode, selector: Selector): string {
  const grid = node.type === 'table_grid' ? selectedGrid(node, selector) : node;
  if (!grid) return '';
  let inner = '';
  for (const child of childrenOf(grid)) {
    if (!isIn(child, selector)) inner += child.text !== undefined || child.marks ? '␀' : '';
    else if (node.type === 'choice') return nodeText({ type: 'choice' }, selectedText(child, selector));
    else inner += selectedText(child, selector);
  }
  return nodeText(grid, inner);
}

function selectedGrid(grid: ContentNode, selector: Selector): ContentNode | null {
  const rows = childrenOf(grid);
  const columns = columnsOf(grid);
  return filterGrid(
    grid,
    (row) => isIn(rows[row] as ContentNode, selector),
    (column) => selector.holds(columns[column]?.when ?? null),
  );
}

function isIn(node: ContentNode, selector: Selector): boolean {
  if (!selector.holds(textAttr(node, 'when'))) return false;
  return (node.marks ?? []).every((mark) => mark.type !== 'condition' || selector.holds(textAttr(mark, 'when')));
}
