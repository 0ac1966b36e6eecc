import { createHash } from 'node:crypto';
import { cpus, totalmem } from 'node:os';
import { Eta } from 'eta';
import Handlebars from 'handlebars';
import { Liquid, type Template } from 'liquidjs';
import {
  assemblePublication,
  contentBody,
  flattenPages,
  makeNode,
  makeText,
  Memory,
  numberPublication,
  PageWriter,
  recordBuild,
  ReferenceGraph,
  Selector,
  setsOfComponent,
  setsOfPublication,
  staleness,
  VariantSets,
  web,
  type Component,
  type ContentNode,
  type FormatFile,
  type Recipe,
  type Rendition,
  type Source,
  type VariableBody,
} from '@allomorph/core';
import { row, sideBySide, spreadOf, timeOf } from './measure.js';
import { askedOf, tangledReferences } from './made-up/references.js';
import { axes, conditions, madeUpPublication, profileOf } from './made-up/publication.js';
import { dialects, templateOf } from './made-up/templates.js';

/**
 * The engine on a made-up publication of 1,000 topics, beside general template engines that are given the
 * same content, and beside itself. Everything is compared within one run.
 */

const variants = 200;
const made = madeUpPublication(1000);
const lines: string[] = ['| what | ms: least / median / most | ratio |', '| --- | --- | --- |'];
const bytesOf = (pages: readonly string[]): number => pages.reduce((sum, page) => sum + Buffer.from(page).length, 0);

// Where used, through others.

const edges = tangledReferences();
const graph = new ReferenceGraph(edges);
let users = graph.usersOf('c1').length;
const questions = spreadOf(askedOf.map((key) => timeOf(() => (users = Math.max(users, graph.usersOf(key).length)))));
const graphTime = spreadOf(Array.from({ length: 5 }, () => timeOf(() => new ReferenceGraph(edges))));
lines.push(
  row('where used through others, 20,000 components, 200,000 references', questions, `up to ${users} users found`),
  row('reading these references into the graph', graphTime, ''),
);

// Pages of one variant after another, none of them built before.

const memory = new Memory();

function engine(variant: number): readonly string[] {
  const recipe = made.recipe(variant);
  const numbered = numberPublication(assemblePublication(made.source, recipe, memory), recipe);
  return flattenPages(numbered.pages).map((page) => new PageWriter(numbered, page).content());
}

/** What the templates are told of a variant: the answer of every condition, the value of every variable. */
function contextOf(variant: number): { c: Record<string, boolean>; v: Record<string, string> } {
  const selector = new Selector({ axes, stamps: [] }, profileOf(variant));
  const variables = made.components.filter((component) => component.kind === 'variable');
  return {
    c: Object.fromEntries(conditions.map((when, at) => [`c${at}`, selector.holds(when)])),
    v: Object.fromEntries(
      variables.map(({ key, body }) => {
        const { rules, default: otherwise } = body as VariableBody;
        const value = rules.find((rule) => selector.holds(rule.when))?.value ?? otherwise;
        return [key.replace('-', '_'), value?.content?.[0]?.text ?? ''];
      }),
    ),
  };
}

const topics = made.components.filter((component) => component.kind === 'topic');
const texts = made.components.filter((component) => contentBody(component) !== undefined);
for (const component of texts) {
  Handlebars.registerPartial(component.key, Handlebars.compile(templateOf(component, conditions, dialects.handlebars)));
}
const handlebars = topics.map(({ key }) => Handlebars.partials[key] as Handlebars.TemplateDelegate);
const liquid = new Liquid({
  cache: true,
  outputEscape: 'escape',
  templates: Object.fromEntries(texts.map((each) => [each.key, templateOf(each, conditions, dialects.liquidjs)])),
});
const liquidTopics: readonly Template[][] = topics.map((each) =>
  liquid.parse(templateOf(each, conditions, dialects.liquidjs)),
);
const eta = new Eta({ autoEscape: true, autoTrim: false });
for (const each of texts) eta.loadTemplate(`@${each.key}`, templateOf(each, conditions, dialects.eta));

