import { computed } from '@angular/core';
import type { Node } from 'prosemirror-model';
import { NodeSelection, type EditorState } from 'prosemirror-state';
import { isInChoice } from './choices';
import { limitTargets, type LimitTarget } from './limit-targets';
import { depthOf } from './places';

/** A node of a page, with its place. */
export interface SelectedNode {
  readonly node: Node;
  readonly position: number;
}

/** What is selected on a page, and what the cursor stands in: what panels and bars are about. */
export class PageSelection {
  /** @param state the page as it is; null: none is open */
  constructor(private readonly state: () => EditorState | null) {}

  /** What can be limited here, from the outermost block to the words that are selected. */
  readonly targets = computed<readonly LimitTarget[]>(() => {
    const state = this.state();
    return state ? limitTargets(state) : [];
  });
  readonly chain = computed(() => this.targets().filter((target) => target.kind === 'block'));
  readonly variable = computed(() => this.selectedOf('variable'));
  readonly placement = computed(() => this.selectedOf('placement', 'inline_placement'));
  readonly reference = computed(() => this.selectedOf('cross_reference'));
  readonly marker = computed(() => this.selectedOf('index_marker'));
  readonly formula = computed(() => this.selectedOf('formula', 'display_formula'));
  readonly slot = computed(() => this.selectedOf('slot'));
  readonly picture = computed(() => this.selectedOf('picture', 'image'));
  /** The recording that is selected, or in whose transcript the cursor stands. */
  readonly media = computed<SelectedNode | null>(() => {
    const $from = this.state()?.selection.$from;
    const depth = $from ? depthOf($from, 'media') : -1;
    if (!$from || depth < 0) return this.selectedOf('media');
    return { node: $from.node(depth), position: $from.before(depth) };
  });
  readonly inTable = computed(() => {
    const state = this.state();
    return state ? depthOf(state.selection.$from, 'table') >= 0 : false;
  });
  readonly inChoice = computed(() => {
    const state = this.state();
    return state ? isInChoice(state) : false;
  });

  private selectedOf(...types: readonly string[]): SelectedNode | null {
    const selection = this.state()?.selection;
    if (!(selection instanceof NodeSelection) || !types.includes(selection.node.type.name)) return null;
    return { node: selection.node, position: selection.from };
  }
}
