import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { contentBody, type WrittenOffer } from '@allomorph/core';
import type { Command, EditorState } from 'prosemirror-state';
import { NodeSelection, TextSelection } from 'prosemirror-state';
import { Api } from '../shared/api';
import { EditorLibrary } from './editor-library';
import { nodeType } from './schema-types';

const refusedUnder = 'allomorph.refused-offers';
const mostRefused = 500;
const longestLine = 600;

/** An offer at the place where it was written. */
export interface OfferHere extends WrittenOffer {
  readonly from: number;
  readonly to: number;
}

/**
 * Offers what the library says already while somebody writes: quietly, when they pause, and once; what was refused is
 * remembered.
 */
@Injectable()
export class TypingOffers {
  private readonly api = inject(Api);
  private readonly library = inject(EditorLibrary);
  readonly offer = signal<OfferHere | null>(null);
  private asked = '';
  private gone = false;

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.gone = true));
  }

  /** Looks at what stands before the cursor. */
  look(state: EditorState, own: string): void {
    const line = lineAt(state);
    if (line === null || line === this.asked) return;
    this.asked = line;
    this.offer.set(null);
    if (line.trim().length < 3) return;
    const to = state.selection.from;
    this.api.offers(line).subscribe({
      next: (offers) => {
        if (this.gone || this.asked !== line) return;
        const found = offers.find(({ key, words }) => key !== own && !refused().has(nameOf(key, words)));
        if (found) this.show(found, to);
      },
      // An offer that is not made disturbs nobody.
      error: () => undefined,
    });
  }

  /** Shows an offer once its component can be put in. */
  private show(found: WrittenOffer, to: number): void {
    this.library.load(found.key).subscribe({
      next: () => !this.gone && this.offer.set({ ...found, from: to - found.words.length, to }),
      error: () => undefined,
    });
  }

  refuse(): void {
    const offer = this.offer();
    this.offer.set(null);
    if (!offer) return;
    const names = [...refused(), nameOf(offer.key, offer.words)].slice(-mostRefused);
    localStorage.setItem(refusedUnder, JSON.stringify(names));
  }

  /** Puts the component in the place of what was written. */
  take({ key, kind, words, covers, from, to }: OfferHere): Command {
    const component = this.library.get(key);
    const isPhrase = component !== undefined && contentBody(component)?.type === 'phrase';
    return (state, dispatch) => {
      const { doc, tr } = state;
      if (to > doc.content.size || doc.textBetween(from, to, undefined, ' ') !== words) return false;
      const $to = doc.resolve(to);
      if (kind === 'snippet' && !isPhrase) {
        const [before, after] = [$to.before(), $to.after()];
        const index = $to.index(-1);
        const placement = nodeType('placement').create({ component: key });
        // Only what stands alone in its line is the same as the snippet.
        if (covers !== 'line' || $to.parent.content.size !== words.length) return false;
        if (!$to.node(-1).canReplaceWith(index, index + 1, placement.type)) return false;
        tr.replaceWith(before, after, placement);
        dispatch?.(tr.setSelection(NodeSelection.create(tr.doc, before)).scrollIntoView());
        return true;
      }
      const node =
        kind === 'variable'
          ? nodeType('variable').create({ key })
          : nodeType('inline_placement').create({ component: key });
      tr.replaceWith(from, to, node.mark($to.marks()));
      dispatch?.(tr.setSelection(TextSelection.create(tr.doc, from + 1)).scrollIntoView());
      return true;
    };
  }
}

const nameOf = (key: string, words: string): string => `${key}|${words}`;

function refused(): ReadonlySet<string> {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(refusedUnder) ?? '[]');
    return new Set(Array.isArray(kept) ? kept.filter((each) => typeof each === 'string') : []);
  } catch {
    return new Set();
  }
}

/** The text before the cursor in its line; null: nothing is written there that could be offered otherwise. */
function lineAt({ selection }: EditorState): string | null {
  const { $from, empty } = selection;
  const { parent } = $from;
  if (!empty || !parent.isTextblock || parent.type.spec.code) return null;
  if ($from.marks().some(({ type }) => type.name === 'code')) return null;
  return parent.textBetween(0, $from.parentOffset, undefined, '\ufffc').slice(-longestLine);
}