const renderers = {
  engine: (variant: number) => engine(variant),
  eta: (variant: number) => {
    const context = contextOf(variant);
    return topics.map(({ key }) => eta.render(`@${key}`, context));
  },
  handlebars: (variant: number) => {
    const context = contextOf(variant);
    return handlebars.map((template) => template(context));
  },
  liquidjs: (variant: number) => {
    const context = contextOf(variant);
    return liquidTopics.map((template) => liquid.renderSync(template, context) as string);
  },
};

/** All four must have rendered the same, but for spaces where words went. */
function checkSame(variant: number): void {
  const fold = (html: string): string => html.replace(/ +/g, ' ').replaceAll(' </p>', '</p>');
  const ours = renderers.engine(variant).map(fold);
  for (const name of ['eta', 'handlebars', 'liquidjs'] as const) {
    renderers[name](variant).forEach((html, at) => {
      if (fold(html) !== ours[at]) throw new Error(`${name} renders topic ${at} of variant ${variant} otherwise.`);
    });
  }
}
checkSame(5);
checkSame(77);

const warmUp = 24;
const pages = sideBySide(
  {
    engine: (round) => bytesOf(renderers.engine(round)),
    again: (round) => bytesOf(renderers.engine(round % 12)),
    eta: (round) => bytesOf(renderers.eta(round)),
    handlebars: (round) => bytesOf(renderers.handlebars(round)),
    liquidjs: (round) => bytesOf(renderers.liquidjs(round)),
  },
  40,
  warmUp,
);
const fastest = Math.min(pages.eta.median, pages.handlebars.median, pages.liquidjs.median);
const toFastest = (median: number): string => `${(median / fastest).toFixed(2)} of the fastest template engine`;
lines.push(
  row('1,000 topics to HTML: this engine, variants that are new to it', pages.engine, toFastest(pages.engine.median)),
);
lines.push(row('the same, variants that were built before', pages.again, toFastest(pages.again.median)));
for (const name of ['eta', 'handlebars', 'liquidjs'] as const) {
  lines.push(row(`the same content: ${name}`, pages[name], toFastest(pages[name].median)));
}

// Each part begins with nothing remembered of those before.
memory.drop();

// Sets for 200 variants beside the same walk for one.

const manyProfiles = Array.from({ length: variants }, (_, at) => profileOf(at));
const sets = sideBySide(
  {
    many: () => setsOfPublication(made.source, new VariantSets({ axes, stamps: [] }, manyProfiles), made.publication),
    one: () =>
      setsOfPublication(made.source, new VariantSets({ axes, stamps: [] }, manyProfiles.slice(0, 1)), made.publication),
  },
  9,
  3,
);
lines.push(
  row('sets of one variant, whole publication', sets.one, '1'),
  row(`sets of ${variants} variants, whole publication`, sets.many, (sets.many.median / sets.one.median).toFixed(2)),
);
const long = longTopic(5000);
const edited = spreadOf(
  Array.from({ length: 15 }, () =>
    timeOf(() => setsOfComponent(made.source, new VariantSets({ axes, stamps: [] }, manyProfiles), long)),
  ).slice(3),
);
lines.push(row(`sets of ${variants} variants, one edited topic of 5,000 words`, edited, 'wanted: under 100 ms'));

/** One topic as long as many. */
function longTopic(words: number): Component {
  const body: ContentNode[] = [];
  let count = 0;
  for (let at = 0; count < words; at += 1) {
    const from = topics[at]?.body as ContentNode;
    const flow = from.content?.slice(1) ?? [];
    body.push(...flow);
    count += JSON.stringify(flow).match(/[a-z]+ /g)?.length ?? 0;
  }
  const title = makeNode('title', null, [makeText('Long')]);
  return { key: 'long', kind: 'topic', title: 'Long', revision: 1, body: makeNode('topic', null, [title, ...body]) };
}

// One snippet changes that 40 topics place.

/** Which files are stored: those of earlier builds are in nobody's hands any more. */
interface StoredFiles {
  readonly files: WeakSet<FormatFile>;
  count: number;
}

