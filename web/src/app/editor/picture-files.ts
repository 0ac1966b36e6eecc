import type { Recording } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { NodeSelection, Plugin, PluginKey, Selection, TextSelection, type EditorState } from 'prosemirror-state';
import { Decoration, DecorationSet, type EditorView } from 'prosemirror-view';
import { insertBlock, insertInline } from './commands';
import { figureOf } from './figure-of';
import { mediaOf } from './media-of';
import { depthOf } from './places';
import { nodeType } from './schema-types';

/** Brings a picture into the library. @returns the key of its image; null where that failed, which has been told */
export type TakeIn = (file: File, alt: string) => Promise<string | null>;
/** Keeps the file of a recording. @returns null where that failed, which has been told */
export type KeepRecording = (file: File) => Promise<Recording | null>;

/** What brings files into the library. */
export interface FileTakers {
  readonly takeIn: TakeIn;
  readonly keepRecording: KeepRecording;
}

/** What a file became. */
type Taken = { readonly image: string } | { readonly recording: Recording };

interface Waiting {
  readonly id: number;
  readonly position: number;
  readonly text: string;
}

const waitingKey = new PluginKey<readonly Waiting[]>('picture files');
let last = 0;

/** Pictures that are pasted or dropped, and recordings, are brought into the library, and stand then where they were put. */
export function pictureFiles(takers: FileTakers): Plugin<readonly Waiting[]> {
  return new Plugin<readonly Waiting[]>({
    key: waitingKey,
    state: {
      init: () => [],
      apply: (tr, waiting) => {
        const moved = waiting.map((each) => ({ ...each, position: tr.mapping.map(each.position) }));
        const change = tr.getMeta(waitingKey) as { add?: Waiting; done?: number } | undefined;
        if (change?.add) return [...moved, change.add];
        return change?.done === undefined ? moved : moved.filter(({ id }) => id !== change.done);
      },
    },
    props: {
      decorations: (state) =>
        DecorationSet.create(
          state.doc,
          (waitingKey.getState(state) ?? []).map(({ id, position, text }) =>
            Decoration.widget(position, () => sign(text), { key: `waiting ${id}`, side: 1 }),
          ),
        ),
      handleDOMEvents: {
        paste: (view, event) => {
          const files = takenOf(event.clipboardData);
          // Word processors add a picture of all that was copied: where there are words, these are meant.
          if (files.length === 0 || !view.editable || hasWords(event.clipboardData)) return false;
          event.preventDefault();
          void putFiles(view, files, view.state.selection.from, takers);
          return true;
        },
        drop: (view, event) => {
          // What is neither picture nor recording is refused with a sentence; the browser would open it in place of the page.
          const files = [...(event.dataTransfer?.files ?? [])];
          if (files.length === 0 || view.dragging) return false;
          event.preventDefault();
          if (!view.editable) return true;
          const at = view.posAtCoords({ left: event.clientX, top: event.clientY });
          void putFiles(view, files, at?.pos ?? view.state.selection.from, takers);
          return true;
        },
      },
    },
  });
}

function takenOf(data: DataTransfer | null): readonly File[] {
  return [...(data?.files ?? [])].filter((file) => file.type.startsWith('image/') || isRecording(file));
}

const isRecording = ({ type }: File): boolean => /^(video|audio)\//.test(type);

function hasWords(data: DataTransfer | null): boolean {
  const html = data?.getData('text/html') ?? '';
  const words = html === '' ? '' : new DOMParser().parseFromString(html, 'text/html').body.textContent;
  return words.trim() !== '' || (html === '' && (data?.getData('text/plain') ?? '').trim() !== '');
}

function sign(text: string): HTMLElement {
  const element = document.createElement('span');
  element.className = 'taking-in';
  element.role = 'status';
  element.textContent = text;
  return element;
}

async function putFiles(view: EditorView, files: readonly File[], position: number, takers: FileTakers): Promise<void> {
  const names = files.map(({ name }) => `“${name}”`).join(', ');
  await whileWaiting(view, position, `Taking in ${names} …`, async () => {
    const taken: Taken[] = [];
    for (const file of files) {
      // Where only a line is written there is no place for a recording: what is no picture is refused.
      if (isRecording(file) && !view.state.doc.inlineContent) {
        const recording = await takers.keepRecording(file);
        if (recording) taken.push({ recording });
      } else {
        const image = await takers.takeIn(file, '');
        if (image !== null) taken.push({ image });
      }
    }
    return (at) => putTaken(view, at, taken);
  });
}

/**
 * Does something that takes a while, and shows on the page that it is being done.
 * @param work gives what is done afterwards, at the place as it is then
 */
export async function whileWaiting(
  view: EditorView,
  position: number,
  text: string,
  work: () => Promise<(position: number) => void>,
): Promise<void> {
  const id = (last += 1);
  view.dispatch(view.state.tr.setMeta(waitingKey, { add: { id, position, text } }));
  let finish: ((position: number) => void) | undefined;
  try {
    finish = await work();
  } finally {
    const at = view.isDestroyed ? null : placeOf(view.state, id);
    if (at !== null) {
      view.dispatch(view.state.tr.setMeta(waitingKey, { done: id }));
      finish?.(at);
    }
  }
}

function placeOf(state: EditorState, id: number): number | null {
  return waitingKey.getState(state)?.find((each) => each.id === id)?.position ?? null;
}

/**
 * Puts what was taken in at a place: each picture in a figure of its own, or into the line where only a line is written, each
 * recording in a block. The first is selected.
 */
function putTaken(view: EditorView, position: number, taken: readonly Taken[]): void {
  const [first, ...rest] = taken;
  if (first === undefined) return;
  const { tr } = view.state;
  view.dispatch(tr.setSelection(Selection.near(tr.doc.resolve(Math.min(position, tr.doc.content.size)))));
  if (view.state.doc.inlineContent) {
    for (const each of taken)
      if ('image' in each) insertInline(nodeType('image').create({ component: each.image }))(view.state, view.dispatch);
    return;
  }
  insertBlock(() => blockOf(first))(view.state, view.dispatch);
  const { $from } = view.state.selection;
  const depth = depthOf($from, 'image' in first ? 'figure' : 'media');
  if (depth < 0) return;
  const put = view.state.tr.insert($from.after(depth), rest.map(blockOf));
  const shown =
    'image' in first
      ? NodeSelection.create(put.doc, $from.start(depth))
      : TextSelection.near(put.doc.resolve($from.start(depth)));
  view.dispatch(put.setSelection(shown).scrollIntoView());
}

function blockOf(taken: Taken): Node {
  return 'image' in taken ? figureOf(taken.image) : mediaOf(taken.recording);
}
