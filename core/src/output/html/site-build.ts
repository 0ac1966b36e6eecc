import { assemblePublication, type Source } from '../../assemble/assemble.js';
import { flattenAssembled, type AssembledEntry, type AssembledPublication } from '../../assemble/assembled.js';
import { textAttr, type ContentNode } from '../../content/node.js';
import { candidatesByRule } from '../../assemble/slots.js';
import { numberPublication, problemsOf } from '../../number/number.js';
import { flattenPages, type NumberedPage, type NumberedPublication } from '../../number/numbered.js';
import {
  notesOf,
  type FoundMarker,
  type FoundReference,
  type FoundTerm,
  type Landmark,
  type PageNotes,
} from '../../number/page-notes.js';
import type { Recipe } from '../../publication/publication.js';
import { contentText } from '../../reach/digest.js';
import { listsOf, renderPages, renderSite, type ListPage, type SiteFile } from './site.js';

/** A site with all that it takes to bring it up to date. */
export interface SiteBuild {
  readonly source: Source;
  readonly recipe: Recipe;
  readonly assembled: AssembledPublication;
  readonly numbered: NumberedPublication;
  /** The paths of all files, in order. */
  readonly paths: readonly string[];
  /** The files that were made in the last step; those of earlier steps are as they were. */
  readonly files: readonly SiteFile[];
  /** Which entries take what; made when first asked for. */
  readonly uses: () => UseIndex;
  readonly lists: readonly ListPage[];
}

/** Builds a site from the ground up. */
export function buildSite(source: Source, recipe: Recipe): SiteBuild {
  const assembled = assemblePublication(source, recipe);
  return finish(source, recipe, assembled);
}

function finish(source: Source, recipe: Recipe, assembled: AssembledPublication): SiteBuild {
  const numbered = numberPublication(assembled, { design: recipe.design, language: recipe.language, source });
  const lists = listsOf(numbered);
  const files = renderSite(numbered, lists);
  const paths = files.map(({ path }) => path);
  return { source, recipe, assembled, numbered, paths, files, uses: once(() => new UseIndex(assembled)), lists };
}

function once<T extends object>(make: () => T): () => T {
  let made: T | undefined;
  return () => (made ??= make());
}

/**
 * Brings a site up to date with a library in which components changed: assembles the entries that take
 * them, and makes only their pages again where no number, title or reference is touched. Its files over
 * those of before are what `buildSite` gives. With another recipe, other axes or other nested publications
 * everything is made anew.
 */
export function updateSite(earlier: SiteBuild, source: Source, recipe: Recipe): SiteBuild {
  const sameGround =
    recipe === earlier.recipe &&
    source.axes === earlier.source.axes &&
    source.publications === earlier.source.publications;
  const changed = sameGround ? changedEntries(earlier, source) : null;
  if (!changed) return buildSite(source, recipe);
  if (changed.size === 0) {
    const problems = problemsOf(earlier.assembled, earlier.numbered, source);
    return { ...earlier, source, files: [], numbered: { ...earlier.numbered, problems } };
  }
  const uses = earlier.uses();
  const before = uses.entries;
  const again = assemblePublication(source, recipe, (id) => (changed.has(id) ? undefined : before.get(id)));
  // Decisions of before may not be asked for any more; at worst the site is called stale once too often.
  const assembled = { ...again, decisions: new Map([...earlier.assembled.decisions, ...again.decisions]) };
  const all = flattenAssembled(assembled.entries);
  const fresh = all.filter((entry) => changed.has(entry.id));
  uses.add(fresh);
  const onlyInside = all.length === before.size && fresh.every((entry) => sameFromOutside(before.get(entry.id), entry));
  if (!onlyInside || isReferredInto(earlier.numbered, fresh)) return finish(source, recipe, assembled);
  const pages = withBlocks(earlier.numbered.pages, new Map(fresh.map((entry) => [entry.id, entry])));
  const moved = { ...earlier.numbered, pages };
  const numbered = { ...moved, problems: problemsOf(assembled, moved, source) };
  const files = renderPages(numbered, changed, earlier.lists);
  return { ...earlier, source, assembled, numbered, files, uses: once(() => uses.over(all)) };
}

/** Whether a reference leads to a block without a label on one of the pages, which may be gone, or may do so now. */
function isReferredInto(
  { pages, anchors, dangling }: NumberedPublication,
  entries: readonly AssembledEntry[],
): boolean {
  if (anchors.size > 0) {
    const ids = new Set(entries.map(({ id }) => id));
    if (flattenPages(pages).some(({ entry, label }) => ids.has(entry) && anchors.has(label.page))) return true;
  }
  if (dangling.length === 0) return false;
  const targets = new Set(dangling.map(({ node, component }) => textAttr(node, 'component') ?? component));
  return entries.some(({ trace }) => [...trace.uses.keys()].some((key) => targets.has(key)));
}

