import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  Injector,
  input,
  model,
  viewChild,
} from '@angular/core';
import { CdkTrapFocus } from '@angular/cdk/a11y';
import { Viewport } from './viewport';

/** What stands beside the content: a pane where there is room, else a drawer over it. */
@Component({
  selector: 'al-side-pane',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CdkTrapFocus],
  host: { '[class.out]': 'viewport.narrow()' },
  template: `
    @if (viewport.narrow() && open()) {
      <div class="backdrop" (click)="open.set(false)" aria-hidden="true"></div>
    }
    <div
      #pane
      class="pane"
      tabindex="-1"
      [class.drawer]="viewport.narrow()"
      [class.open]="open()"
      [attr.aria-label]="name()"
      [attr.role]="viewport.narrow() ? 'dialog' : 'complementary'"
      [attr.aria-modal]="viewport.narrow() ? true : null"
      [cdkTrapFocus]="viewport.narrow() && open()"
    >
      @if (viewport.narrow()) {
        <div class="head">
          <b>{{ name() }}</b>
          <button type="button" (click)="open.set(false)">Close</button>
        </div>
      }
      <ng-content />
    </div>
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      min-height: 0;
    }
    /* The drawer takes no room of its own. */
    :host(.out) {
      width: 0 !important;
    }
    .pane {
      height: 100%;
      width: 100%;
      overflow: auto;
      outline: 0;
    }
    .drawer {
      position: fixed;
      inset: 0 0 0 auto;
      z-index: 60;
      width: min(27rem, 92vw);
      background: var(--paper);
      border-left: 1px solid var(--line);
      box-shadow: -6px 0 24px #00000038;
      visibility: hidden;
      transform: translateX(100%);
      transition:
        transform 0.16s ease-out,
        visibility 0s 0.16s;
    }
    .drawer.open {
      visibility: visible;
      transform: none;
      transition: transform 0.16s ease-out;
    }
    @media (prefers-reduced-motion: reduce) {
      .drawer,
      .drawer.open {
        transition: none;
      }
    }
    .backdrop {
      position: fixed;
      inset: 0;
      z-index: 59;
      background: #00000059;
    }
    .head {
      position: sticky;
      top: 0;
      z-index: 2;
      display: flex;
      align-items: center;
      justify-content: space-between;
      padding: 0.5rem 1.1rem;
      background: var(--paper-deep);
      border-bottom: 1px solid var(--line);
    }
    .head button {
      border: 1px solid var(--accent);
      border-radius: 3px;
      background: none;
      color: var(--accent);
      font: 600 0.95rem var(--sans);
      padding: 0.25rem 0.8rem;
      cursor: pointer;
    }
  `,
})
export class SidePane {
  protected readonly viewport = inject(Viewport);
  private readonly injector = inject(Injector);
  private readonly pane = viewChild.required<ElementRef<HTMLElement>>('pane');
  private cameFrom: Element | null = null;

  /** What it is called. */
  readonly name = input.required<string>();
  /** Whether it is open where it is a drawer. */
  readonly open = model(false);

  constructor() {
    // Before what stands inside hears it: tabs keep all keys to themselves.
    const escape = (event: KeyboardEvent): void => this.escape(event);
    document.addEventListener('keydown', escape, true);
    inject(DestroyRef).onDestroy(() => document.removeEventListener('keydown', escape, true));
    effect(() => {
      if (!this.viewport.narrow()) return;
      if (this.open()) {
        this.cameFrom = document.activeElement;
        afterNextRender(() => this.pane().nativeElement.focus(), { injector: this.injector });
      } else if (this.cameFrom instanceof HTMLElement) {
        this.cameFrom.focus();
        this.cameFrom = null;
      }
    });
  }

  private escape(event: KeyboardEvent): void {
    if (event.key !== 'Escape') return;
    // What lies over the drawer hears the key first.
    const isCovered = document.querySelector('.p-dialog, .p-popover, .p-select-overlay') !== null;
    if (this.viewport.narrow() && this.open() && !event.defaultPrevented && !isCovered) this.open.set(false);
  }
}
