import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { expandAddress, recordingOf, safeAddress, type ComponentRow } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { ComponentChooser } from '../shared/component-chooser';
import { recordingAddress } from '../shared/file-addresses';
import { Notices } from '../shared/notices';
import { EditorLibrary } from './editor-library';
import { panelStyle } from './panel-style';

/** A recording at the cursor: what it is, where it is found, and the picture that stands for it. */
@Component({
  selector: 'al-media-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ComponentChooser, InputText],
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
      <span class="label">File</span>
      @if (recording(); as shown) {
        @if (isVideo()) {
          <video controls preload="metadata" [src]="playedAt()" [attr.aria-label]="shown.name"></video>
        } @else {
          <audio controls preload="metadata" [src]="playedAt()" [attr.aria-label]="shown.name"></audio>
        }
        <span class="chosen">
          <b>{{ shown.name }}</b>
          <button type="button" class="plain-button" (click)="file.click()">Another one</button>
          <button type="button" class="plain-button" (click)="altered.emit(noFile)">Take it away</button>
        </span>
      } @else {
        <p-button size="small" [outlined]="true" label="Choose a file …" (onClick)="file.click()" />
      }
      <input
        #file
        type="file"
        accept="video/*,audio/*"
        aria-label="File of the recording"
        hidden
        (change)="take(file)"
      />
      <small
        >Sites play it, Markdown leads to it, and e-books have it where all reading devices play its kind. MP4, WebM,
        Ogg, MP3, M4A, AAC, WAV or FLAC, up to 200 MB.</small
      >
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
        fault() ||
          (recording()
            ? 'Said where the file does not go: on paper, in Word and on the single web page. Variables stand as {+key}.'
            : 'Web pages play it there; paper, e-books and Word show the address. Variables stand as {+key}.')
      }}</small>
    </div>
    @if (isVideo()) {
      <div class="field">
        <span class="label">Picture that stands for it</span>
        @if (poster(); as shown) {
          <span class="chosen">
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
    .chosen {
      display: flex;
      flex-wrap: wrap;
      gap: 0.8rem;
    }
    video,
    audio {
      display: block;
      width: 100%;
      max-height: 12rem;
      margin-bottom: 0.3rem;
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
  /** A file is to be played; keeping it takes a while, in which the cursor may go elsewhere. */
  readonly chosen = output<File>();
  readonly altered = output<Readonly<Record<string, unknown>>>();

  protected readonly kinds = [
    { medium: 'video', label: 'Video' },
    { medium: 'audio', label: 'Audio' },
  ] as const;
  protected readonly isVideo = computed(() => this.node().attrs['medium'] === 'video');
  protected readonly recording = computed(() => recordingOf(this.node()));
  protected readonly playedAt = computed(() => {
    const recording = this.recording();
    return recording ? recordingAddress(recording) : null;
  });
  protected readonly noFile = { recording: null, mediaType: null, name: null };
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

  protected take(field: HTMLInputElement): void {
    const [file] = field.files ?? [];
    field.value = '';
    if (file) this.chosen.emit(file);
  }

  protected show({ key }: ComponentRow): void {
    this.library.load(key).subscribe({ error: (error: unknown) => this.notices.failed(error) });
    this.altered.emit({ poster: key });
  }
}
