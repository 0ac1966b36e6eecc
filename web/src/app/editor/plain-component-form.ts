import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { isImageBody, isLinkBody, type Component as LibraryComponent, type ComponentBody } from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../shared/api';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { imageAddress } from '../shared/image-address';
import { Session } from '../shared/session';

/** What is changed of an image or a link, each part by itself. */
interface PlainParts {
  readonly title: string;
  readonly alt: string;
  readonly href: string;
}

/** The few fields of an image or a link. */
@Component({
  selector: 'al-plain-component-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, EditingBands, InputText],
  template: `
    <al-editing-bands [editing]="editing" [newest]="component()" [names]="partNames" (saved)="saved.emit($event)" />
    <form (ngSubmit)="save()">
      @if (address(); as src) {
        <img [src]="src" [alt]="parts().alt" />
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
            [disabled]="!editing.dirty() || parts().title.trim() === ''"
            [loading]="editing.saving()"
          />
          <span class="state" aria-live="polite">{{ editing.dirty() ? 'not saved' : 'saved' }}</span>
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
    .end {
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
    }),
    save: ({ key, revision, body }, parts) => {
      const [title, alt, href] = [parts.title.trim(), parts.alt.trim(), parts.href.trim()];
      const changed: ComponentBody = isImageBody(body) ? { ...body, alt } : { type: 'link', href, label: title };
      return this.api.saveComponent(key, { base: revision, title, body: changed });
    },
  });
  protected readonly partNames = { title: 'the title', alt: 'the alternative text', href: 'the address' };
  protected readonly parts = computed(() => this.editing.parts() ?? { title: '', alt: '', href: '' });
  protected readonly address = computed(() => {
    const { body } = this.component();
    return isImageBody(body) ? imageAddress(body.file) : null;
  });

  constructor() {
    effect(() => {
      const component = this.component();
      untracked(() => void this.editing.show(component));
    });
    effect(() => this.changing.emit(this.editing.dirty()));
  }

  save(): void {
    this.editing.save((saved) => this.saved.emit(saved));
  }

  discard(): void {
    this.editing.discard();
  }
}
