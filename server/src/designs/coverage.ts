import { readFile } from 'node:fs/promises';
import type { CharacterPlace, Design } from '@allomorph/core';
import { LRUCache } from 'lru-cache';
import type { Queryable } from '../db/database.js';
import { readBlob } from '../images/blobs.js';
import { mathFont, paperFont } from '../typesetting/paper-fonts.js';
import { charactersOfFont } from './font-file.js';

const known = new LRUCache<string, ReadonlySet<number>>({ max: 100 });

async function charactersOf(name: string, read: () => Promise<Uint8Array | undefined>): Promise<ReadonlySet<number>> {
  let found = known.get(name);
  if (!found) known.set(name, (found = charactersOfFont((await read()) ?? Buffer.alloc(0))));
  return found;
}

/** Tells whether the fonts of a design, or those that come with the application and stand behind them, have a character. */
export async function coverageOf(
  db: Queryable,
  design: Design,
): Promise<(character: string, where: CharacterPlace) => boolean> {
  const shipped = await Promise.all(
    ['serif', 'sans', 'mono'].map((family) => charactersOf(family, () => readFile(paperFont(family)))),
  );
  const uploaded = await Promise.all(
    Object.values(design.families ?? {})
      .flatMap(({ faces }) => faces)
      .map(({ digest }) => charactersOf(digest, () => readBlob(db, digest))),
  );
  const formulas = [await charactersOf('math', () => readFile(mathFont))];
  const all = [...shipped, ...uploaded];
  return (character, where) => {
    const point = character.codePointAt(0) ?? 0;
    return (where === 'formula' ? formulas : all).some((characters) => characters.has(point));
  };
}
