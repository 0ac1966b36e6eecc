import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Span } from '@allomorph/core';

/** A text in which what was looked for is marked. */
@Component({
  selector: 'al-marked-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `@for (part of parts(); track $index) {
    @if (part.isMarked) {
      <mark>{{ part.text }}</mark>
    } @else {
      <ng-container>{{ part.text }}</ng-container>
    }
  }`,
  preserveWhitespaces: false,
  styles: `
    mark {
      background: var(--found);
      color: var(--ink);
      border-radius: 2px;
    }
  `,
})
export class MarkedText {
  readonly text = input.required<string>();
  /** What is marked, in its order; nothing stands in two marks. */
  readonly marks = input<readonly Span[]>([]);
  protected readonly parts = computed(() => {
    const text = this.text();
    const parts: { text: string; isMarked: boolean }[] = [];
    let at = 0;
    for (const [from, to] of this.marks()) {
      if (from > at) parts.push({ text: text.slice(at, from), isMarked: false });
      parts.push({ text: text.slice(from, to), isMarked: true });
      at = to;
    }
    if (at < text.length) parts.push({ text: text.slice(at), isMarked: false });
    return parts;
  });
}
