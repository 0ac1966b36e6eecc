import { flattenAssembled, type AssembledEntry, type AssembledPublication } from '../assemble/assembled.js';
import { assembleTopics, type Source } from '../assemble/assemble.js';
import { candidatesByRule } from '../assemble/slots.js';
import type { Component, Library } from '../library/component.js';
import type { Design } from '../number/design.js';
import { flattenEntries, type OutlineEntry, type Publication, type Recipe } from '../publication/publication.js';
import { Selector } from '../variation/selector.js';
import { textAttr } from '../content/node.js';
import { notesOf } from '../number/page-notes.js';
import { contentText, contributionOf, digestOf, digestOfEntry, targetName } from './digest.js';

/** What is kept of a build, to tell later whether building again would give the same and, if not, why. */
export interface BuildRecord {
  /** Digests of the parts of the recipe, by name. */
  readonly recipe: Readonly<Record<string, string>>;
  /** Digest of the outline as far as it is in. */
  readonly outline: string;
  /** Every condition that was asked for, and whether it holds. */
  readonly decisions: Readonly<Record<string, boolean>>;
  /** The revisions of the components that were taken; 0 for one that is missing. */
  readonly components: Readonly<Record<string, number>>;
  /** The blocks that references lead to, see `targetName`. */
  readonly targets: readonly string[];
  /** The candidates of slots, by rule. */
  readonly slots: Readonly<Record<string, readonly string[]>>;
  readonly pages: readonly PageRecord[];
}

/** One page of the build: what it shows, the components that it takes, and the rules of its slots. */
export interface PageRecord {
  readonly entry: string;
  readonly topic: string;
  readonly digest: string;
  readonly uses: readonly string[];
  readonly slots: readonly string[];
}

/** Why building a deliverable again would give something else. */
export type StaleCause =
  | { readonly kind: 'component'; readonly component: string; readonly from: number; readonly to: number }
  | { readonly kind: 'recipe'; readonly part: string }
  | { readonly kind: 'outline' }
  | { readonly kind: 'condition'; readonly when: string }
  | { readonly kind: 'slot'; readonly collection: string };

/** What a record is made from. */
export interface RecordedBuild {
  readonly assembled: AssembledPublication;
  readonly source: Source;
  readonly recipe: Recipe;
}

/**
 * What to keep of a build.
 * @param earlier a build of the same variant before, with its record: what is still the same is taken from there
 */
export function recordBuild(
  { assembled, source, recipe }: RecordedBuild,
  earlier?: RecordedBuild & { readonly record: BuildRecord },
): BuildRecord {
  const targets = targetsOf(assembled.entries);
  // What a page records depends on the blocks that references lead to, as well.
  const before = earlier?.record.targets.join() === targets.join() ? earlier : undefined;
  const entriesBefore = flattenAssembled(before?.assembled.entries ?? []);
  const components: Record<string, number> = {};
  const slots: Record<string, readonly string[]> = {};
  const take = (keys: Iterable<string>): void => {
    for (const key of keys) components[key] ??= source.library.component(key)?.revision ?? 0;
  };
  take(assembled.trace.uses.keys());
  const reached = new Set(targets);
  const entries = flattenAssembled(assembled.entries);
  const pages = entries.map((entry, at): PageRecord => {
    const known = entriesBefore[at]?.trace === entry.trace ? before?.record.pages[at] : undefined;
    const page = known ?? pageRecord(entry, reached);
    take(page.uses);
    for (const rule of page.slots) slots[rule] ??= candidatesByRule(source.library, rule);
    return page;
  });
  const isDated = assembled.trace.usesDate || entries.some(({ trace }) => trace.usesDate);
  return {
    recipe: recipeDigests(recipe, isDated),
    outline: outlineDigest(source, recipe, new Selector(source.axes, recipe.profile)),
    decisions: Object.fromEntries(assembled.decisions),
    components,
    targets,
    slots,
    pages,
  };
}

