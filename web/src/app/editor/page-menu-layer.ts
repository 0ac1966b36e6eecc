import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Component as LibraryComponent } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { InsertMenu } from './insert-menu';
import type { PageMenu } from './page-menu';

/** The insert menu of a page, where it is open. */
@Component({
  selector: 'al-page-menu',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InsertMenu],
  template: `
    @if (menu().asked(); as asked) {
      <al-insert-menu
        [at]="asked.at"
        [mode]="asked.mode"
        [sign]="asked.sign"
        [own]="own()"
        [page]="page()"
        [blocks]="blocks()"
        (chosen)="menu().insert($event)"
        (literal)="menu().type($event)"
        (closed)="menu().close()"
      />
    }
  `,
})
export class PageMenuLayer {
  readonly menu = input.required<PageMenu>();
  /** The component being written. */
  readonly own = input.required<LibraryComponent>();
  /** The page as it stands: what can be referred to on it. */
  readonly page = input<Node | null>(null);
  /** Whether blocks can stand on the page. */
  readonly blocks = input(true);
}
