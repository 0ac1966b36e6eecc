import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  HostListener,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import type { Component as LibraryComponent } from '@allomorph/core';
import { placingWays, type PlacingWay } from './placing-ways';

/** How a component is to be placed that was dropped on the page, or chosen beside it. */
@Component({
  selector: 'al-placing-menu',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div
      #layer
      popover="manual"
      role="menu"
      [attr.aria-label]="'How to place “' + component().title + '”'"
      [style.left.px]="place().left"
      [style.top.px]="place().top"
    >
      <p aria-hidden="true">{{ component().title }}</p>
      @for (way of ways(); track way.name) {
        <button type="button" role="menuitem" (click)="chosen.emit(way)">
          <b>{{ way.title }}</b> <span>{{ way.purpose }}</span>
        </button>
      } @empty {
        <button type="button" role="menuitem" (click)="closed.emit()"><b>It cannot stand on this page</b></button>
      }
    </div>
  `,
  styles: `
    [popover] {
      position: fixed;
      margin: 0;
      width: 21rem;
      max-width: 94vw;
      padding: 0.4rem;
      border: 1px solid var(--accent);
      border-radius: 4px;
      background: var(--sheet);
      color: var(--ink);
      box-shadow: 0 6px 22px rgb(0 0 0 / 22%);
    }
    p {
      margin: 0.1rem 0.5rem 0.3rem;
      color: var(--soft);
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    button {
      display: block;
      width: 100%;
      padding: 0.35rem 0.5rem;
      border: 0;
      border-radius: 3px;
      background: none;
      color: inherit;
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    button:hover,
    button:focus {
      background: var(--tint);
    }
    b {
      font-weight: 600;
    }
    span {
      display: block;
      color: var(--soft);
      font-size: 0.88rem;
    }
  `,
})
export class PlacingMenu {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly layer = viewChild.required<ElementRef<HTMLElement>>('layer');

  readonly component = input.required<LibraryComponent>();
  readonly at = input.required<{ readonly left: number; readonly top: number }>();
  /** Whether the page is a phrase. */
  readonly inLine = input(false);
  readonly chosen = output<PlacingWay>();
  readonly closed = output<void>();

  protected readonly ways = computed(() => placingWays(this.component(), this.inLine()));
  protected readonly place = computed(() => {
    const { left, top } = this.at();
    return { left: Math.max(8, Math.min(left, innerWidth - 350)), top: Math.max(8, Math.min(top, innerHeight - 260)) };
  });

  constructor() {
    afterNextRender(() => {
      this.layer().nativeElement.showPopover();
      this.items()[0]?.focus();
    });
  }

  @HostListener('document:pointerdown', ['$event'])
  protected elsewhere(event: Event): void {
    if (!this.host.nativeElement.contains(event.target as Node)) this.closed.emit();
  }

  @HostListener('keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    const items = this.items();
    const at = items.indexOf(document.activeElement as HTMLElement);
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (event.key === 'Escape' || event.key === 'Tab') this.closed.emit();
    else if (step !== 0) items[(at + step + items.length) % items.length]?.focus();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private items(): readonly HTMLElement[] {
    return [...this.layer().nativeElement.querySelectorAll<HTMLElement>('button')];
  }
}
