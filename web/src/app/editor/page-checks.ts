import { inject, Injectable } from '@angular/core';
import { checkWriting, isImageBody, type CheckFinding, type Mend } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import type { Command } from 'prosemirror-state';
import { Lens } from '../shared/lens';
import { TeamChecks } from '../shared/team-checks';
import { removeBlock } from './commands';
import { EditorLibrary } from './editor-library';
import { contentOf } from './node-json';

/** A finding at its place on the page. */
export interface PageFinding extends CheckFinding {
  readonly position: number;
  readonly node: Node;
}

/** Looks through a page for what the team wants to be told of. */
@Injectable()
export class PageChecks {
  private readonly library = inject(EditorLibrary);
  private readonly lens = inject(Lens);
  private readonly team = inject(TeamChecks);

  find(doc: Node): readonly PageFinding[] {
    const found = checkWriting(contentOf(doc), this.team.settings(), {
      language: this.lens.recipe()?.language ?? 'en',
      altOf: (key) => {
        const body = this.library.get(key)?.body;
        return body && isImageBody(body) ? body.alt : '';
      },
    });
    return found.map((finding) => ({ ...finding, ...placeOf(doc, finding.path) }));
  }
}

/** Where the node is to which a way leads. */
function placeOf(doc: Node, path: readonly number[]): { readonly position: number; readonly node: Node } {
  let [node, start, position] = [doc, 0, 0];
  for (const at of path) {
    position = start;
    for (let before = 0; before < at; before += 1) position += node.child(before).nodeSize;
    node = node.child(at);
    start = position + 1;
  }
  return { position, node };
}

/** Does what mends a finding; nothing where the page is another one by now. */
export function mendCommand({ mend, position, node }: PageFinding): Command {
  return (state, dispatch, view) => {
    if (mend === null || !state.doc.nodeAt(position)?.eq(node)) return false;
    return mendAt(mend, position, node)(state, dispatch, view);
  };
}

function mendAt(mend: Mend, position: number, node: Node): Command {
  switch (mend.kind) {
    case 'remove':
      return removeBlock(position);
    case 'words':
      return ({ tr }, dispatch) => {
        dispatch?.(tr.insertText(mend.becomes, position + 1 + mend.from, position + 1 + mend.to).scrollIntoView());
        return true;
      };
    case 'to the front':
      return ({ doc, tr }, dispatch) => {
        const start = doc.resolve(position).start();
        dispatch?.(
          tr
            .delete(position, position + node.nodeSize)
            .insert(start, node)
            .scrollIntoView(),
        );
        return true;
      };
  }
}
