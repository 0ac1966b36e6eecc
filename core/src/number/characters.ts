import { mathText, readFormula } from '../formula/read-formula.js';
import { perContent } from '../model/per-content.js';
import { childrenOf, textAttr, type AssembledNode } from '../model/node.js';
import type { Problem } from '../model/problem.js';
import { flattenPages, type NumberedPublication } from './numbered.js';

/** Where a character stands: formulas have a font of their own. */
export type CharacterPlace = 'text' | 'formula';

/** A character with the block in which it stands first. */
interface Found {
  readonly character: string;
  readonly where: CharacterPlace;
  readonly block: string | null;
}

/** The characters of some content beyond the first 256 of Unicode, each once for texts and once for formulas. */
const charactersIn = perContent((content: readonly AssembledNode[]): ReadonlyMap<string, Found> => {
  const found = new Map<string, Found>();
  const add = (text: string, where: CharacterPlace, block: string | null): void => {
    // Most text has none of them.
    if (!beyond.test(text)) return;
    for (const character of text.match(allBeyond) ?? []) {
      const name = where + character;
      if (!found.has(name)) found.set(name, { character, where, block });
    }
  };
  const visit = (nodes: readonly AssembledNode[], around: string | null): void => {
    for (const node of nodes) {
      const block = textAttr(node, 'id') ?? around;
      if (node.type === 'formula' || node.type === 'display_formula') {
        const source = textAttr(node, 'source') ?? '';
        const { elements } = readFormula(source, node.type === 'display_formula');
        if (elements) add(elements.map(mathText).join(''), 'formula', block);
        else add(source, 'text', block);
      } else add(node.text ?? '', 'text', block);
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
  has: (character: string, where: CharacterPlace) => boolean,
): readonly Problem[] {
  const known = new Map<string, boolean>();
  const isMissing = ({ character, where }: Found): boolean => {
    const name = where + character;
    let missing = known.get(name);
    if (missing === undefined) known.set(name, (missing = !withoutLooks.test(character) && !has(character, where)));
    return missing;
  };
  const told = new Set<string>();
  return flattenPages(publication.pages).flatMap((page): Problem[] => {
    const found = new Map([...charactersIn(page.label.title, ''), ...charactersIn(page.blocks, '')]);
    const missing = [...found.values()].filter((each) => isMissing(each) && !told.has(each.character));
    const [first] = missing;
    if (!first) return [];
    missing.forEach(({ character }) => told.add(character));
    const names = missing.slice(0, mostNamed).map(({ character }) => `“${character}” (${nameOf(character)})`);
    const more = missing.length > mostNamed ? ` and ${missing.length - mostNamed} more` : '';
    return [
      {
        severity: 'warning',
        code: 'uncovered-characters',
        message: `No font of the design has ${names.join(', ')}${more}.`,
        place: { component: page.topic, block: first.block, entry: page.topic === null ? page.entry : null },
      },
    ];
  });
}

function nameOf(character: string): string {
  return `U+${(character.codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, '0')}`;
}
