import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Component as LibraryComponent, ComponentBody, ImageBody, LinkBody } from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { imageAddress } from '../shared/reading';
import { Session } from '../shared/session';

/** The few fields of an image or a link. */
@Component({
  selector: 'al-plain-component-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText],
  template: `
    <form (ngSubmit)="save()">
      @if (address(); as src) {
        <img [src]="src" [alt]="alt()" />
      }
      <div class="field">
        <label for="plain-title">{{ address() ? 'Title' : 'Label' }}</label>
        <input pInputText id="plain-title" name="title" [ngModel]="title()" (ngModelChange)="title.set($event)" />
      </div>
      @if (address()) {
        <div class="field">
          <label for="plain-alt">Alternative text</label>
          <input pInputText id="plain-alt" name="alt" [ngModel]="alt()" (ngModelChange)="alt.set($event)" />
          <small>What the picture says, for people who cannot see it.</small>
        </div>
      } @else {
        <div class="field">
          <label for="plain-href">Address</label>
          <input pInputText id="plain-href" name="href" [ngModel]="href()" (ngModelChange)="href.set($event)" />
          <small>The value of a variable can stand in it as {{ '{' }}+key{{ '}' }}.</small>
        </div>
      }
      @if (session.mayWrite()) {
        <p-button type="submit" label="Save" [disabled]="title().trim() === ''" />
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
    img {
      max-width: 100%;
      max-height: 22rem;
      display: block;
      margin: 0 auto 1rem;
    }
  `,
})
export class PlainComponentForm {
  protected readonly session = inject(Session);

  readonly component = input.required<LibraryComponent>();
  readonly saved = output<{ readonly title: string; readonly body: ComponentBody }>();
  private readonly image = computed(() =>
    this.component().kind === 'image' ? (this.component().body as ImageBody) : null,
  );
  protected readonly address = computed(() => {
    const image = this.image();
    return image ? imageAddress(image.file) : null;
  });
  protected readonly title = linkedSignal(() => this.component().title);
  protected readonly alt = linkedSignal(() => this.image()?.alt ?? '');
  protected readonly href = linkedSignal(() => (this.image() ? '' : (this.component().body as LinkBody).href));

  protected save(): void {
    const image = this.image();
    const title = this.title().trim();
    const body: ComponentBody = image
      ? { ...image, alt: this.alt().trim() }
      : { type: 'link', href: this.href().trim(), label: title };
    this.saved.emit({ title, body });
  }
}
