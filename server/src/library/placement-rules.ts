import { limits, referencesOf, type Component } from '@allomorph/core';
import { oneRow, type Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';

/**
 * Refuses placements that would put a component inside itself, naming the whole path.
 * @throws HttpProblem 422
 */
export async function refuseCycle(
  db: Queryable,
  workspace: string,
  key: string,
  targets: readonly string[],
): Promise<void> {
  if (targets.length === 0) return;
  const { rows } = await db.query<{ source: string; target: string }>(
    `with recursive below (source, target) as (
       select $2::text, t from unnest($3::text[]) t
       union
       select f.source, f.target from below b
         join component_references f on f.workspace = $1 and f.source_kind = 'component' and f.source = b.target
          and f.kind in ('placement', 'inline placement')
        where b.target <> $2
     ) select source, target from below`,
    [workspace, key, targets],
  );
  const closing = rows.find((row) => row.target === key);
  if (!closing) return;
  const path = [key];
  for (let at = closing.source; at !== key;) {
    path.unshift(at);
    at = rows.find((row) => row.target === at)?.source ?? key;
  }
  path.unshift(key);
  const { rows: named } = await db.query<{ key: string; title: string }>(
    'select key, title from components where workspace = $1 and key = any($2)',
    [workspace, path],
  );
  const titles = new Map(named.map((row) => [row.key, row.title]));
  const sentence = path.map((each) => `“${titles.get(each) ?? each}”`).join(' › ');
  throw new HttpProblem(422, `This would place the component inside itself: ${sentence}.`, { path });
}

/**
 * Refuses what would nest deeper than content may: placements and variables in each other, counted from the last that holds
 * the component down to the last that it holds. Its references must have been written.
 * @throws HttpProblem 422
 */
export async function refuseDepth(db: Queryable, workspace: string, key: string): Promise<void> {
  // A level deeper than allowed is enough to know.
  const levels = (from: string, to: string): string =>
    `select max(depth) as depth from (
       with recursive way (key, depth) as (
         select $2::text, 0
         union
         select f.${to}, w.depth + 1 from way w
           join component_references f on f.workspace = $1 and f.source_kind = 'component' and f.${from} = w.key
            and f.kind in ('placement', 'inline placement', 'variable')
          where w.depth <= $3
       ) select depth from way
     ) depths`;
  const depth = async (from: string, to: string): Promise<number> =>
    (await oneRow<{ depth: number }>(db, levels(from, to), [workspace, key, limits.placementDepth]))?.depth ?? 0;
  if ((await depth('source', 'target')) + (await depth('target', 'source')) > limits.placementDepth) {
    const most = limits.placementDepth;
    throw new HttpProblem(
      422,
      `Placements and variables may nest ${most} deep; these nest deeper, or hold themselves.`,
    );
  }
}

export function placementTargets(component: Component): readonly string[] {
  return referencesOf(component.body)
    .filter((each) => each.kind === 'placement' || each.kind === 'inline placement')
    .map((each) => each.target);
}
