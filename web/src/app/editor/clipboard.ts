import { Fragment, Slice, type Node } from 'prosemirror-model';
import { Plugin, PluginKey, Selection } from 'prosemirror-state';
import { handlePaste as handleTablePaste } from 'prosemirror-tables';
import type { EditorView } from 'prosemirror-view';
import { reachesAcross } from './keys';
import { picturesInHtml, readPastedHtml } from './paste-html';
import { whileWaiting, type TakeIn } from './picture-files';
import { removeSelected } from './remove-keys';
import { nodeType } from './schema-types';

interface Told {
  /** Called with what of pasted markup was left out. */
  readonly leftOut?: (what: readonly string[]) => void;
  readonly takeIn?: TakeIn;
}

const toldBy = new PluginKey<Told>('clipboard');

/** Copying, cutting and pasting: nothing that is pasted gets lost because it does not fit where it goes. */
export function clipboard(told: Told = {}): Plugin {
  return new Plugin<Told>({
    key: toldBy,
    state: { init: () => told, apply: (_, value) => value },
    props: {
      transformCopied: (slice) => whole(slice),
      // What is pasted takes the place of what is selected, also where that reaches across blocks of different kinds.
      handlePaste: (view, event, slice) => {
        clearAcross(view);
        return pasteCells(view, event, slice) || pasteWords(view, slice);
      },
      handleDOMEvents: {
        cut: (view, event) => {
          if (!reachesAcross(view.state) || !event.clipboardData) return false;
          const { dom, text } = view.serializeForClipboard(view.state.selection.content());
          event.clipboardData.setData('text/html', dom.innerHTML);
          event.clipboardData.setData('text/plain', text);
          event.preventDefault();
          clearAcross(view);
          return true;
        },
        paste: (view, event) => {
          const html = event.clipboardData?.getData('text/html') ?? '';
          if (html === '' || !view.editable) return false;
          event.preventDefault();
          void pasteWithPictures(view, html, event);
          return true;
        },
      },
    },
  });
}

/** Pastes markup, once the pictures that stand in it as data are in the library. */
async function pasteWithPictures(view: EditorView, html: string, event: ClipboardEvent): Promise<void> {
  const takeIn = toldBy.getState(view.state)?.takeIn;
  const found = takeIn ? picturesInHtml(html) : [];
  if (!takeIn || found.length === 0) {
    pasteHtml(view, html, event);
    return;
  }
  // The event tells nothing any more when the pictures are there.
  const words = event.clipboardData?.getData('text/plain') ?? '';
  await whileWaiting(view, view.state.selection.from, 'Taking in pictures …', async () => {
    const taken = new Map<string, string>();
    for (const { address, alt } of found) {
      const file = fileOf(address);
      const key = file && (await takeIn(file, alt));
      if (key !== null) taken.set(address, key);
    }
    return (at) => {
      const { tr, selection } = view.state;
      // Whoever went on elsewhere meanwhile did not mean it to go there.
      if (selection.from !== at) view.dispatch(tr.setSelection(Selection.near(tr.doc.resolve(at))));
      pasteHtml(view, html, undefined, { taken, words });
    };
  });
}

/** The file that an address holds (RFC 2397); null where it is broken. */
function fileOf(address: string): File | null {
  const [, mediaType = 'image/png', encoding, data = ''] = /^data:([^;,]+)[^,]*?(;base64)?,(.*)$/s.exec(address) ?? [];
  const name = `picture.${mediaType.split('/')[1]?.split('+')[0] ?? 'png'}`;
  try {
    const plain = decodeURIComponent(data);
    const bytes = encoding ? Uint8Array.from(atob(plain), (sign) => sign.charCodeAt(0)) : plain;
    return new File([bytes], name, { type: mediaType });
  } catch {
    return null;
  }
}

/**
 * Pastes markup; what cannot be read as blocks is pasted as text.
 * @param more pictures that were taken in, by the addresses that they have in the markup, and the words of it
 */
export function pasteHtml(
  view: EditorView,
  html: string,
  event?: ClipboardEvent,
  more: { readonly taken?: ReadonlyMap<string, string>; readonly words?: string } = {},
): void {
  const { state } = view;
  const { html: read, leftOut } = readPastedHtml(html, more.taken);
  try {
    view.pasteHTML(read, event);
    if (leftOut.length > 0) toldBy.getState(state)?.leftOut?.(leftOut);
  } catch {
    if (view.state !== state) return;
    const words = new DOMParser().parseFromString(html, 'text/html').body.textContent;
    view.pasteText(more.words || event?.clipboardData?.getData('text/plain') || words, event);
  }
}

function clearAcross(view: EditorView): void {
  if (reachesAcross(view.state)) removeSelected(view.state, (tr) => view.dispatch(tr));
}

/** Cells into the cells of a table; where they do not fit into it, they are pasted like other blocks. */
function pasteCells(view: EditorView, event: ClipboardEvent, slice: Slice): boolean {
  const { state } = view;
  const only = slice.content.childCount === 1 ? slice.content.firstChild : null;
  // A table in a cell is meant for the cells around it.
  const cells = only?.type.name === 'table' && only.lastChild ? new Slice(Fragment.from(only.lastChild), 0, 0) : slice;
  try {
    return handleTablePaste(view, event, cells);
  } catch {
    return view.state !== state;
  }
}

/** Pastes content; what does not fit where it goes, as paragraphs of its words. */
function pasteWords(view: EditorView, slice: Slice): boolean {
  try {
    const tr = view.state.tr.replaceSelection(slice);
    tr.doc.check();
    view.dispatch(tr.scrollIntoView().setMeta('paste', true).setMeta('uiEvent', 'paste'));
    return true;
  } catch {
    const paragraphs: Node[] = [];
    slice.content.descendants((node) => {
      if (node.isTextblock) paragraphs.push(nodeType('paragraph').create(null, node.content));
      return !node.isTextblock;
    });
    if (paragraphs.length === 0) return true;
    const content = view.state.doc.inlineContent
      ? new Slice(
          paragraphs.reduce((all, { content: inline }) => all.append(inline), Fragment.empty),
          0,
          0,
        )
      : new Slice(Fragment.from(paragraphs), 1, 1);
    view.dispatch(view.state.tr.replaceSelection(content).scrollIntoView());
    return true;
  }
}

/** What was copied without what it is torn out of: the end of a section is its blocks, not a section without a title. */
function whole({ content, openStart, openEnd }: Slice): Slice {
  const { fragment, start, end } = wholeAt(content, openStart, openEnd);
  return new Slice(fragment, start, end);
}

interface Edges {
  readonly fragment: Fragment;
  readonly start: number;
  readonly end: number;
}

function wholeAt(content: Fragment, start: number, end: number): Edges {
  const first = content.firstChild;
  if (start === 0 || !first) return { fragment: content, start, end };
  const isOnly = content.childCount === 1;
  const rest = content.cut(first.nodeSize);
  if (first.type.contentMatch.matchFragment(first.content)) {
    const inner = wholeAt(first.content, start - 1, isOnly ? Math.max(0, end - 1) : 0);
    return {
      fragment: Fragment.from(first.copy(inner.fragment)).append(rest),
      start: inner.start + 1,
      end: isOnly && end > 0 ? inner.end + 1 : end,
    };
  }
  return wholeAt(first.content.append(rest), start - 1, isOnly ? Math.max(0, end - 1) : end);
}
