import type { NumberedPublication } from '@allomorph/core';
import { formatNames, formatsOf, type FormatName } from '@allomorph/core';
import { BuildMemory } from '../../server/src/builds/build-memory.js';
import { pack, type Packed } from '../../server/src/builds/pack.js';
import type { Queryable } from '../../server/src/db/database.js';
import { Typesetter } from '../../server/src/typesetting/typesetter.js';

const typesetter = new Typesetter();

/** What every format hands over of one publication. */
export async function packAll(
  db: Queryable,
  publication: NumberedPublication,
): Promise<Readonly<Record<FormatName, Packed>>> {
  const made = {} as Record<FormatName, Packed>;
  for (const name of formatNames) {
    const [format] = formatsOf([name]);
    if (!format) throw new Error(`There is no format “${name}”.`);
    const tools = { db, memory: new BuildMemory(), typesetter, buildDate: '2026-11-24', start: format.start };
    made[name] = await pack(format.container, format.render(publication), tools);
  }
  return made;
}

export function stopTypesetting(): void {
  typesetter.stop();
}
