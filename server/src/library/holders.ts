import { broughtUpToDate, placesBehind, type HolderRow, type ReplacedText } from '@allomorph/core';
import type { Actor } from '../audit/audit.js';
import type { Database, Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { readComponents, requireComponent, saveComponent } from './components.js';
import { changeMany } from './passages.js';

const mostHolders = 500;

/** The components that hold another one at a revision before the newest. */
export async function readHolders(db: Queryable, workspace: string, key: string): Promise<readonly HolderRow[]> {
  const { revision: newest } = await requireComponent(db, workspace, key);
  const { rows } = await db.query<{ source: string }>(
    `select distinct source from component_references
      where workspace = $1 and target = $2 and source_kind = 'component' and held < $3 order by source limit $4`,
    [workspace, key, newest, mostHolders],
  );
  const holders = await readComponents(
    db,
    workspace,
    rows.map(({ source }) => source),
  );
  return holders
    .map((holder) => ({
      key: holder.key,
      kind: holder.kind,
      title: holder.title,
      revision: holder.revision,
      places: placesBehind(holder, key, newest),
    }))
    .filter(({ places }) => places > 0)
    .sort((a, b) => (a.title.toLowerCase() < b.title.toLowerCase() ? -1 : 1));
}

/** Brings what components hold of another one to its newest revision; what was saved meanwhile is left, and told. */
export async function bringUpToDate(
  db: Database,
  actor: Actor,
  key: string,
  holders: readonly { readonly key: string; readonly revision: number }[],
): Promise<ReplacedText> {
  return changeMany(db, holders, async (client, { key: holder, revision }) => {
    const { revision: newest } = await requireComponent(client, actor.workspace, key);
    const component = await requireComponent(client, actor.workspace, holder);
    if (component.revision !== revision)
      throw new HttpProblem(409, `“${component.title}” was saved meanwhile: look at it again.`);
    if (placesBehind(component, key, newest) === 0)
      throw new HttpProblem(422, `“${component.title}” holds nothing older.`);
    const { title } = component;
    const body = broughtUpToDate(component, key, newest);
    const saved = await saveComponent(client, actor, holder, { base: revision, title, body });
    return { key: holder, before: revision, after: saved.revision };
  });
}