function pageRecord(entry: AssembledEntry, targets: ReadonlySet<string>): PageRecord {
  const { uses, slots } = entry.trace;
  return {
    entry: entry.id,
    topic: entry.topic,
    digest: digestOfEntry(entry, targets),
    uses: [...uses.keys()].sort(),
    slots: [...slots].sort(),
  };
}

/** The blocks that references lead to, see `targetName`. */
function targetsOf(entries: readonly AssembledEntry[]): readonly string[] {
  const targets = new Set<string>();
  for (const entry of flattenAssembled(entries)) {
    for (const { node, component } of notesOf(entry).references) {
      const block = textAttr(node, 'target');
      if (block !== null) targets.add(targetName(textAttr(node, 'component') ?? component, block));
    }
  }
  return [...targets];
}

/**
 * The reasons why a deliverable would come out differently; none: it is fresh. A change to what the
 * variant leaves out is no reason.
 * @param source the library as it is now; where it has the revisions of the record, too, changes to what the
 *   variant leaves out are told without assembling pages
 * @param recipe the variant's recipe as it is now
 */
export function staleCauses(record: BuildRecord, source: Source, recipe: Recipe): readonly StaleCause[] {
  const selector = new Selector(source.axes, recipe.profile);
  const causes: StaleCause[] = [];
  const now = recipeDigests(recipe, 'date' in record.recipe);
  for (const part of Object.keys(now)) if (record.recipe[part] !== now[part]) causes.push({ kind: 'recipe', part });
  for (const when in record.decisions) {
    if (selector.holds(when) !== record.decisions[when]) causes.push({ kind: 'condition', when });
  }
  if (outlineDigest(source, recipe, selector) !== record.outline) causes.push({ kind: 'outline' });
  const slots = changedSlots(record, source.library);
  const components = changedComponents(record, source, selector, recipe);
  // Where components and slots are all that changed, the pages tell whether anything comes out differently.
  const pages = causes.length === 0 ? pagesNow(record, source, recipe) : null;
  return [
    ...causes,
    ...slots
      .filter(({ rule }) => !pages || pages.altered((page) => page.slots.includes(rule)))
      .map(({ collection }): StaleCause => ({ kind: 'slot', collection })),
    ...components.filter(
      ({ component }) =>
        !pages ||
        // The title of the publication stands on no page of the outline.
        !record.pages.some(({ uses }) => uses.includes(component)) ||
        pages.altered(({ uses }) => uses.includes(component)),
    ),
  ];
}

interface ChangedSlot {
  readonly rule: string;
  readonly collection: string;
}

function changedSlots(record: BuildRecord, library: Library): readonly ChangedSlot[] {
  return Object.entries(record.slots)
    .filter(([rule, keys]) => candidatesByRule(library, rule).join() !== keys.join())
    .map(([rule]) => ({ rule, collection: (JSON.parse(rule) as [string])[0] }));
}

type ComponentCause = Extract<StaleCause, { kind: 'component' }>;

function changedComponents(
  record: BuildRecord,
  { library }: Source,
  selector: Selector,
  recipe: Recipe,
): readonly ComponentCause[] {
  const causes: ComponentCause[] = [];
  for (const key in record.components) {
    const from = record.components[key] as number;
    const component = library.component(key);
    const to = component?.revision ?? 0;
    if (from !== to && !contributesTheSame(library.revision(key, from), component, selector, recipe)) {
      causes.push({ kind: 'component', component: key, from, to });
    }
  }
  return causes;
}

function contributesTheSame(
  before: Component | undefined,
  now: Component | undefined,
  selector: Selector,
  { language }: Recipe,
): boolean {
  if (!before || !now) return false;
  return contributionOf(before, selector, language) === contributionOf(now, selector, language);
}

