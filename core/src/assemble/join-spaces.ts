import { known } from '../model/known.js';
import type { TreeNode } from '../model/node.js';

const space = /[ \t\n\r]/;
const spacesAtEnd = /[ \t\n\r]+$/;
const spacesAtStart = /^[ \t\n\r]+/;
const closing = new Set([...'.,;:!?)]}’”»…']);
const pairs: ReadonlyMap<string, string> = new Map(
  Object.entries({ '(': ')', '[': ']', '{': '}', '‘': '’', '“': '”', '«': '»' }),
);
const separators = new Set([...',;']);
const endsOfClause = new Set([...'.,;:!?)]}']);

/** Stands for a node that is no text. */
const leaf = '\uFFFC';

/**
 * Mends a line where inline content was removed: no space at its edges, one instead of two between
 * words, none before closing and after opening punctuation; brackets with nothing between them go, and so does a
 * comma that separates nothing any more. A line of which only spaces stay is empty.
 * @param nodes the inline content that stayed
 * @param gaps positions in `nodes` before which something was removed, ascending
 * @param withText makes a node that reads otherwise
 */
export function joinSpaces<Node extends TreeNode<string>>(
  nodes: readonly Node[],
  gaps: readonly number[],
  withText: (node: Node, text: string) => Node,
): readonly Node[] {
  if (gaps.length === 0) return nodes;
  const texts = nodes.map((node) => node.text ?? leaf);
  for (const gap of gaps) new Gap(texts, gap).mend();
  if (nodes.every((node, at) => node.text !== undefined && texts[at]?.trim() === '')) return [];
  const joined: Node[] = [];
  nodes.forEach((node, at) => {
    const text = known(texts[at]);
    if (text === '') return;
    joined.push(node.text === undefined || text === node.text ? node : withText(node, text));
  });
  return joined;
}

/** A sign of a line: the text that it stands in, and its place there. */
interface Sign {
  readonly text: number;
  readonly at: number;
  readonly sign: string;
}

/** One place of a line, between two texts, where something was removed. */
class Gap {
  /** @param texts those of the line, which are mended in place */
  constructor(
    private readonly texts: string[],
    private readonly gap: number,
  ) {}

  mend(): void {
    while (this.dropsPair() || this.dropsSeparatorBehind() || this.dropsSeparatorBefore());
    const left = this.signBefore();
    if (left === undefined || space.test(left) || pairs.has(left)) this.trimBehind();
    const right = this.signBehind();
    if (right === undefined || closing.has(right)) this.trimBefore();
  }

  private dropsPair(): boolean {
    const [left, right] = [this.nearestBefore(), this.nearestBehind()];
    if (!left || !right || pairs.get(left.sign) !== right.sign) return false;
    this.cutBefore(left);
    this.cutBehind(right);
    return true;
  }

  /** A separator behind goes where nothing, another one or an opening bracket stands before. */
  private dropsSeparatorBehind(): boolean {
    const right = this.nearestBehind();
    if (!right || !separators.has(right.sign)) return false;
    const left = this.nearestBefore();
    if (left && !separators.has(left.sign) && !pairs.has(left.sign)) return false;
    this.cutBehind(right);
    return true;
  }

  /** A separator before goes where the clause ends behind. */
  private dropsSeparatorBefore(): boolean {
    const left = this.nearestBefore();
    if (!left || !separators.has(left.sign)) return false;
    const right = this.nearestBehind();
    if (right && !endsOfClause.has(right.sign)) return false;
    this.cutBefore(left);
    return true;
  }

  /** The sign right before, a space or not. */
  private signBefore(): string | undefined {
    for (let text = this.gap - 1; text >= 0; text -= 1) if (this.texts[text] !== '') return this.texts[text]?.at(-1);
    return undefined;
  }

  private signBehind(): string | undefined {
    for (let text = this.gap; text < this.texts.length; text += 1)
      if (this.texts[text] !== '') return this.texts[text]?.[0];
    return undefined;
  }

  /** The last sign before that is no space. */
  private nearestBefore(): Sign | undefined {
    for (let text = this.gap - 1; text >= 0; text -= 1) {
      const at = known(this.texts[text]).replace(spacesAtEnd, '').length - 1;
      if (at >= 0) return { text, at, sign: known(known(this.texts[text])[at]) };
    }
    return undefined;
  }

  private nearestBehind(): Sign | undefined {
    for (let text = this.gap; text < this.texts.length; text += 1) {
      const whole = known(this.texts[text]);
      const at = whole.length - whole.replace(spacesAtStart, '').length;
      if (at < whole.length) return { text, at, sign: known(whole[at]) };
    }
    return undefined;
  }

  /** Takes a sign out, with all that stands between it and the gap. */
  private cutBefore({ text, at }: Sign): void {
    this.texts[text] = known(this.texts[text]).slice(0, at);
    for (let each = text + 1; each < this.gap; each += 1) this.texts[each] = '';
  }

  private cutBehind({ text, at }: Sign): void {
    this.texts[text] = known(this.texts[text]).slice(at + 1);
    for (let each = this.gap; each < text; each += 1) this.texts[each] = '';
  }

  private trimBefore(): void {
    for (let text = this.gap - 1; text >= 0; text -= 1) {
      this.texts[text] = known(this.texts[text]).replace(spacesAtEnd, '');
      if (this.texts[text] !== '') return;
    }
  }

  private trimBehind(): void {
    for (let text = this.gap; text < this.texts.length; text += 1) {
      this.texts[text] = known(this.texts[text]).replace(spacesAtStart, '');
      if (this.texts[text] !== '') return;
    }
  }
}
