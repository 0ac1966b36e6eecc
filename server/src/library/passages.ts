import {
  componentFrom,
  contentBody,
  ownContents,
  contentSchema,
  inCaseOf,
  withOwnContents,
  writtenTitle,
  type ChangedComponent,
  type Component,
  type ComponentBody,
  type ComponentPassages,
  type ContentNode,
  type OwnContent,
  type FoundPassage,
  type PassageList,
  type ReplacedText,
  type ReplaceText,
} from '@allomorph/core';
import { type Node } from 'prosemirror-model';
import { SearchQuery, type SearchResult } from 'prosemirror-search';
import { EditorState, type Transaction } from 'prosemirror-state';
import type { Actor } from '../audit/audit.js';
import type { Database, Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { attempt } from './attempt.js';
import { readComponents, readRevisions, requireComponent, saveComponent } from './components.js';

type TextSearch = Pick<ReplaceText, 'find' | 'matchesCase' | 'wholeWords'>;

/** How many components and places one search lists: whoever changes more at once cannot have looked at them. */
const mostComponents = 200;
const mostPlaces = 1000;
const aroundIt = 70;

const queryOf = ({ find, matchesCase, wholeWords }: TextSearch): SearchQuery =>
  new SearchQuery({ search: find, caseSensitive: matchesCase, wholeWord: wholeWords, literal: true });

function stateOf({ content }: OwnContent): EditorState {
  return EditorState.create({ doc: contentSchema.nodeFromJSON(content) });
}

function placesIn(state: EditorState, query: SearchQuery): readonly SearchResult[] {
  const places: SearchResult[] = [];
  for (let from = 0; places.length < mostPlaces;) {
    const found = query.findNext(state, from);
    if (!found) break;
    places.push(found);
    from = Math.max(found.to, found.from + 1);
  }
  return places;
}

/**
 * Where the components of a library say some words themselves: not through what they place or refer to.
 * @returns at most 200 components and 1,000 places, by title
 */
export async function findPassages(db: Queryable, workspace: string, search: TextSearch): Promise<PassageList> {
  const { rows } = await db.query<{ key: string }>(
    `select key from components
      where workspace = $1 and deleted_at is null and kind in ('topic', 'snippet', 'variable')
        and position(lower($2) in lower(title || ' ' || text)) > 0
      order by lower(title), key limit $3`,
    [workspace, search.find, mostComponents + 1],
  );
  const components = await readComponents(
    db,
    workspace,
    rows.slice(0, mostComponents).map(({ key }) => key),
  );
  const known = new Map(components.map((each) => [each.key, each]));
  const query = queryOf(search);
  const items: ComponentPassages[] = [];
  let left = mostPlaces;
  for (const { key } of rows) {
    const component = known.get(key);
    if (!component || left <= 0) continue;
    const passages = passagesIn(component, query);
    left -= passages.length;
    const { kind, title, revision } = component;
    if (passages.length > 0) items.push({ key, kind, title, revision, passages });
  }
  return { items, more: rows.length > mostComponents || left <= 0 };
}

function passagesIn(component: Component, query: SearchQuery): readonly FoundPassage[] {
  return ownContents(component).flatMap((saying) => {
    const state = stateOf(saying);
    return placesIn(state, query).map(({ from, to }) => ({ ...passageAt(state.doc, from, to), ofCase: saying.ofCase }));
  });
}

function passageAt(doc: Node, from: number, to: number): Omit<FoundPassage, 'ofCase'> {
  const $from = doc.resolve(from);
  const { parent, parentOffset } = $from;
  const end = parentOffset + to - from;
  const text = (start: number, stop: number): string => parent.textBetween(start, stop, ' ', '…');
  let block: string | null = null;
  for (let depth = $from.depth; depth > 0 && block === null; depth -= 1) {
    const id: unknown = $from.node(depth).attrs['id'];
    if (typeof id === 'string') block = id;
  }
  return {
    block,
    before: shortened(text(0, parentOffset), -aroundIt),
    found: text(parentOffset, end),
    after: shortened(text(end, parent.content.size), aroundIt),
  };
}

/** The nearest words of a line: its first signs, or its last ones where the length is negative. */
function shortened(line: string, length: number): string {
  if (line.length <= Math.abs(length)) return line;
  return length < 0 ? `…${line.slice(length).replace(/^\S*/, '')}` : `${line.slice(0, length).replace(/\S*$/, '')}…`;
}

/**
 * Replaces words in chosen places, in one transaction. What was saved since the places were found, and what cannot stand
 * there, is refused for its component alone, and told.
 */
export function replaceText(db: Database, actor: Actor, wanted: ReplaceText): Promise<ReplacedText> {
  const query = queryOf(wanted);
  return changeMany(db, wanted.components, async (client, { key, revision, places }) => {
    const component = await requireComponent(client, actor.workspace, key);
    if (component.revision !== revision)
      throw new HttpProblem(409, `“${component.title}” was saved meanwhile: look for the words again.`);
    if ('variable' in wanted.becomes && wanted.becomes.variable === key)
      throw new HttpProblem(422, `“${component.title}” cannot stand in its own value.`);
    const chosen = new Set(places);
    let at = 0;
    const body = withOwnContents(component, (saying) => {
      const state = stateOf(saying);
      const found = placesIn(state, query).filter(() => chosen.delete(at++));
      return found.length === 0 ? saying.content : replaced(component, state, found, wanted);
    });
    if (chosen.size > 0) throw new HttpProblem(409, `“${component.title}” does not say that so often any more.`);
    const saved = await saveComponent(client, actor, key, { base: revision, title: titleFor(component, body), body });
    return { key, before: revision, after: saved.revision };
  });
}

/** Puts components back to what they were before a change; those that were saved again since are left, and told. */
export function takeBack(db: Database, actor: Actor, components: readonly ChangedComponent[]): Promise<ReplacedText> {
  return changeMany(db, components, (client, component) => takeComponentBack(client, actor, component));
}

/**
 * Puts a component back to what it was before a change, as a new revision.
 * @throws HttpProblem where it was saved again since
 */
export async function takeComponentBack(
  db: Queryable,
  actor: Actor,
  { key, before, after }: ChangedComponent,
): Promise<ChangedComponent> {
  const current = await requireComponent(db, actor.workspace, key);
  if (current.revision !== after)
    throw new HttpProblem(409, `“${current.title}” was saved again since: its change stays.`);
  const [earlier] = await readRevisions(db, actor.workspace, [{ key, revision: before }]);
  if (!earlier) throw new HttpProblem(404, `There is no revision ${before} of “${current.title}”.`);
  const { title, body } = earlier;
  const saved = await saveComponent(db, actor, key, { base: after, title, body });
  return { key, before: after, after: saved.revision };
}

/** Changes components one by one in one transaction: what is refused for one is told, and left as it was. */
export function changeMany<T extends { readonly key: string }>(
  db: Database,
  components: readonly T[],
  change: (client: Queryable, component: T) => Promise<ChangedComponent>,
): Promise<ReplacedText> {
  return db.transaction(async (client) => {
    const changed: ChangedComponent[] = [];
    const refused: { key: string; why: string }[] = [];
    for (const component of components) {
      const why = await attempt(client, async () => changed.push(await change(client, component)));
      if (why !== null) refused.push({ key: component.key, why });
    }
    return { changed, refused };
  });
}

function replaced(
  component: Component,
  state: EditorState,
  places: readonly SearchResult[],
  wanted: ReplaceText,
): ContentNode {
  const { tr } = state;
  // From the end, so that the places before stay where they are.
  for (const { from, to } of [...places].reverse()) put(component, tr, from, to, wanted);
  const content: unknown = tr.doc.toJSON();
  if (!isContent(content)) throw new Error('A document is no content.');
  return content;
}

const isContent = (value: unknown): value is ContentNode =>
  typeof value === 'object' && value !== null && 'type' in value;

function put(component: Component, tr: Transaction, from: number, to: number, wanted: ReplaceText): void {
  const { becomes } = wanted;
  const marks = tr.doc.resolve(from).nodeAfter?.marks ?? [];
  if ('text' in becomes) {
    const found = tr.doc.textBetween(from, to);
    const text = wanted.matchesCase ? becomes.text : inCaseOf(wanted.find, found, becomes.text);
    if (text === '') tr.delete(from, to);
    else tr.replaceWith(from, to, contentSchema.text(text, marks));
    return;
  }
  const variable = contentSchema.node('variable', { key: becomes.variable }, undefined, marks);
  const $from = tr.doc.resolve(from);
  if (!$from.parent.canReplaceWith($from.index(), $from.indexAfter(), variable.type))
    throw new HttpProblem(422, `In “${component.title}” one of the places takes no variables.`);
  tr.replaceWith(from, to, variable);
}

/** A topic is called as its title reads, unless somebody called it otherwise. */
function titleFor(component: Component, body: ComponentBody): string {
  const [before, after] = [contentBody(component), contentBody(componentFrom({ ...component, body }))];
  if (!before || !after || writtenTitle(before, component.title) !== component.title) return component.title;
  return writtenTitle(after, component.title) || component.title;
}