/** The entries that show something which changed; null where the publication's title does. */
function changedEntries(earlier: SiteBuild, { library }: Source): ReadonlySet<string> | null {
  const before = earlier.source.library;
  for (const [key, revision] of earlier.assembled.trace.uses) {
    if ((library.component(key)?.revision ?? 0) !== revision) return null;
  }
  const { users, slots } = earlier.uses();
  const changed = new Set<string>();
  for (const [key, entries] of users) {
    if (library.component(key) !== before.component(key)) for (const entry of entries) changed.add(entry);
  }
  for (const [rule, entries] of slots) {
    const same = candidatesByRule(library, rule).join() === candidatesByRule(before, rule).join();
    if (!same) for (const entry of entries) changed.add(entry);
  }
  return changed;
}

/** Which entries take which components, and have which slots. It may name entries that once did. */
class UseIndex {
  readonly users = new Map<string, Set<string>>();
  readonly slots = new Map<string, Set<string>>();
  readonly entries: ReadonlyMap<string, AssembledEntry>;

  constructor(assembled: AssembledPublication) {
    const entries = flattenAssembled(assembled.entries);
    this.entries = new Map(entries.map((entry) => [entry.id, entry]));
    this.add(entries);
  }

  add(entries: readonly AssembledEntry[]): void {
    const note = (index: Map<string, Set<string>>, key: string, id: string): void => {
      const known = index.get(key);
      if (known) known.add(id);
      else index.set(key, new Set([id]));
    };
    for (const { id, trace } of entries) {
      for (const key of trace.uses.keys()) note(this.users, key, id);
      for (const rule of trace.slots) note(this.slots, rule, id);
    }
  }

  /** The same index over newer entries. */
  over(entries: readonly AssembledEntry[]): UseIndex {
    const byId = new Map(entries.map((entry) => [entry.id, entry]));
    return Object.assign(Object.create(UseIndex.prototype) as UseIndex, this, { entries: byId });
  }
}

/** Whether two versions of an entry look the same to all other pages. */
function sameFromOutside(before: AssembledEntry | undefined, now: AssembledEntry | undefined): boolean {
  if (!before || !now || before.topic !== now.topic) return false;
  return contentText(before.title) === contentText(now.title) && sameNotes(notesOf(before), notesOf(now));
}

function sameNotes(before: PageNotes, now: PageNotes): boolean {
  return (
    before === now ||
    (before.hasSlot === now.hasSlot &&
      sameList(before.landmarks, now.landmarks, sameLandmark) &&
      sameList(before.references, now.references, sameFound) &&
      sameList(before.markers, now.markers, sameMarker) &&
      sameList(before.terms, now.terms, sameTerm))
  );
}

function sameMarker(a: FoundMarker, b: FoundMarker): boolean {
  return sameFound(a, b) && a.section === b.section && a.anchor === b.anchor;
}

function sameTerm(a: FoundTerm, b: FoundTerm): boolean {
  return a.section === b.section && sameContent(a.term, b.term) && sameContent(a.definition, b.definition);
}

function sameLandmark(a: Landmark, b: Landmark): boolean {
  return (
    a.kind === b.kind &&
    a.id === b.id &&
    a.component === b.component &&
    a.counts === b.counts &&
    a.depth === b.depth &&
    a.step === b.step &&
    sameList(a.placements, b.placements, (x, y) => x === y) &&
    sameContent(a.title, b.title)
  );
}

function sameFound(a: FoundReference | FoundMarker, b: FoundReference | FoundMarker): boolean {
  return a.component === b.component && a.block === b.block && sameContent([a.node], [b.node]);
}

function sameContent(a: readonly ContentNode[], b: readonly ContentNode[]): boolean {
  return a === b || sameList(a, b, (x, y) => x === y) || contentText(a) === contentText(b);
}

function sameList<T>(a: readonly T[], b: readonly T[], same: (x: T, y: T) => boolean): boolean {
  return a.length === b.length && a.every((each, at) => same(each, b[at] as T));
}

function withBlocks(
  pages: readonly NumberedPage[],
  fresh: ReadonlyMap<string, AssembledEntry>,
): readonly NumberedPage[] {
  return pages.map((page) => {
    const below = page.pages.length > 0 ? withBlocks(page.pages, fresh) : page.pages;
    const entry = fresh.get(page.entry);
    if (entry) return { ...page, blocks: entry.blocks, notes: notesOf(entry), pages: below };
    return below.every((each, at) => each === page.pages[at]) ? page : { ...page, pages: below };
  });
}