const nothingStored = (): StoredFiles => ({ files: new WeakSet(), count: 0 });

/** What a build leaves behind: the files that it made as bytes with their digests, and its record. */
function buildWhole(source: Source, recipe: Recipe, kept: Memory, stored: StoredFiles): Rendition {
  const assembled = assemblePublication(source, recipe, kept);
  const rendition = web.render(numberPublication(assembled, recipe));
  // What is the same file as before is stored already.
  for (const file of rendition.files) {
    if (stored.files.has(file)) continue;
    stored.files.add(file);
    stored.count += 1;
    hashOf(file.text);
  }
  recordBuild(assembled, recipe, [{ format: web, rendition }], hashOf);
  return rendition;
}

const hashOf = (text: string): string => createHash('sha256').update(Buffer.from(text)).digest('hex');
const recipe = made.recipe(0);
// As a process builds that was just started: nothing is remembered of any body.
const first = Array.from({ length: 4 }, () => madeUpPublication(1000)).map((fresh) =>
  timeOf(() => buildWhole(fresh.source, fresh.recipe(0), new Memory(), nothingStored())),
);
const [kept, stored] = [new Memory(), nothingStored()];
buildWhole(made.source, recipe, kept, stored);
const same: number[] = [];
const update: number[] = [];
let last: Rendition | null = null;
for (let turn = 0; turn < 24; turn += 1) {
  const source = made.withShared(turn + 2);
  const before = stored.count;
  update.push(timeOf(() => (last = buildWhole(source, recipe, kept, stored))));
  if (turn > 0 && stored.count - before < 40) throw new Error(`${stored.count - before} files were made again.`);
  same.push(timeOf(() => buildWhole(source, recipe, kept, stored)));
}
const anew = new Map(
  buildWhole(made.withShared(25), recipe, new Memory(), nothingStored()).files.map(({ path, text }) => [path, text]),
);
if ((last as Rendition | null)?.files.some(({ path, text }) => anew.get(path) !== text))
  throw new Error('Building from memory is not what a build gives.');
const builds = { first: spreadOf(first), same: spreadOf(same.slice(3)), update: spreadOf(update.slice(3)) };
const share = (median: number): string => `${((100 * median) / builds.first.median).toFixed(1)} %`;
lines.push(
  row('one deliverable, built from the ground up', builds.first, '100 %'),
  row('the same from memory, nothing changed', builds.same, share(builds.same.median)),
  row('the same from memory, after a snippet in 40 topics changed', builds.update, share(builds.update.median)),
);

const records = Array.from({ length: variants }, (_, at) => {
  const each = made.recipe(at);
  return {
    recipe: each,
    record: recordBuild(
      assemblePublication(made.source, each, kept),
      each,
      [{ format: web, rendition: { files: [], fonts: [] } }],
      hashOf,
    ),
  };
});
// What was built before is not there in a process that was just started.
kept.drop();
let stale = 0;
const freshness: number[] = [];
for (let round = 0; round < 5; round += 1) {
  // Read anew, as by a process that was just started: nothing is remembered of any body.
  const { withShared, publication } = madeUpPublication(1000);
  const source = { ...withShared(2), axes };
  const tools = { memory: new Memory(), formats: [web], digest: hashOf };
  freshness.push(
    timeOf(() => {
      stale = records.filter(
        (each) => staleness(each.record, source, { ...each.recipe, publication }, tools).causes.length > 0,
      ).length;
    }),
  );
}
if (stale !== variants) throw new Error(`${stale} of ${variants} variants are stale.`);
lines.push(row(`finding what is stale among ${variants} variants`, spreadOf(freshness), 'wanted: under 1,000 ms'));

console.log(lines.join('\n'));
const [cpu] = cpus();
const peak = Math.round(process.resourceUsage().maxRSS / 1024);
console.log(
  `\n${new Date().toISOString().slice(0, 10)}, ${cpus().length} × ${cpu?.model ?? '?'}, ` +
    `${Math.round(totalmem() / 1024 ** 3)} GB, Node.js ${process.version}; peak of this process ${peak} MB`,
);
