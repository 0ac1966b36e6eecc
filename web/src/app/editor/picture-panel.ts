import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, input, output, signal } from '@angular/core';
import type { Node } from 'prosemirror-model';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../shared/api';
import { Notices } from '../shared/notices';
import { EditorLibrary } from './editor-library';
import { panelStyle } from './panel-style';

/** What can be said about a selected picture: what it says here, how wide it is, and which file it shows everywhere. */
@Component({
  selector: 'al-picture-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'placed' },
  imports: [Button, InputText],
  template: `
    @if (image(); as component) {
      <p>
        <b>{{ component.title }}</b>, a picture of the library.
        <button type="button" class="plain-button" (click)="opened.emit(component.key)">Open it</button>
      </p>
      <div class="field">
        <label for="picture-alt">Alternative text here</label>
        <input
          pInputText
          id="picture-alt"
          autocomplete="off"
          [value]="own()"
          [placeholder]="common()"
          (change)="say($any($event.target).value)"
        />
        @if (own() === '' && common() === '') {
          <small class="warn">None yet: what does it say to people who cannot see it?</small>
        } @else if (own() === '') {
          <small>That of the library stands, unless this place says another one.</small>
        } @else if (common() !== own()) {
          <button type="button" class="link" [disabled]="busy()" (click)="sayEverywhere()">
            {{ common() === '' ? 'Keep it in the library, for all uses' : 'Say it in the library, too' }}
          </button>
        }
      </div>
      @if (node().type.name === 'picture') {
        <div class="field">
          <label for="picture-width">Width, in percent of the text</label>
          <input
            pInputText
            id="picture-width"
            type="number"
            min="1"
            max="100"
            placeholder="as it is"
            [value]="node().attrs['width'] ?? ''"
            (change)="widen($any($event.target))"
          />
        </div>
      }
      <div class="acts">
        <p-button
          size="small"
          [outlined]="true"
          label="Replace its file …"
          title="A new revision of the picture: all that show it follow"
          [loading]="busy()"
          (onClick)="file.click()"
        />
        <input #file type="file" accept="image/*" aria-label="New file" hidden (change)="replace(file)" />
        <p class="cases">
          @if (component.body.versions.length > 0) {
            It shows other files in
            {{ component.body.versions.length === 1 ? 'one case' : component.body.versions.length + ' cases' }}.
          } @else {
            It shows the same file in every variant.
          }
          <button type="button" class="link" (click)="opened.emit(component.key)">Files by case</button>
        </p>
      </div>
    } @else {
      <p>This picture is not in the library.</p>
    }
  `,
  styles: [
    panelStyle,
    `
      .field {
        margin-bottom: 0.6rem;
      }
      input[type='number'] {
        width: 9rem;
      }
      small {
        color: var(--soft);
      }
      small.warn {
        color: var(--warn);
      }
      .link {
        border: 0;
        padding: 0;
        background: none;
        color: var(--accent);
        font: inherit;
        font-size: 0.9rem;
        text-decoration: underline;
        cursor: pointer;
      }
      .cases {
        margin: 0.6rem 0 0;
      }
      .acts {
        margin-bottom: 0.5rem;
      }
    `,
  ],
})
export class PicturePanel {
  private readonly api = inject(Api);
  private readonly library = inject(EditorLibrary);
  private readonly notices = inject(Notices);

  readonly node = input.required<Node>();
  /** The source is to be opened. */
  readonly opened = output<string>();
  readonly altered = output<Readonly<Record<string, unknown>>>();
  protected readonly busy = signal(false);
  private readonly place = inject(DestroyRef);
  protected readonly image = computed(() => {
    this.library.changes();
    const found = this.library.get(String(this.node().attrs['component']));
    return found?.kind === 'image' ? found : null;
  });
  protected readonly own = computed(() => (this.node().attrs['alt'] as string | null) ?? '');
  /** What the library says that the picture says. */
  protected readonly common = computed(() => this.image()?.body.alt ?? '');

  protected say(words: string): void {
    const alt = words.trim();
    this.altered.emit({ alt: alt === '' ? null : alt });
  }

  protected widen(field: HTMLInputElement): void {
    const width = Math.round(field.valueAsNumber);
    this.altered.emit({ width: Number.isNaN(width) ? null : Math.min(100, Math.max(1, width)) });
  }

  /** Keeps the words of this place with the picture itself. */
  protected sayEverywhere(): void {
    const component = this.image();
    if (!component) return;
    const { key, revision: base, title, body } = component;
    const node = this.node();
    this.busy.set(true);
    this.api.saveComponent(key, { base, title, body: { ...body, alt: this.own() } }).subscribe({
      next: () => {
        this.busy.set(false);
        this.library.refresh(key);
        // Whoever has another picture in view meanwhile keeps the words of both.
        if (!this.place.destroyed && this.node() === node) this.altered.emit({ alt: null });
      },
      error: (error: unknown) => this.failed(error),
    });
  }

  protected replace(field: HTMLInputElement): void {
    const [file] = field.files ?? [];
    const component = this.image();
    field.value = '';
    if (!file || !component) return;
    this.busy.set(true);
    this.library.replaceFile(component, file).subscribe({
      next: ({ title, revision }) => {
        this.busy.set(false);
        this.notices.done(`“${title}” shows another file, as revision ${revision}; all that show it follow.`);
      },
      error: (error: unknown) => this.failed(error),
    });
  }

  private failed(error: unknown): void {
    this.busy.set(false);
    this.notices.failed(error);
  }
}
