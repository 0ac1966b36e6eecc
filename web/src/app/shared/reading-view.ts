import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import type { ComponentClosure } from '@allomorph/core';
import { Lens } from './lens';
import { everything, read } from './reading';

/** A topic or snippet as it reads through the lens, made by the same engine that builds deliverables. */
@Component({
  selector: 'al-reading-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (problem of reading().problems; track $index) {
      <p class="problem" [class.error]="problem.severity === 'error'">{{ problem.message }}</p>
    }
    <div class="content" [innerHTML]="html()"></div>
  `,
  styles: `
    .problem {
      margin: 0 0 0.4rem;
      padding: 0.3rem 0.6rem;
      border-left: 3px solid var(--warn);
      background: var(--paper-deep);
      font-size: 0.9rem;
    }
    .problem.error {
      border-color: var(--alarm);
    }
    .content {
      font-size: 1rem;
    }
  `,
})
export class ReadingView {
  private readonly lens = inject(Lens);
  private readonly sanitizer = inject(DomSanitizer);

  readonly closure = input.required<ComponentClosure>();
  protected readonly reading = computed(() => read(this.closure(), this.lens.recipe() ?? everything, this.lens.axes()));
  // The engine escapes all text and passes addresses through its own filter; links inside would lead nowhere here.
  protected readonly html = computed(() =>
    this.sanitizer.bypassSecurityTrustHtml(
      this.reading().html.replace(/<a class="reference" href="[^"]*">/g, '<a class="reference">'),
    ),
  );
}
