import {
  componentFrom,
  makeNode,
  makeText,
  newRecipe,
  type Component,
  type ContentNode,
  type StoredVariant,
} from '@allomorph/core';
import type { Database } from '../../server/src/db/database.js';
import { insertComponents } from '../../server/src/library/components.js';
import { insertPublication } from '../../server/src/publications/publications.js';
import { insertVariant, readVariants } from '../../server/src/publications/variants.js';
import { writeDesign } from '../../server/src/designs/designs.js';
import { writeAxis, writeProfile } from '../../server/src/variation/vocabulary.js';
import { axes, conditions, madeUpPublication, profileOf, unnumberedSettings } from './publication.js';
import { randomFrom } from './random.js';

/** How much of each a large library has. */
export const amounts = {
  components: 10_000,
  variables: 400,
  entries: 1_000,
  variants: 53,
  profiles: 30,
  builds: 2_000,
};

/** The publication whose outline is long, and the snippet that stands in five thousand topics. */
export const longOutline = 'made-up';
export const usedEverywhere = 'everywhere';
const everywhereIn = 5_000;

const words =
  'anchor beacon cable drift echo flange gauge hinge inlet jack knob latch motor nozzle orifice pump quill rotor seal thrust'.split(
    ' ',
  );

/**
 * Fills a workspace with a library of ten thousand components, a publication of a thousand entries with its variants, and
 * the builds of some months. Everything follows from positions.
 */
export async function loadBigLibrary(db: Database, workspace: string): Promise<readonly StoredVariant[]> {
  const actor = { workspace, person: null };
  const made = madeUpPublication(amounts.entries);
  await db.transaction(async (client) => {
    for (const axis of axes) await writeAxis(client, actor, axis);
    await writeDesign(client, actor, {
      key: 'unnumbered',
      title: 'Unnumbered',
      from: 'plain',
      settings: unnumberedSettings,
    });
    for (let at = 0; at < amounts.profiles; at += 1) {
      const profile = {
        axes: profileOf(at).axes as Record<string, { default: 'in' | 'out'; in?: string[]; out?: string[] }>,
      };
      await writeProfile(client, actor, { ...profile, key: `profile-${at}`, title: `Profile ${at}` });
    }
  });
  await db.transaction((client) => insertComponents(client, actor, [...made.components, ...further(made.components)]));
  await db.transaction(async (client) => {
    await insertPublication(client, actor, { ...made.publication, key: longOutline, title: 'Made up', values: {} });
    for (let at = 0; at < amounts.variants; at += 1) {
      await insertVariant(client, actor, longOutline, {
        ...newRecipe,
        title: `Variant ${at}`,
        profile: `profile-${at % amounts.profiles}`,
        design: 'unnumbered',
        language: at % 2 === 0 ? 'en' : 'de',
        leaveOutEmpty: false,
      });
    }
    await client.query(
      `insert into builds (workspace, variant, variant_title, recipe, schema_version, state, queued_at, ended_at, pages, bytes, digest, problems)
       select v.workspace, v.id, v.title, v.recipe, v.schema_version,
              case when n % 37 = 0 then 'failed' else 'done' end,
              now() - make_interval(hours => n), now() - make_interval(hours => n) + interval '9 s',
              1000, 9000000, md5(n::text), case when n % 11 = 0 then '[{"severity": "warning"}]'::jsonb else '[]'::jsonb end
         from generate_series(1, $2::integer) n
         join (select *, row_number() over (order by title) as position from variants where workspace = $1) v
           on v.position = 1 + n % $3::integer`,
      [workspace, amounts.builds, amounts.variants],
    );
  });
  await db.query('analyze');
  return readVariants(db, workspace, longOutline);
}

/** Components besides those of the publication, as many as are wanted in all. */
function further(first: readonly Component[]): readonly Component[] {
  const random = randomFrom(7);
  const sentence = (count: number): ContentNode =>
    makeText(`${Array.from({ length: count }, () => words[random(words.length)]).join(' ')}.`);
  const paragraph = (count: number): ContentNode => makeNode('paragraph', null, [sentence(count)]);
  const limited = (node: ContentNode): ContentNode => ({
    ...node,
    attrs: { ...node.attrs, when: conditions[random(conditions.length)] },
  });
  const found: Component[] = [];
  const variables = amounts.variables - first.filter(({ kind }) => kind === 'variable').length;
  for (let at = 0; at < variables; at += 1) {
    const value = makeNode('phrase', null, [sentence(3)]);
    const rules = at % 3 === 0 ? [{ when: conditions[at % conditions.length] ?? null, language: null, value }] : [];
    found.push(
      componentFrom({
        key: `v-${at}`,
        kind: 'variable',
        title: `Value ${at}`,
        revision: 1,
        body: { type: 'variable', default: value, rules },
      }),
    );
  }
  const snippet = (key: string, title: string): Component =>
    componentFrom({
      key,
      kind: 'snippet',
      title,
      revision: 1,
      body: withIds(makeNode('fragment', null, [paragraph(30), limited(paragraph(20))])),
    });
  found.push(snippet(usedEverywhere, 'What stands everywhere'));
  for (let at = 0; at < 1_000; at += 1) found.push(snippet(`s-${at}`, `Snippet ${at}, ${words[at % words.length]}`));
  for (let at = 0; first.length + found.length < amounts.components; at += 1) {
    const title = `${words[at % words.length]} ${words[(at * 7) % words.length]} ${at}`;
    const body = makeNode('topic', null, [
      makeNode('title', null, [makeText(title)]),
      paragraph(60),
      limited(paragraph(40)),
      ...(at < everywhereIn ? [makeNode('placement', { component: usedEverywhere })] : []),
      makeNode('placement', { component: `s-${random(1_000)}` }),
      makeNode('paragraph', null, [sentence(8), makeNode('variable', { key: `v-${random(variables)}` })]),
      paragraph(50),
    ]);
    found.push(componentFrom({ key: `t-${at}`, kind: 'topic', title, revision: 1, body: withIds(body) }));
  }
  return found;
}

function withIds(body: ContentNode): ContentNode {
  let next = 0;
  const content = body.content?.map((node) =>
    node.type === 'title' ? node : { ...node, attrs: { ...node.attrs, id: `b${(next += 1)}` } },
  );
  return { ...body, ...(content ? { content } : {}) };
}
