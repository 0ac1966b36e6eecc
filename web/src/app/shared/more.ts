import { DestroyRef, Directive, ElementRef, inject, output } from '@angular/core';

/** Tells when what stands at the end of a list comes into view: the list goes on. */
@Directive({ selector: '[alMore]' })
export class More {
  readonly alMore = output<void>();

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const observer = new IntersectionObserver((entries) => {
      if (entries.some(({ isIntersecting }) => isIntersecting)) this.alMore.emit();
    });
    observer.observe(host);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
  }
}
