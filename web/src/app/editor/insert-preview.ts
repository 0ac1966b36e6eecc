import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { contentSchema, type Component as LibraryComponent, type ComponentRow } from '@allomorph/core';
import { catchError, debounceTime, of } from 'rxjs';
import { Lens } from '../shared/lens';
import { drawLeaf } from './draw-content';
import { EditorLibrary } from './editor-library';

/** What a component of the library reads, through the lens, where it would be inserted. */
@Component({
  selector: 'al-insert-preview',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div #sheet class="content" [attr.aria-label]="'“' + row().title + '” as it reads here'"></div>`,
  styles: `
    :host {
      display: block;
      border-top: 1px solid var(--line);
      margin-top: 0.4rem;
      padding: 0.4rem 0.4rem 0;
      max-height: 9rem;
      overflow: hidden;
      font-size: 0.86rem;
      mask-image: linear-gradient(#000 75%, transparent);
    }
  `,
})
export class InsertPreview {
  private readonly library = inject(EditorLibrary);
  private readonly lens = inject(Lens);
  private readonly sheet = viewChild.required<ElementRef<HTMLElement>>('sheet');

  readonly row = input.required<ComponentRow>();
  readonly own = input.required<LibraryComponent>();

  private readonly settled = toSignal(toObservable(this.row).pipe(debounceTime(150)));
  private readonly read = rxResource({
    params: () => this.settled()?.key,
    stream: ({ params }) => this.library.load(params).pipe(catchError(() => of(undefined))),
  });
  private readonly node = computed(() => {
    const found = this.read.value();
    if (!found || found.key !== this.row().key) return null;
    const attrs = { component: found.key };
    switch (found.kind) {
      case 'variable':
        return contentSchema.nodes['variable']?.create({ key: found.key });
      case 'link':
        return contentSchema.nodes['external_link']?.create(attrs);
      case 'image':
        return contentSchema.nodes['picture']?.create({ ...attrs, width: 30 });
      case 'topic':
      case 'snippet': {
        const isPhrase = found.kind === 'snippet' && found.body.type === 'phrase';
        return contentSchema.nodes[isPhrase ? 'inline_placement' : 'placement']?.create(attrs);
      }
    }
  });

  constructor() {
    effect(() => {
      const node = this.node();
      const drawing = {
        library: this.library,
        selector: this.lens.selector(),
        mode: this.lens.mode(),
        own: this.own(),
      };
      this.sheet().nativeElement.replaceChildren((node && drawLeaf(node, drawing, [this.own().key])) ?? '');
    });
  }
}
