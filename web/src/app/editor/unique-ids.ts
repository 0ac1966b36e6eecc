import type { Node } from 'prosemirror-model';
import { Plugin, type EditorState, type Transaction } from 'prosemirror-state';
import { Mapping, ReplaceStep, type Step } from 'prosemirror-transform';

/**
 * Keeps ids unique on the page: where a block was split, copied or pasted, the one that had the id before keeps it, and
 * the others are without one until they are saved.
 */
export function uniqueIds(): Plugin {
  return new Plugin({ appendTransaction: mended });
}

function mended(
  transactions: readonly Transaction[],
  before: EditorState,
  { doc, tr }: EditorState,
): Transaction | undefined {
  if (!transactions.some(({ steps }) => steps.some(bringsIds))) return undefined;
  const repeated = new Map([...placesOfIds(doc)].filter(([, places]) => places.length > 1));
  if (repeated.size === 0) return undefined;
  const earlier = placesOfIds(before.doc);
  const mapping = new Mapping(transactions.flatMap(({ mapping: { maps } }) => [...maps]));
  for (const [id, places] of repeated) {
    const moved = (earlier.get(id) ?? []).map((place) => mapping.mapResult(place));
    const owner = moved.find(({ pos, deleted }) => !deleted && places.includes(pos))?.pos ?? places[0];
    for (const place of places) if (place !== owner) tr.setNodeAttribute(place, 'id', null);
  }
  return tr;
}

/** Whether a step may put a block with an id onto the page; one that only writes words does not. */
function bringsIds(step: Step): boolean {
  if (!(step instanceof ReplaceStep)) return true;
  let found = false;
  step.slice.content.descendants((node) => {
    found ||= typeof node.attrs['id'] === 'string';
    return !found;
  });
  return found;
}

/** Where each id stands. */
function placesOfIds(doc: Node): ReadonlyMap<string, readonly number[]> {
  const places = new Map<string, number[]>();
  doc.descendants((node, position) => {
    const id: unknown = node.attrs['id'];
    if (typeof id === 'string') places.set(id, [...(places.get(id) ?? []), position]);
  });
  return places;
}
