import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import {
  isImageBody,
  isLinkBody,
  type Component as LibraryComponent,
  type ComponentBody,
  type ImageBody,
  type ImageFile,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../shared/api';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { imageAddress } from '../shared/file-addresses';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { ImageCases } from './image-cases';

/** What is changed of an image or a link, each part by itself. */
interface PlainParts {
  readonly title: string;
  readonly alt: string;
  readonly href: string;
  readonly file: ImageFile | null;
  readonly versions: ImageBody['versions'];
}

/** The few fields of an image or a link. */
@Component({
  selector: 'al-plain-component-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, EditingBands, ImageCases, InputText],
  template: `
    <al-editing-bands [editing]="editing" [newest]="component()" [names]="partNames" (saved)="saved.emit($event)" />
    <form (ngSubmit)="save()">
      @if (address(); as src) {
        <img [src]="src" [alt]="parts().alt" />
        @if (session.mayWrite()) {
          <p class="file">
            <p-button
              label="Another file …"
              size="small"
              [outlined]="true"
              [loading]="storing()"
              (onClick)="own.click()"
            />
            <input #own type="file" accept="image/*" aria-label="Another file" hidden (change)="store(own)" />
          </p>
        }
      }
      <div class="field">
        <label for="plain-title">{{ address() ? 'Title' : 'Label' }}</label>
        <input
          pInputText
          id="plain-title"
          name="title"
          [ngModel]="parts().title"
          (ngModelChange)="editing.change({ title: $event })"
        />
      </div>
      @if (address()) {
        <div class="field">
          <label for="plain-alt">Alternative text</label>
          <input
            pInputText
            id="plain-alt"
            name="alt"
            [ngModel]="parts().alt"
            (ngModelChange)="editing.change({ alt: $event })"
          />
          <small>What the picture says, for people who cannot see it.</small>
        </div>
        <al-image-cases
          [versions]="parts().versions"
          [editable]="session.mayWrite()"
          (changed)="editing.change({ versions: $event })"
        />
      } @else {
        <div class="field">
          <label for="plain-href">Address</label>
          <input
            pInputText
            id="plain-href"
            name="href"
            [ngModel]="parts().href"
            (ngModelChange)="editing.change({ href: $event })"
          />
          <small>The value of a variable can stand in it as {{ '{' }}+key{{ '}' }}.</small>
        </div>
      }
      @if (session.mayWrite()) {
        <div class="end">
          <p-button
            type="submit"
            label="Save"
            icon="pi pi-check"
            [disabled]="!editing.dirty() || parts().title.trim() === '' || !isWhole()"
            [loading]="editing.saving()"
          />
          <span class="state" aria-live="polite">{{
            isWhole() ? (editing.dirty() ? 'not saved' : 'saved') : 'A case does not say yet when it applies.'
          }}</span>
        </div>
      }
    </form>
  `,
  styles: `
    form {
      max-width: 40rem;
      margin: 1.5rem auto;
      padding: 1.5rem 2rem;
      background: var(--sheet);
      border: 1px solid var(--line);
    }
    .file {
      text-align: center;
      margin: 0 0 0.6rem;
    }
    .end {
      margin-top: 1.2rem;
      display: flex;
      align-items: center;
      gap: 0.8rem;
    }
    .state {
      color: var(--soft);
    }
    img {
      max-width: 100%;
      max-height: 22rem;
      display: block;
      margin: 0 auto 1rem;
    }
  `,
})
export class PlainComponentForm {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);

  readonly component = input.required<LibraryComponent>();
  readonly saved = output<LibraryComponent>();
  readonly changing = output<boolean>();
  protected readonly editing = inject(Edits).of<LibraryComponent, PlainParts>({
    nameOf: ({ kind, key }) => `${kind} ${key}`,
    titleOf: ({ title }) => title,
    partsOf: ({ title, body }) => ({
      title,
      alt: isImageBody(body) ? body.alt : '',
      href: isLinkBody(body) ? body.href : '',
      file: isImageBody(body) ? body.file : null,
      versions: isImageBody(body) ? body.versions : [],
    }),
    save: ({ key, revision, body }, parts) => {
      const [title, alt, href] = [parts.title.trim(), parts.alt.trim(), parts.href.trim()];
      const changed: ComponentBody = isImageBody(body)
        ? { ...body, alt, file: parts.file ?? body.file, versions: parts.versions }
        : { type: 'link', href, label: title };
      return this.api.saveComponent(key, { base: revision, title, body: changed });
    },
  });
  protected readonly partNames = {
    title: 'the title',
    alt: 'the alternative text',
    href: 'the address',
    file: 'the file',
    versions: 'the files of cases',
  };
  protected readonly parts = computed<PlainParts>(
    () => this.editing.parts() ?? { title: '', alt: '', href: '', file: null, versions: [] },
  );
  protected readonly address = computed(() => {
    const { body } = this.component();
    return isImageBody(body) ? imageAddress(this.parts().file ?? body.file) : null;
  });
  /** Whether each case says when it applies. */
  protected readonly isWhole = computed(() => this.parts().versions.every(({ when }) => when !== ''));
  protected readonly storing = signal(false);

  constructor() {
    effect(() => {
      const component = this.component();
      untracked(() => void this.editing.show(component));
    });
    effect(() => this.changing.emit(this.editing.dirty()));
  }

  /** Shows another file where no case applies. */
  protected store(field: HTMLInputElement): void {
    const [chosen] = field.files ?? [];
    field.value = '';
    if (!chosen) return;
    const { key } = this.component();
    this.storing.set(true);
    this.api.storePicture(chosen).subscribe({
      next: (file) => {
        this.storing.set(false);
        // Another image may be shown when the file is kept.
        if (this.component().key === key) this.editing.change({ file });
      },
      error: (error: unknown) => {
        this.storing.set(false);
        this.notices.failed(error);
      },
    });
  }

  save(): void {
    if (!this.isWhole()) return;
    this.editing.save((saved) => this.saved.emit(saved));
  }

  discard(): void {
    this.editing.discard();
  }
}