/** Compares pages of a build with what they are now. */
function pagesNow(
  { pages, targets }: BuildRecord,
  source: Source,
  recipe: Recipe,
): { readonly altered: (which: (page: PageRecord) => boolean) => boolean } {
  const reached = new Set(targets);
  const known = new Map<PageRecord, boolean>();
  const isAltered = (page: PageRecord): boolean => {
    let altered = known.get(page);
    if (altered === undefined) {
      const [entry] = assembleTopics(source, recipe, (id) => id === page.entry, 1);
      known.set(page, (altered = !entry || digestOfEntry(entry, reached) !== page.digest));
    }
    return altered;
  };
  // The first altered page decides.
  return { altered: (which) => pages.some((page) => which(page) && isAltered(page)) };
}

function recipeDigests(recipe: Recipe, dated: boolean): Record<string, string> {
  const values = Object.entries(recipe.values).map(([key, value]) => [key, contentText([value])]);
  const ofPublication = Object.entries(recipe.publication.values).map(([key, value]) => [key, contentText([value])]);
  const parts: Record<string, string> = {
    title: recipe.variantTitle,
    'publication title': contentText([recipe.publication.title]),
    'publication values': JSON.stringify(ofPublication.sort()),
    values: JSON.stringify(values.sort()),
    language: recipe.language,
    design: designText(recipe.design),
    empty: String(recipe.leaveOutEmpty),
    ...(dated ? { date: recipe.buildDate } : {}),
  };
  for (const [name, text] of Object.entries(parts)) parts[name] = digestOf(text);
  return parts;
}

const designs = new WeakMap<Design, string>();

function designText(design: Design): string {
  let text = designs.get(design);
  if (text === undefined) designs.set(design, (text = JSON.stringify(design)));
  return text;
}

/** Digests of an outline by the answers of its conditions: most variants of a publication have the same. */
interface OutlineDigests {
  readonly publications: Source['publications'];
  readonly conditions: readonly string[];
  readonly byAnswers: Map<string, string>;
}

const outlines = new WeakMap<Publication, OutlineDigests>();

function outlineDigest(source: Source, recipe: Recipe, selector: Selector): string {
  const { publication } = recipe;
  let known = outlines.get(publication);
  if (known?.publications !== source.publications) {
    const all = [publication, ...source.publications.values()];
    const conditions = all.flatMap(({ entries }) => flattenEntries(entries).flatMap(({ entry }) => entry.when ?? []));
    known = { publications: source.publications, conditions: [...new Set(conditions)], byAnswers: new Map() };
    outlines.set(publication, known);
  }
  const answers = known.conditions.map((when) => (selector.holds(when) ? '+' : '-')).join('');
  let digest = known.byAnswers.get(answers);
  if (digest === undefined) {
    digest = digestOf(outlineText(source, recipe, selector));
    known.byAnswers.set(answers, digest);
  }
  return digest;
}

/** The outline as far as it is in, nested publications included. */
function outlineText(source: Source, recipe: Recipe, selector: Selector): string {
  const visit = (entries: readonly OutlineEntry[], publications: readonly string[]): string => {
    let text = '';
    for (const entry of entries) {
      if (!selector.holds(entry.when ?? null)) continue;
      const { id, topic = '', title = '', role = 'auto', publication } = entry;
      const values = entry.values
        ? Object.entries(entry.values).map(([key, value]) => `${key}=${contentText([value])}`)
        : [];
      text += `[${id} ${topic} ${title ? JSON.stringify(title) : ''} ${role} ${values.sort().join()}`;
      const inner = publication === undefined ? undefined : source.publications.get(publication);
      if (inner && !publications.includes(inner.key)) {
        const own = Object.entries(inner.values).map(([key, value]) => `${key}=${contentText([value])}`);
        text += `{${own.sort().join()}${visit(inner.entries, [...publications, inner.key])}}`;
      }
      text += `${entry.entries ? visit(entry.entries, publications) : ''}]`;
    }
    return text;
  };
  return visit(recipe.publication.entries, [recipe.publication.key]);
}
