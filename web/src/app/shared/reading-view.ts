import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import { ownCondition, type ComponentClosure } from '@allomorph/core';
import DOMPurify from 'dompurify';
import { describeCondition } from './lanes';
import { Lens } from './lens';
import { nothingYet, Readings } from './readings';
import { wordCount } from './word-count';
import { Wording } from './wording';

/** A topic or snippet as it reads through the lens, made by the same engine that builds deliverables. */
@Component({
  selector: 'al-reading-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (problem of reading().problems; track $index) {
      <p class="problem" [class.error]="problem.severity === 'error'">{{ problem.message }}</p>
    }
    @if (out(); as text) {
      <p class="problem">{{ text }}</p>
    }
    <p class="count">{{ count() }}</p>
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
    .count {
      margin: 0 0 0.6rem;
      color: var(--soft);
      font-size: 0.86rem;
    }
    .content {
      font-size: 1rem;
    }
  `,
})
export class ReadingView {
  private readonly lens = inject(Lens);
  private readonly sanitizer = inject(DomSanitizer);
  private readonly wording = inject(Wording);

  readonly closure = input.required<ComponentClosure>();
  protected readonly reading = inject(Readings).of(() => ({
    closure: this.closure(),
    lens: this.lens.recipe(),
    vocabulary: this.lens.vocabulary(),
  }));
  // What was cleaned keeps what Angular's own cleaning would drop: the attributes by which content is drawn.
  private readonly clean = computed(() => cleanContent(this.reading().html));
  /** Words as they are read through the lens, those of what is placed included. */
  protected readonly count = computed(() => {
    if (this.reading() === nothingYet) return '';
    const text = new DOMParser().parseFromString(this.clean(), 'text/html').body.innerText;
    const words = wordCount(text, this.lens.recipe()?.language ?? 'en');
    const through = this.lens.current()?.title;
    return `${this.wording.count(words, 'word', 'words')} as read${through === undefined ? '' : ` in ${through}`}.`;
  });
  /** Why nothing of it is read, where its own condition says so. */
  protected readonly out = computed(() => {
    const when = ownCondition(this.closure().component);
    const selector = this.lens.selector();
    if (when === null || !selector || selector.holds(when)) return '';
    const through = this.lens.current()?.title ?? 'this lens';
    return `It is not in ${through}: it applies only to ${describeCondition(when, this.lens.vocabulary())}.`;
  });
  protected readonly html = computed(() => this.sanitizer.bypassSecurityTrustHtml(this.clean()));
}

/**
 * Markup of the engine without anything that could run or send, and without references, which lead nowhere here. The engine
 * escapes all text; this holds even where it should fail to.
 */
export function cleanContent(html: string): string {
  const clean = DOMPurify.sanitize(html, {
    USE_PROFILES: { html: true, mathMl: true },
    FORBID_TAGS: ['style', 'form', 'input', 'button', 'textarea', 'select', 'iframe'],
    RETURN_DOM_FRAGMENT: true,
  });
  for (const link of clean.querySelectorAll('a.reference')) link.removeAttribute('href');
  const holder = document.createElement('div');
  holder.append(clean);
  return holder.innerHTML;
}
