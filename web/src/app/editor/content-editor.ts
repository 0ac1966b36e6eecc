import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Router } from '@angular/router';
import {
  componentFrom,
  conditionOn,
  contentBody,
  tidyBody,
  type Component as LibraryComponent,
  type ContentNode,
  type Recording,
} from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { NodeSelection, TextSelection, type Command, type EditorState } from 'prosemirror-state';
import { EditorView, type NodeView } from 'prosemirror-view';
import { firstValueFrom } from 'rxjs';
import { describeCondition, laneCode, laneColour, lanePattern, lanesOf, type Lane } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { Viewport } from '../shared/viewport';
import { mediaView } from './media-view';
import { drawLeaf, drawMediaHead, type Drawing } from './draw-content';
import type { LibraryDrop } from './library-drops';
import { EditorLibrary } from './editor-library';
import { editingState } from './editing-state';
import { lensKey, openOnPage, outOnPage, type PageLens } from './lens-plugin';
import { contentOf, jsonTextOf } from './node-json';
import { attributesOf } from './media-of';
import { alterAround } from './node-commands';
import { whileWaiting } from './picture-files';
import { nodeType } from './schema-types';
import { menuForAll, type MenuAsked } from './typed-signs';

interface Strip {
  readonly top: number;
  readonly height: number;
  /** The key of the axis whose lane it stands in. */
  readonly axis: string;
  readonly colour: string;
  readonly pattern: string;
  readonly code: string;
  readonly title: string;
}

/** The lane's code; where the strip is too low for all of it, the first value's and how many more there are. */
function shortCode(lane: Lane, height: number): string {
  const more = lane.values.length + lane.undefinedKeys.length - 1;
  if (more <= 0 || height > 16 * (more + 2)) return laneCode(lane);
  return `${laneCode({ ...lane, values: lane.values.slice(0, 1), undefinedKeys: lane.values.length > 0 ? [] : ['?'] })}+${more}`;
}

const laneWidth = 30;
const drawnTypes = [
  'variable',
  'cross_reference',
  'external_link',
  'inline_placement',
  'picture',
  'image',
  'index_marker',
  'footnote_reference',
  'placement',
  'slot',
  'formula',
  'display_formula',
];

