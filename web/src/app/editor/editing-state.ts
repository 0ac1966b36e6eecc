import { contentSchema, type ContentNode } from '@allomorph/core';
import { baseKeymap, chainCommands, exitCode, toggleMark } from 'prosemirror-commands';
import { dropCursor } from 'prosemirror-dropcursor';
import { gapCursor } from 'prosemirror-gapcursor';
import { history, redo, undo } from 'prosemirror-history';
import { keymap } from 'prosemirror-keymap';
import { search } from 'prosemirror-search';
import { EditorState, type Command, type Plugin } from 'prosemirror-state';
import { tableEditing } from 'prosemirror-tables';
import { insertInline } from './commands';
import { markType, nodeType } from './schema-types';
import { editorKeys, type EditorKey } from './editor-keys';
import { clipboard } from './clipboard';
import { columnEdges } from './column-edges';
import { tableGrips } from './table-grips';
import { anotherTerm, enter, leave } from './enter-keys';
import { rememberEnterRules, writingRules } from './input-rules';
import { writingKeys } from './keys';
import { backspace, forwardDelete } from './remove-keys';
import { demoteSection, promoteSection, sectionHere, siblingSection } from './sections';
import { indent, leaveAll, moveAtCursor, outdent } from './tab-keys';
import { repairContent } from './repair';
import { libraryDrops, type LibraryDrop } from './library-drops';
import { pictureFiles, type FileTakers } from './picture-files';
import { openBySigns, type MenuAsked } from './typed-signs';
import { undoNames } from './undo-names';
import { uniqueIds } from './unique-ids';
import { lensPlugin, type PageLens } from './lens-plugin';

/** A key of ours does nothing else where its command has nothing to do. */
const handled =
  (command: Command): Command =>
  (state, dispatch) =>
    command(state, dispatch) || true;
/** Only bodies that hold blocks have sections. */
const inTopics = (command: Command): Command =>
  handled((state, dispatch) => !state.doc.inlineContent && command(state, dispatch));

function keysOf(commands: Readonly<Record<EditorKey, Command>>): Record<string, Command> {
  const names = Object.keys(editorKeys) as EditorKey[];
  return Object.fromEntries(names.flatMap((name) => editorKeys[name].map(({ key }) => [key, commands[name]])));
}

/**
 * The state of an editor on a body.
 * @param openInsertMenu called for the key that opens the menu
 */
export function editingState(
  body: ContentNode,
  lens: PageLens,
  callbacks: {
    readonly openInsertMenu: () => void;
    /** Called where a sign is typed that opens the menu for one thing; without it, signs are signs. */
    readonly openBySign?: (asked: MenuAsked) => void;
    /** Called for the key that finds on the page; without it, the browser finds. */
    readonly openFind?: (state: EditorState) => void;
    /** Called for the key that takes what is offered. */
    readonly takeOffer?: () => void;
    /** Called where a component of the library is dropped; without it, none can be. */
    readonly libraryDropped?: (drop: LibraryDrop) => void;
    /** Called with what of pasted markup was left out. */
    readonly leftOut?: (what: readonly string[]) => void;
    /** Brings pictures and recordings that are pasted or dropped into the library; without it, they are left out. */
    readonly files?: FileTakers;
    /** In which language one writes (BCP 47); English without it. */
    readonly language?: () => string;
  },
): EditorState {
  const does =
    (act: () => void): Command =>
    () => {
      act();
      return true;
    };
  const slash: Command = (state) => {
    const { $from, empty } = state.selection;
    // Only where no word is being typed: a slash inside text is a slash.
    if (!empty || !$from.parent.inlineContent || $from.parent.type.spec.code || $from.parentOffset > 0) return false;
    if (body.type === 'phrase') return false;
    callbacks.openInsertMenu();
    return true;
  };
  const commands: Readonly<Record<EditorKey, Command>> = {
    undo,
    redo,
    strong: toggleMark(markType('strong')),
    emphasis: toggleMark(markType('emphasis')),
    insertMenu: does(callbacks.openInsertMenu),
    find: (state) => {
      callbacks.openFind?.(state);
      return callbacks.openFind !== undefined;
    },
    takeOffer: () => {
      callbacks.takeOffer?.();
      return callbacks.takeOffer !== undefined;
    },
    slash,
    lineBreak: chainCommands(exitCode, insertInline(nodeType('line_break').create())),
    enter,
    leave: chainCommands(anotherTerm, leave),
    siblingSection: inTopics(siblingSection),
    childSection: inTopics(sectionHere),
    promote: handled(promoteSection),
    demote: handled(demoteSection),
    moveUp: moveAtCursor(-1),
    moveDown: moveAtCursor(1),
    backspace,
    forwardDelete,
    indent,
    outdent,
    toStart: leaveAll('start'),
    toEnd: leaveAll('end'),
  };
  const plugins: Plugin[] = [
    writingKeys(),
    ...(callbacks.openBySign ? [openBySigns(callbacks.openBySign)] : []),
    ...(callbacks.libraryDropped ? [libraryDrops(callbacks.libraryDropped)] : []),
    ...(callbacks.files ? [pictureFiles(callbacks.files)] : []),
    clipboard({
      ...(callbacks.leftOut ? { leftOut: callbacks.leftOut } : {}),
      ...(callbacks.files ? { takeIn: callbacks.files.takeIn } : {}),
    }),
    writingRules(callbacks.language ?? (() => 'en')),
    rememberEnterRules(),
    keymap(keysOf(commands)),
    keymap(baseKeymap),
    history(),
    undoNames(),
    dropCursor({ color: 'var(--accent)', width: 2 }),
    gapCursor(),
    columnEdges(),
    tableGrips(),
    tableEditing(),
    repairContent(),
    uniqueIds(),
    lensPlugin(lens),
    search(),
  ];
  return EditorState.create({ doc: contentSchema.nodeFromJSON(body), plugins });
}
