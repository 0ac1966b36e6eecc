import { contentSchema, type ContentNode } from '@allomorph/core';
import { baseKeymap, chainCommands, exitCode, toggleMark } from 'prosemirror-commands';
import { dropCursor } from 'prosemirror-dropcursor';
import { gapCursor } from 'prosemirror-gapcursor';
import { history, redo, undo } from 'prosemirror-history';
import { inputRules, smartQuotes, wrappingInputRule, ellipsis } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import { liftListItem, sinkListItem, splitListItem } from 'prosemirror-schema-list';
import { EditorState, type Command, type Plugin } from 'prosemirror-state';
import { goToNextCell, tableEditing } from 'prosemirror-tables';
import { insertInline, markType, nodeType } from './commands';
import { editorKeys, type EditorKey } from './editor-keys';
import { leaveBranch, removeWithParent, stay, writingKeys } from './keys';
import { uniqueIds } from './unique-ids';
import { lensPlugin, type PageLens } from './lens-plugin';

const listItems = ['list_item', 'step'] as const;
const eachListItem = (make: (type: ReturnType<typeof nodeType>) => Command): Command =>
  chainCommands(...listItems.map((name) => make(nodeType(name))));

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
  callbacks: { readonly openInsertMenu: () => void },
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
    slash,
    lineBreak: chainCommands(exitCode, insertInline(nodeType('line_break').create())),
    split: chainCommands(
      eachListItem((type) => splitListItem(type)),
      leaveBranch,
    ),
    remove: removeWithParent,
    indent: chainCommands(
      goToNextCell(1),
      eachListItem((type) => sinkListItem(type)),
      stay,
    ),
    outdent: chainCommands(
      goToNextCell(-1),
      eachListItem((type) => liftListItem(type)),
      stay,
    ),
  };
  const plugins: Plugin[] = [
    writingKeys(),
    inputRules({
      rules: [
        ...smartQuotes,
        ellipsis,
        wrappingInputRule(/^\s*[-*]\s$/, nodeType('bullet_list')),
        wrappingInputRule(/^1\.\s$/, nodeType('ordered_list')),
      ],
    }),
    keymap(keysOf(commands)),
    keymap(baseKeymap),
    history(),
    dropCursor({ color: 'var(--accent)', width: 2 }),
    gapCursor(),
    tableEditing(),
    uniqueIds(),
    lensPlugin(lens),
  ];
  return EditorState.create({ doc: contentSchema.nodeFromJSON(body), plugins });
}