/** One body on its page, with lanes in the margin. Holds the ProseMirror view. */
@Component({
  selector: 'al-content-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (lanes()) {
      <div class="margin" [style.width.px]="marginWidth()" aria-hidden="true">
        @for (axis of shownAxes(); track axis.key; let index = $index) {
          <span class="axis" [style.left.px]="index * laneWidth" [title]="axis.title">{{
            axis.title.slice(0, 3)
          }}</span>
        }
        @for (strip of strips(); track $index) {
          <span
            class="strip {{ strip.pattern }}"
            [style.--lane]="strip.colour"
            [style.top.px]="strip.top"
            [style.height.px]="strip.height"
            [style.left.px]="laneAt(strip.axis)"
            [title]="strip.title"
          >
            <b [class.short]="strip.code.includes('+')">{{ strip.code }}</b>
          </span>
        }
      </div>
    }
    <div #page class="page content" [class.phrase]="!lanes()"></div>
  `,
  styleUrl: './content-editor.css',
})
export class ContentEditor {
  protected readonly lens = inject(Lens);
  private readonly library = inject(EditorLibrary);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly page = viewChild.required<ElementRef<HTMLElement>>('page');

  readonly body = input.required<ContentNode>();
  readonly own = input<LibraryComponent | null>(null);
  readonly editable = input(true);
  /** Whether the page has a margin with lanes; values of variables have none. */
  readonly lanes = input(true);
  readonly label = input('Content');
  /** In which language it is written, for the browser's spelling; null: that of the whole page. */
  readonly language = input<string | null>(null);
  private readonly attributes = computed(() => {
    const language = this.language();
    return {
      'aria-label': this.label(),
      role: 'textbox',
      'aria-multiline': 'true',
      spellcheck: 'true',
      ...(language === null ? {} : { lang: language }),
    };
  });
  /** Whether it stands beside or over the page of the place: what is out on the page is told by that. */
  readonly besides = input(false);
  readonly changed = output<void>();
  readonly insertAsked = output<MenuAsked>();

  readonly findAsked = output<void>();
  /** A component of the library was dropped on the page. */
  readonly libraryDropped = output<LibraryDrop>();
  readonly offerAsked = output<void>();
  /** The source of something placed is to be opened. */
  readonly sourceAsked = output<string>();

  protected readonly laneWidth = laneWidth;
  protected readonly strips = signal<readonly Strip[]>([]);
  private readonly viewport = inject(Viewport);
  /** Always in the same order; in a narrow window, those that are in use. */
  protected readonly shownAxes = computed(() => {
    const used = new Set(this.strips().map(({ axis }) => axis));
    return this.lens.axes().filter(({ key }) => !this.viewport.slim() || used.has(key));
  });
  protected readonly marginWidth = computed(() => {
    const lanes = this.shownAxes().length;
    return lanes === 0 ? 6 : lanes * laneWidth + 8;
  });
  /** The editor's state after the last step; null before the view exists. */
  readonly state = signal<EditorState | null>(null);
  /** The body that was given to it last, once it shows it. */
  readonly shown = signal<ContentNode | null>(null);
  private view: EditorView | null = null;
  private readonly redraws = new Set<() => void>();
  /** Those of cross-references to this very page: they read as it does. */
  private readonly ownReferences = new Set<() => void>();
  private measuring = 0;
  private settling: ReturnType<typeof setTimeout> | undefined;
  private readonly resized = new ResizeObserver(() => this.measureSoon());

  constructor() {
    effect(() => {
      const attributes = this.attributes();
      untracked(() => this.view?.setProps({ attributes }));
    });
    afterNextRender(() => this.open());
    inject(DestroyRef).onDestroy(() => {
      this.view?.destroy();
      this.view = null;
      this.resized.disconnect();
      cancelAnimationFrame(this.measuring);
      clearTimeout(this.settling);
    });
    effect(() => {
      const lens = this.pageLens();
      this.lens.recipe();
      this.library.changes();
      untracked(() => {
        if (!this.view) return;
        this.redraws.forEach((redraw) => redraw());
        this.view.dispatch(this.view.state.tr.setMeta(lensKey, { lens }));
      });
    });
    effect(() => {
      const body = this.body();
      untracked(() => {
        // What this editor handed out itself comes back as its own body; the page has it already.
        const own = this.view && JSON.stringify(tidyBody(this.currentBody())) === JSON.stringify(tidyBody(body));
        if (this.view && body !== this.shown() && !own) this.show(body);
        this.shown.set(body);
      });
    });
  }

  protected laneAt(axis: string): number {
    return this.shownAxes().findIndex(({ key }) => key === axis) * laneWidth;
  }

  /** The body as it stands now. */
  currentBody(): ContentNode {
    return this.view ? contentOf(this.view.state.doc) : this.body();
  }

  /** The same as JSON text. */
  currentText(): string {
    return this.view ? jsonTextOf(this.view.state.doc) : JSON.stringify(this.body());
  }

  /** Runs a command on the selection and gives the focus back to the page. */
  run(command: Command): boolean {
    if (!this.view) return false;
    const done = command(this.view.state, this.view.dispatch, this.view);
    this.view.focus();
    return done;
  }

  /** Runs a command and leaves the keyboard where it is. */
  runBeside(command: Command): void {
    if (this.view) command(this.view.state, this.view.dispatch, this.view);
  }

  focus(): void {
    this.view?.focus();
  }

  /** Selects the block with an id and brings it into view. */
  goTo(id: string): void {
    const { view } = this;
    if (!view) return;
    let found: number | null = null;
    view.state.doc.descendants((node, position) => {
      if (found === null && node.attrs['id'] === id) found = position;
      return found === null;
    });
    if (found !== null) this.selectBlock(found);
  }

  /** @param takesFocus whether one goes on writing there */
  selectBlock(position: number, takesFocus = true): void {
    const { view } = this;
    if (!view) return;
    const node = view.state.doc.nodeAt(position);
    if (!node || !NodeSelection.isSelectable(node)) return;
    view.dispatch(view.state.tr.setSelection(NodeSelection.create(view.state.doc, position)).scrollIntoView());
    (view.nodeDOM(position) as HTMLElement | null)?.scrollIntoView({ block: 'center' });
    if (takesFocus) view.focus();
  }

  /** Where the cursor is on the screen. */
  caret(): { left: number; top: number } {
    const { view } = this;
    if (!view) return { left: 0, top: 0 };
    const { left, bottom } = view.coordsAtPos(view.state.selection.from);
    return { left, top: bottom + 4 };
  }

  private open(): void {
    const view = new EditorView(this.page().nativeElement, {
      state: this.freshState(this.body()),
      editable: () => this.editable(),
      attributes: this.attributes(),
      nodeViews: {
        ...Object.fromEntries(drawnTypes.map((name) => [name, (node: Node) => this.leafView(node)])),
        media: (node) => mediaView(node, (each) => drawMediaHead(each, this.drawing()), this.redraws),
      },
      dispatchTransaction: (transaction) => {
        const state = view.state.apply(transaction);
        view.updateState(state);
        this.state.set(state);
        if (transaction.docChanged) {
          this.changed.emit();
          this.settleSoon();
        }
        if (this.lanes() && !this.besides()) this.tellWhatIsOut();
        this.measureSoon();
      },
      handleDOMEvents: {
        // A link on the page leads on inside the application, without loading it anew.
        click: (_view, event) => {
          this.holdSelected();
          const link = (event.target as Element).closest<HTMLElement>('a[href]');
          // With these keys, the browser opens another window.
          if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return false;
          event.preventDefault();
          const address = link.getAttribute('href') ?? '';
          const { source } = link.dataset;
          if (source !== undefined) this.sourceAsked.emit(source);
          else if (address.startsWith('/')) void this.router.navigateByUrl(address);
          return true;
        },
      },
    });
    this.view = view;
    this.state.set(view.state);
    if (this.lanes() && !this.besides()) this.tellWhatIsOut();
    this.resized.observe(view.dom);
    this.measureSoon();
    this.settleSoon();
  }

  /** What can wait until nobody types. */
  private settleSoon(): void {
    clearTimeout(this.settling);
    this.settling = setTimeout(() => {
      // What is kept of a long page is made now: the next key must not wait for it.
      this.currentText();
      this.ownReferences.forEach((redraw) => redraw());
      if (this.view) this.library.readWhatIsMissing(this.currentBody());
    }, 300);
  }

  /** The browser lets go of what is clicked once more while it is selected, and goes to the top of the page a moment later. */
  private holdSelected(): void {
    setTimeout(() => {
      if (this.view?.hasFocus() && this.view.state.selection instanceof NodeSelection) this.view.focus();
    });
  }

  private show(body: ContentNode): void {
    this.view?.updateState(this.freshState(body));
    this.state.set(this.view?.state ?? null);
    this.measureSoon();
    this.settleSoon();
  }

  private freshState(body: ContentNode): EditorState {
    const state = editingState(body, this.pageLens(), {
      openInsertMenu: () => this.insertAsked.emit(menuForAll),
      openBySign: (asked) => this.insertAsked.emit(asked),
      ...(this.lanes()
        ? {
            openFind: () => this.findAsked.emit(),
            takeOffer: () => this.offerAsked.emit(),
            libraryDropped: (drop: LibraryDrop) => this.libraryDropped.emit(drop),
          }
        : {}),
      leftOut: (what) => {
        const list = new Intl.ListFormat('en').format(what);
        this.notices.done(`Left out of what was pasted: ${list}.`);
      },
      files: {
        takeIn: (file, alt) => this.takeIn(file, alt),
        keepRecording: (file) => this.keepRecording(file),
      },
      language: () => this.lens.recipe()?.language ?? 'en',
    });
    return state.apply(state.tr.setSelection(TextSelection.near(state.doc.resolve(0))));
  }

  /** Brings a picture that was pasted or dropped into the library; one without a name of its own is named by the page. */
  private async takeIn(file: File, alt: string): Promise<string | null> {
    const isNamed = !/^(image|picture)\.\w+$/.test(file.name);
    const title = isNamed ? file.name : `Picture in ${this.own()?.title ?? 'a component'}`;
    try {
      return (await firstValueFrom(this.library.takeIn(file, title, alt))).key;
    } catch (error) {
      this.notices.failed(error);
      return null;
    }
  }

  /**
   * Lets a block play a file.
   * @param position where the block stands now; it may be elsewhere when the file is kept
   */
  async play(position: number, file: File): Promise<void> {
    const { view } = this;
    if (!view) return;
    await whileWaiting(view, position, `Taking in “${file.name}” …`, async () => {
      const recording = await this.keepRecording(file);
      return (at) => {
        const node = view.state.doc.nodeAt(at);
        if (recording && node?.type === nodeType('media'))
          alterAround({ node, position: at }, attributesOf(recording))(view.state, view.dispatch);
      };
    });
  }

  private async keepRecording(file: File): Promise<Recording | null> {
    try {
      return await firstValueFrom(this.library.keepRecording(file));
    } catch (error) {
      this.notices.failed(error);
      return null;
    }
  }

  private pageLens(): PageLens {
    const { lens } = this;
    return { selector: lens.selector(), open: lens.open(), vocabulary: lens.vocabulary(), mode: lens.mode() };
  }

  private drawing(): Drawing {
    const own = this.own();
    // What is on this page reads as it stands, saved or not.
    const written = own && contentBody(own) ? componentFrom({ ...own, body: this.currentBody() }) : own;
    const { selector, open, mode } = this.pageLens();
    return { library: this.library, selector, open, mode, own: written };
  }

  /** Draws a node that stands for something else, and draws it again when that changed. */
  private leafView(first: Node): NodeView {
    let node = first;
    const dom = document.createElement(node.isInline ? 'span' : 'div');
    dom.dataset['node'] = node.type.name;
    const draw = (): void => {
      const own = this.own();
      dom.replaceChildren(drawLeaf(node, this.drawing(), own ? [own.key] : []) ?? '');
    };
    draw();
    this.redraws.add(draw);
    if (node.type.name === 'cross_reference' && node.attrs['component'] === null) this.ownReferences.add(draw);
    return {
      dom,
      update: (next) => {
        if (next.type !== node.type) return false;
        if (!next.eq(node)) {
          node = next;
          draw();
        }
        return true;
      },
      ignoreMutation: () => true,
      destroy: () => {
        this.redraws.delete(draw);
        this.ownReferences.delete(draw);
      },
    };
  }

  /** Counts what the lens leaves out: on the page, and in the seams that are not out themselves. */
  private tellWhatIsOut(): void {
    const { view } = this;
    if (!view) return;
    const placed = view.dom.querySelectorAll('.seam .out:not(.out .out)').length;
    const openPlaced = view.dom.querySelectorAll('.seam .open').length;
    const open = openOnPage(view.state) + openPlaced;
    this.lens.hidden.set({ count: outOnPage(view.state) + placed, what: 'block', open });
  }

  private measureSoon(): void {
    cancelAnimationFrame(this.measuring);
    if (this.lanes()) this.measuring = requestAnimationFrame(() => this.measure());
  }

  /** Finds where each limited block stands on the page, for its strips in the margin. */
  private measure(): void {
    const { view } = this;
    if (!view) return;
    const vocabulary = this.lens.vocabulary();
    const origin = view.dom.getBoundingClientRect().top;
    const strips: Strip[] = [];
    const addStrips = (when: string, dom: HTMLElement): void => {
      const box = dom.getBoundingClientRect();
      for (const lane of lanesOf(when, vocabulary)) {
        strips.push({
          top: box.top - origin,
          height: Math.max(box.height, 16),
          axis: lane.axis.key,
          colour: laneColour(lane),
          pattern: lanePattern(lane),
          code: shortCode(lane, box.height),
          title: `Applies only to ${describeCondition(when, vocabulary)}`,
        });
      }
    };
    const own = conditionOn(view.state.doc);
    if (own !== null) addStrips(own, view.dom);
    view.state.doc.descendants((node, position) => {
      if (node.isInline) return false;
      const when = conditionOn(node);
      const dom = when === null ? null : view.nodeDOM(position);
      if (when !== null && dom instanceof HTMLElement) addStrips(when, dom);
      return !node.isTextblock;
    });
    this.strips.set(strips);
  }
}
