import {
  componentFrom,
  digestOf,
  libraryOf,
  reachOf,
  referencesOf,
  type Component,
  type ComponentBody,
  type ReachReport,
  type Source,
  type StoredVariant,
} from '@allomorph/core';
import { readRecipes } from '../builds/build-variant.js';
import type { Queryable } from '../db/database.js';
import { acceptBody } from '../library/accept-body.js';
import { requireComponent } from '../library/components.js';
import { threadDatabase, threadMemory as memory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';
import { titlesOfPublications, variantsByPublication } from './workspace-variants.js';

/** What a thread is asked: what a change of a component would alter. */
export interface ReachOrder {
  readonly url: string;
  readonly workspace: string;
  readonly buildDate: string;
  /** The component as it would be. */
  readonly change: { readonly key: string; readonly title: string; readonly body: ComponentBody };
}

/** Answers from one state of the database. */
export const run: ThreadWork<ReachOrder, never, ReachReport> = async (order) => {
  return threadDatabase(order.url).snapshot((client) => reachOfChange(client, order));
};

async function reachOfChange(db: Queryable, order: ReachOrder): Promise<ReachReport> {
  const { workspace, change } = order;
  const current = await requireComponent(db, workspace, change.key);
  const body = acceptBody(current.kind, change.body);
  const changed = componentFrom({
    ...current,
    title: change.title,
    body,
    revision: current.revision + 1,
    draft: digestOf(JSON.stringify(body)),
  });
  const titles = await titlesOfPublications(db, workspace);
  const byPublication = await variantsByPublication(db, workspace);
  const groups = new Map<string, { variants: StoredVariant[]; topics: ReachReport['groups'][number]['topics'] }>();
  for (const members of byPublication) {
    const { source, recipes, components } = await readRecipes(
      db,
      workspace,
      members,
      order.buildDate,
      referencesOf(body),
      memory.known(workspace),
    );
    memory.keepLibrary(workspace, members[0]?.publication ?? '', source.library);
    const after: Source = { ...source, library: withChange(source, components, changed) };
    const tools = { memory: memory.engine(workspace) };
    for (const { variants, topics } of reachOf(source, after, changed, components, recipes, tools)) {
      const sign = JSON.stringify(topics);
      const known = groups.get(sign);
      const found = variants.flatMap((at) => members[at] ?? []);
      if (known) known.variants.push(...found);
      else groups.set(sign, { variants: found, topics });
    }
  }
  const variants = byPublication.flat();
  return {
    variants: variants.length,
    groups: [...groups.values()].map((group) => ({
      topics: group.topics,
      variants: group.variants.map(({ id, title, publication }) => ({
        id,
        title,
        publicationTitle: titles.get(publication) ?? publication,
      })),
    })),
  };
}

/** The library with one component as it would be. */
function withChange(source: Source, components: readonly Component[], changed: Component): Source['library'] {
  const library = libraryOf(components.map((each) => (each.key === changed.key ? changed : each)));
  return { ...library, revision: (key, revision) => source.library.revision(key, revision) };
}
