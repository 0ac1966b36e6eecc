import { perContent } from '../model/per-content.js';
import { childrenOf, textAttr, type AssembledNode } from '../model/node.js';
import type { Problem } from '../model/problem.js';
import { flattenPages, type NumberedPublication } from './numbered.js';

/** The characters of some content beyond the first 256 of Unicode, each with the block in which it stands first. */
const charactersIn = perContent((content: readonly AssembledNode[]): ReadonlyMap<string, string | null> => {
  const found = new Map<string, string | null>();
  const visit = (nodes: readonly AssembledNode[], around: string | null): void => {
    for (const node of nodes) {
      const block = textAttr(node, 'id') ?? around;
      const text = node.text ?? (node.type === 'formula' ? (textAttr(node, 'source') ?? '') : '');
      // Most text has none of them.
      if (beyond.test(text))
        for (const each of text.match(allBeyond) ?? []) if (!found.has(each)) found.set(each, block);
      visit(childrenOf(node), block);
    }
  };
  visit(content, null);
  return found;
});

const beyond = /[\u0100-\u{10ffff}]/u;
const allBeyond = /[\u0100-\u{10ffff}]/gu;

/** Signs that join, part or direct others, and have no looks of their own (Unicode, general category Cf, and variation selectors). */
const withoutLooks = /[\p{Cf}\u{fe00}-\u{fe0f}]/u;

/** How many characters are named one by one. */
const mostNamed = 12;

/**
 * Characters that no font of the design has, told page by page: readers would see a foreign face or an empty box.
 * @param has whether any font has a character
 */
export function uncoveredCharacters(
  publication: NumberedPublication,
  has: (character: string) => boolean,
): readonly Problem[] {
  const known = new Map<string, boolean>();
  const isMissing = (character: string): boolean => {
    let missing = known.get(character);
    if (missing === undefined) known.set(character, (missing = !withoutLooks.test(character) && !has(character)));
    return missing;
  };
  const told = new Set<string>();
  return flattenPages(publication.pages).flatMap((page): Problem[] => {
    const found = new Map([...charactersIn(page.label.title, ''), ...charactersIn(page.blocks, '')]);
    const missing = [...found].filter(([character]) => isMissing(character) && !told.has(character));
    const [first] = missing;
    if (!first) return [];
    missing.forEach(([character]) => told.add(character));
    const names = missing.slice(0, mostNamed).map(([character]) => `“${character}” (${nameOf(character)})`);
    const more = missing.length > mostNamed ? ` and ${missing.length - mostNamed} more` : '';
    return [
      {
        severity: 'warning',
        code: 'uncovered-characters',
        message: `No font of the design has ${names.join(', ')}${more}.`,
        place: { component: page.topic, block: first[1], entry: page.topic === null ? page.entry : null },
      },
    ];
  });
}

function nameOf(character: string): string {
  return `U+${(character.codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, '0')}`;
}
