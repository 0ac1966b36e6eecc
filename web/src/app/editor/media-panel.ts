import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { expandAddress, safeAddress, type ComponentRow } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { InputText } from 'primeng/inputtext';
import { ComponentChooser } from '../shared/component-chooser';
import { Notices } from '../shared/notices';
import { EditorLibrary } from './editor-library';
import { panelStyle } from './panel-style';

/** A recording at the cursor: what it is, where it is found, and the picture that stands for it. */
@Component({
  selector: 'al-media-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ComponentChooser, InputText],
  template: `
    <div class="kinds" role="radiogroup" aria-label="What it is">
      @for (kind of kinds; track kind.medium) {
        <label
          ><input
            type="radio"
            name="medium"
            [checked]="node().attrs['medium'] === kind.medium"
            (change)="altered.emit({ medium: kind.medium })"
          />
          {{ kind.label }}</label
        >
      }
    </div>
    <div class="field">
      <label for="media-address">Where it is found</label>
      <input
        pInputText
        id="media-address"
        autocomplete="off"
        spellcheck="false"
        placeholder="https://example.org/film.mp4"
        aria-describedby="media-fault"
        [value]="node().attrs['address']"
        (change)="lead($any($event.target).value)"
      />
      <small id="media-fault" [class.problem-text]="fault() !== ''" aria-live="polite">{{
        fault() || 'Web pages play it there; paper, e-books and Word show the address. Variables stand as {+key}.'
      }}</small>
    </div>
    @if (isVideo()) {
      <div class="field">
        <span class="label">Picture that stands for it</span>
        @if (poster(); as shown) {
          <span class="poster">
            <b>{{ shown.title }}</b>
            <button type="button" class="plain-button" (click)="altered.emit({ poster: null })">Take it away</button>
          </span>
        } @else {
          <al-component-chooser kind="image" label="a picture of the library" (chosen)="show($event)" />
        }
      </div>
    }
    <p class="soft">What is written in the block is its transcript, for those who cannot hear or play it.</p>
  `,
  styles: `
    ${panelStyle}
    .kinds {
      display: flex;
      gap: 1.2rem;
      margin-bottom: 0.5rem;
    }
    .field {
      margin-bottom: 0.6rem;
    }
    .field .label {
      display: block;
      font-weight: 600;
      margin-bottom: 0.25rem;
    }
    input[type='text'],
    #media-address {
      width: 100%;
    }
    .poster {
      display: flex;
      gap: 0.8rem;
    }
    .plain-button {
      border: 0;
      background: none;
      padding: 0;
      font: inherit;
      cursor: pointer;
    }
    small,
    .soft {
      color: var(--soft);
    }
  `,
})
export class MediaPanel {
  private readonly library = inject(EditorLibrary);
  private readonly notices = inject(Notices);

  readonly node = input.required<Node>();
  readonly altered = output<Readonly<Record<string, unknown>>>();

  protected readonly kinds = [
    { medium: 'video', label: 'Video' },
    { medium: 'audio', label: 'Audio' },
  ] as const;
  protected readonly isVideo = computed(() => this.node().attrs['medium'] === 'video');
  private readonly refused = signal('');
  protected readonly fault = computed(() => this.refused());
  protected readonly poster = computed(() => {
    this.library.changes();
    const key: unknown = this.node().attrs['poster'];
    return typeof key === 'string' && key !== '' ? { title: this.library.get(key)?.title ?? key } : null;
  });

  /** Keeps an address that can be followed; another one is told, and stays in the field. */
  protected lead(address: string): void {
    const wanted = address.trim();
    const isGood = safeAddress(expandAddress(wanted, () => 'x')) !== null;
    this.refused.set(isGood ? '' : `“${wanted}” is no address that can be followed.`);
    if (isGood) this.altered.emit({ address: wanted });
  }

  protected show({ key }: ComponentRow): void {
    this.library.load(key).subscribe({ error: (error: unknown) => this.notices.failed(error) });
    this.altered.emit({ poster: key });
  }
}
