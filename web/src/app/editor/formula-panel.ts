import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { DomSanitizer, type SafeHtml } from '@angular/platform-browser';
import { formulaMarkup, readFormula } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { Textarea } from 'primeng/textarea';
import { panelStyle } from './panel-style';

/** What people write most in formulas: what stands at `□` is written next. */
const parts: readonly (readonly [title: string, source: string, drawn?: string])[] = [
  ['Fraction', '\\frac{□}{b}'],
  ['Root', '\\sqrt{□}'],
  ['Power', 'x^{□}'],
  ['Index', 'x_{□}'],
  ['Sum', '\\sum_{□}^{n}'],
  ['Integral', '\\int_{□}^{b}'],
  ['Brackets that grow', '\\left( □ \\right)'],
  ['Words', '\\text{□}', '\\text{abc}'],
  ['Unit', '\\,\\mathrm{□}', '\\mathrm{kg}'],
  ['Times', '\\cdot ', 'a \\cdot b'],
  ['At most', '\\le ', 'a \\le b'],
  ['Degree Celsius', '^\\circ\\mathrm{C}'],
  ['Matrix', '\\begin{pmatrix} □ & b \\\\ c & d \\end{pmatrix}'],
  ['Cases', '\\begin{cases} □ & x > 0 \\\\ b & \\text{else} \\end{cases}'],
  ['Alpha', '\\alpha '],
  ['Delta', '\\Delta '],
];

/** A selected formula: its source, and what is wrong with it. */
@Component({
  selector: 'al-formula-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Textarea],
  template: `
    <div class="field">
      <label for="formula-source">Formula, in TeX</label>
      <textarea
        pTextarea
        #source
        id="formula-source"
        rows="4"
        spellcheck="false"
        aria-describedby="formula-fault"
        placeholder="E = mc^2"
        (input)="written.emit(source.value)"
        (keydown.enter)="leave($event)"
        (keydown.escape)="leave($event)"
      ></textarea>
      <small id="formula-fault" [class.problem-text]="fault() !== null" aria-live="polite">{{
        fault() ?? 'Drawn in every format. Enter leads back to the text.'
      }}</small>
    </div>
    <div class="parts" role="group" aria-label="Put into the formula">
      @for (part of parts; track part.title) {
        <button type="button" [title]="part.title" [attr.aria-label]="part.title" (click)="put(part.source)">
          <span [innerHTML]="part.drawn"></span>
        </button>
      }
    </div>
  `,
  styles: `
    ${panelStyle}
    textarea {
      font-family: var(--mono);
      font-size: 0.9rem;
      width: 100%;
      resize: vertical;
    }
    .parts {
      display: flex;
      flex-wrap: wrap;
      gap: 0.3rem;
      margin-bottom: 0.6rem;
    }
    .parts button {
      min-width: 2.2rem;
      min-height: 2.2rem;
      padding: 0.15rem 0.4rem;
      border: 1px solid var(--line);
      border-radius: 3px;
      background: var(--sheet);
      color: var(--ink);
      cursor: pointer;
    }
    .parts button:hover {
      border-color: var(--accent);
    }
  `,
})
export class FormulaPanel {
  private readonly sanitizer = inject(DomSanitizer);
  readonly node = input.required<Node>();
  /** The whole source, at every key. */
  readonly written = output<string>();
  /** The keyboard is wanted back on the page. */
  readonly left = output();
  private readonly field = viewChild.required<ElementRef<HTMLTextAreaElement>>('source');

  protected readonly parts = parts.map(([title, source, drawn = source]) => ({
    title,
    source,
    drawn: this.draw(drawn),
  }));
  protected readonly fault = computed(() => {
    const source = String(this.node().attrs['source']);
    if (source.trim() === '') return null;
    const { fault } = readFormula(source, !this.node().isInline);
    return fault === null ? null : `This cannot be drawn: ${fault}.`;
  });

  constructor() {
    // While somebody writes here, the page follows the field and not the field the page: keys come faster than either is drawn.
    effect(() => {
      const source = String(this.node().attrs['source']);
      const field = this.field().nativeElement;
      if (field !== document.activeElement && field.value !== source) field.value = source;
    });
    // What was just inserted is written now.
    afterNextRender(() => {
      if (this.node().attrs['source'] === '') this.field().nativeElement.focus();
    });
  }

  /** Our own markup, in which every character of the source is escaped. */
  private draw(source: string): SafeHtml {
    return this.sanitizer.bypassSecurityTrustHtml(formulaMarkup(source.replace('□', '\\square'), false));
  }

  protected put(part: string): void {
    const field = this.field().nativeElement;
    const { selectionStart: from, selectionEnd: to } = field;
    const chosen = field.value.slice(from, to);
    const place = part.indexOf('□');
    field.setRangeText(
      part.replace('□', () => chosen),
      from,
      to,
      'end',
    );
    const at = place < 0 ? from + part.length : from + place + chosen.length;
    field.setSelectionRange(at, at);
    field.focus();
    this.written.emit(field.value);
  }

  protected leave(event: Event): void {
    if ((event as KeyboardEvent).shiftKey) return;
    event.preventDefault();
    event.stopPropagation();
    this.left.emit();
  }
}
