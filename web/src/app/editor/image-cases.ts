import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import type { ImageBody } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Api } from '../shared/api';
import { ConditionField } from '../shared/condition-field';
import { imageAddress } from '../shared/file-addresses';
import { describeCondition } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';

type Versions = ImageBody['versions'];

/** The files that an image shows in particular cases: the first whose condition holds is shown instead of its own. */
@Component({
  selector: 'al-image-cases',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ConditionField],
  template: `
    <h2>Cases <small>the first that applies is shown instead</small></h2>
    @for (version of versions(); track $index; let index = $index) {
      <div class="case" role="group" [attr.aria-label]="'Case ' + (index + 1)">
        <div class="head">
          <b>Case {{ index + 1 }}</b>
          <span class="when">{{ version.when === '' ? 'applies nowhere yet' : inWords(version.when) }}</span>
          <span class="grow"></span>
          @if (editable()) {
            <p-button
              icon="pi pi-arrow-up"
              [ariaLabel]="'Move case ' + (index + 1) + ' up'"
              size="small"
              [text]="true"
              [disabled]="index === 0"
              (onClick)="moveUp(index)"
            />
            <p-button
              icon="pi pi-trash"
              [ariaLabel]="'Delete case ' + (index + 1)"
              size="small"
              [text]="true"
              severity="danger"
              (onClick)="drop(index)"
            />
          }
        </div>
        <div class="both">
          <img [src]="address(version.file)" [alt]="'The file of case ' + (index + 1)" />
          @if (editable()) {
            <div class="sides">
              @if (opened() === index || version.when === '') {
                <al-condition-field
                  [value]="version.when || null"
                  [fieldId]="'image-case-' + index"
                  (changed)="change(index, { when: $event ?? '' })"
                />
              } @else {
                <button type="button" class="act" (click)="opened.set(index)">Change when it applies</button>
              }
              <button type="button" class="act" [disabled]="busy()" (click)="other.click()">Another file …</button>
              <input
                #other
                type="file"
                accept="image/*"
                [attr.aria-label]="'File of case ' + (index + 1)"
                hidden
                (change)="store(other, index)"
              />
            </div>
          }
        </div>
      </div>
    } @empty {
      <p class="soft">It shows the same file in every variant.</p>
    }
    @if (editable()) {
      <p-button
        label="Another file for a case …"
        icon="pi pi-plus"
        size="small"
        [outlined]="true"
        [loading]="busy()"
        (onClick)="added.click()"
      />
      <input
        #added
        type="file"
        accept="image/*"
        aria-label="File for a new case"
        hidden
        (change)="store(added, null)"
      />
    }
  `,
  styles: `
    h2 {
      font: 600 1.05rem/1.2 var(--serif);
      margin: 1.2rem 0 0.5rem;
    }
    small,
    .soft,
    .when {
      color: var(--soft);
    }
    small {
      font: 400 0.85rem var(--sans);
    }
    .case {
      border: 1px solid var(--line);
      border-radius: 3px;
      padding: 0.5rem 0.8rem 0.8rem;
      margin-bottom: 0.7rem;
    }
    .head,
    .both {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0.3rem 0.8rem;
    }
    .both {
      align-items: flex-start;
    }
    .grow {
      flex: 1;
    }
    img {
      flex: 0 1 10rem;
      max-width: 10rem;
      max-height: 8rem;
      min-width: 4rem;
      object-fit: contain;
      border: 1px solid var(--line);
    }
    .sides {
      flex: 1 1 16rem;
      min-width: 0;
    }
    .act {
      display: block;
      border: 0;
      padding: 0.15rem 0;
      background: none;
      color: var(--accent);
      font: inherit;
      cursor: pointer;
    }
  `,
})
export class ImageCases {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly notices = inject(Notices);

  readonly versions = input.required<Versions>();
  readonly editable = input(false);
  readonly changed = output<Versions>();

  protected readonly opened = signal<number | null>(null);
  protected readonly busy = signal(false);
  protected readonly address = imageAddress;

  protected inWords(when: string): string {
    return `only for ${describeCondition(when, this.lens.vocabulary())}`;
  }

  protected change(index: number, change: Partial<Versions[number]>): void {
    this.changed.emit(this.versions().map((version, at) => (at === index ? { ...version, ...change } : version)));
  }

  protected drop(index: number): void {
    this.opened.set(null);
    this.changed.emit(this.versions().filter((_, at) => at !== index));
  }

  protected moveUp(index: number): void {
    const versions = [...this.versions()];
    const [moved] = versions.splice(index, 1);
    if (moved) versions.splice(index - 1, 0, moved);
    this.opened.set(null);
    this.changed.emit(versions);
  }

  /** Keeps a file, and shows it in a case that is there or in a new one; null: in a new one. */
  protected store(field: HTMLInputElement, index: number | null): void {
    const [chosen] = field.files ?? [];
    field.value = '';
    if (!chosen) return;
    this.busy.set(true);
    this.api.storePicture(chosen).subscribe({
      next: (file) => {
        this.busy.set(false);
        if (index !== null) this.change(index, { file });
        else {
          this.opened.set(this.versions().length);
          this.changed.emit([...this.versions(), { when: '', file }]);
        }
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.notices.failed(error);
      },
    });
  }
}
