import { inject, signal } from '@angular/core';
import type { Component as LibraryComponent } from '@allomorph/core';
import { Notices } from '../shared/notices';
import type { ContentEditor } from './content-editor';
import { EditorLibrary } from './editor-library';
import type { LibraryDrop } from './library-drops';
import { placingCommand, placingWays, type PlacingWay } from './placing-ways';

/** A component that is to be put onto a page: where, and the question how. */
export class Placing {
  private readonly library = inject(EditorLibrary);
  private readonly notices = inject(Notices);
  /** The component of which it is asked how it is to be placed, and where; position null: at the cursor. */
  readonly asked = signal<{
    readonly component: LibraryComponent;
    readonly position: number | null;
    readonly at: { readonly left: number; readonly top: number };
  } | null>(null);

  /**
   * @param own the component on whose page it is placed
   * @param inLine whether only what stands in a line can stand on the page
   */
  constructor(
    private readonly editor: () => ContentEditor | undefined,
    private readonly own: () => string,
    private readonly inLine: () => boolean,
  ) {}

  /** Asks how a component is to be placed; where there is one way only, it is placed so. */
  ask(key: string, drop: LibraryDrop | null): void {
    if (key === this.own()) {
      this.notices.failed(new Error('It cannot stand in itself.'));
      return;
    }
    const page = this.own();
    this.library.load(key).subscribe({
      next: (component) => {
        if (this.own() !== page) return;
        const at = drop?.at ?? this.editor()?.caret() ?? { left: 0, top: 0 };
        this.asked.set({ component, at, position: drop?.position ?? null });
        const [way, ...others] = placingWays(component, this.inLine());
        if (way && others.length === 0) this.place(way);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  place(way: PlacingWay): void {
    const asked = this.asked();
    this.asked.set(null);
    if (asked && !this.editor()?.run(placingCommand(way, asked.position)))
      this.notices.failed(new Error(`“${asked.component.title}” cannot stand at this place.`));
  }

  leave(): void {
    this.asked.set(null);
    this.editor()?.focus();
  }
}
