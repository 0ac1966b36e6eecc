import { ChangeDetectorRef, inject, signal } from '@angular/core';
import type { ContentEditor } from './content-editor';
import { insertionCommand, type Insertion } from './insertion';
import { menuForAll, typeText, type MenuAsked } from './typed-signs';

/** The insert menu of a page: open at the cursor or not, and what becomes of what is chosen in it. */
export class PageMenu {
  private readonly changes = inject(ChangeDetectorRef);
  readonly asked = signal<(MenuAsked & { readonly at: { left: number; top: number } }) | null>(null);

  /** @param inLine whether only what stands in a line can stand on the page */
  constructor(
    private readonly editor: () => ContentEditor | undefined,
    private readonly inLine: () => boolean,
  ) {}

  open(asked: MenuAsked = menuForAll): void {
    const at = this.editor()?.caret();
    this.asked.set(at ? { at, ...asked } : null);
    // What is typed next goes into the menu.
    this.changes.detectChanges();
  }

  close(): void {
    this.asked.set(null);
    this.editor()?.focus();
  }

  /** Only what was typed comes onto the page. */
  type(text: string): void {
    this.asked.set(null);
    this.editor()?.run(typeText(text));
  }

  insert(insertion: Insertion): void {
    this.asked.set(null);
    this.editor()?.run(insertionCommand(insertion, this.inLine()));
  }
}
