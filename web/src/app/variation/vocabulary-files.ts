import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  flattenValues,
  ImportFault,
  readVocabulary,
  valueStates,
  writeVocabulary,
  type Axis,
  type ReadVocabulary,
  type Revised,
  type StoredProfile,
  type VocabularyFile,
} from '@allomorph/core';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { concat, finalize, last, switchMap, type Observable } from 'rxjs';
import { Api } from '../shared/api';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';

/** Files together may have so many bytes: a vocabulary is small. */
const mostBytes = 5_000_000;

interface Change {
  readonly title: string;
  readonly what: string;
  readonly save: () => Observable<unknown>;
}

/** The vocabulary as files of an open standard, for teams that work with other tools: saved, and loaded after a look at what changes. */
@Component({
  selector: 'al-vocabulary-files',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Dialog],
  template: `
    <p-button
      label="Download as files"
      icon="pi pi-download"
      [text]="true"
      title="A subject scheme map and a DITAVAL document for each profile (DITA 1.3)"
      (onClick)="download()"
    />
    @if (session.mayKeep()) {
      <p-button
        label="Load from files"
        icon="pi pi-upload"
        [text]="true"
        title="Subject scheme maps and DITAVAL documents (DITA 1.3), or a ZIP of them"
        (onClick)="picker.click()"
      />
      <input
        #picker
        type="file"
        hidden
        multiple
        aria-label="Files of a vocabulary"
        accept=".ditamap,.ditaval,.xml,.zip"
        (change)="load(picker)"
      />
    }
    <p-dialog
      header="Load a vocabulary"
      [modal]="true"
      [visible]="read() !== null"
      (visibleChange)="read.set(null)"
      [style]="{ width: 'min(38rem, 96vw)' }"
    >
      @if (changes().length > 0) {
        <p>This will be added or changed; nothing is taken away:</p>
        <ul>
          @for (change of changes(); track $index) {
            <li>
              <b>{{ change.title }}</b>: {{ change.what }}
            </li>
          }
        </ul>
      } @else {
        <p>All that the files say is here already.</p>
      }
      @if (notes().length > 0) {
        <p>What cannot be taken over:</p>
        <ul class="notes" tabindex="0">
          @for (note of notes(); track $index) {
            <li>{{ note }}</li>
          }
        </ul>
      }
      <div class="end">
        <p-button label="Cancel" [text]="true" (onClick)="read.set(null)" />
        @if (changes().length > 0) {
          <p-button label="Take it over" [loading]="busy()" (onClick)="take()" />
        }
      </div>
    </p-dialog>
  `,
  styles: `
    ul {
      max-height: 14rem;
      overflow: auto;
      padding-left: 1.2rem;
    }
    .end {
      display: flex;
      justify-content: flex-end;
      gap: 0.6rem;
      margin-top: 1rem;
    }
  `,
})
export class VocabularyFiles {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly notices = inject(Notices);
  private readonly wording = inject(Wording);
  protected readonly session = inject(Session);

  protected readonly read = signal<ReadVocabulary | null>(null);
  protected readonly busy = signal(false);
  protected readonly notes = computed(() => this.read()?.notes ?? []);
  protected readonly changes = computed<readonly Change[]>(() => {
    const read = this.read();
    if (!read) return [];
    const { axes, profiles } = this.lens.variation();
    return [
      ...read.axes.flatMap((axis) =>
        this.axisChange(
          axis,
          axes.find(({ key }) => key === axis.key),
        ),
      ),
      ...read.profiles.flatMap((profile) =>
        this.profileChange(
          profile,
          profiles.find(({ key }) => key === profile.key),
        ),
      ),
    ];
  });

  protected download(): void {
    const { axes, profiles } = this.lens.variation();
    const files = writeVocabulary(axes, profiles).map(({ name, text }) => [name, strToU8(text)] as const);
    const link = document.createElement('a');
    const zip = new Uint8Array(zipSync(Object.fromEntries(files)));
    link.href = URL.createObjectURL(new Blob([zip], { type: 'application/zip' }));
    link.download = 'vocabulary.zip';
    link.click();
    URL.revokeObjectURL(link.href);
  }

  protected async load(picker: HTMLInputElement): Promise<void> {
    const files = [...(picker.files ?? [])];
    picker.value = '';
    try {
      const read = (await Promise.all(files.map(textsIn))).flat();
      if (files.length > 0) this.read.set(readVocabulary(read, this.lens.variation().axes));
    } catch (error) {
      const said = error instanceof ImportFault || error instanceof FileFault;
      this.notices.failed(said ? error : new Error('The files cannot be read.'));
    }
  }

  protected take(): void {
    this.busy.set(true);
    concat(...this.changes().map(({ save }) => save()))
      .pipe(
        last(),
        switchMap(() => this.lens.refresh()),
        finalize(() => this.busy.set(false)),
      )
      .subscribe({
        next: () => {
          this.read.set(null);
          this.notices.done('The vocabulary is taken over.');
        },
        error: (error: unknown) => {
          this.notices.failed(error);
          // What was saved before is there.
          this.lens.refresh().subscribe({ error: () => undefined });
        },
      });
  }

  private axisChange(axis: Axis, known: (Axis & Revised) | undefined): readonly Change[] {
    const count = flattenValues(axis).length - (known ? flattenValues(known).length : 0);
    if (known && count === 0) return [];
    const values = this.wording.count(count, 'value', 'values');
    return [
      {
        title: axis.title,
        what: known ? `${values} more` : `a new axis with ${values}`,
        save: () => this.api.saveAxis({ ...axis, revision: known?.revision ?? 0 }),
      },
    ];
  }

  private profileChange(profile: StoredProfile, known: (StoredProfile & Revised) | undefined): readonly Change[] {
    if (known && letsInTheSame(known, profile, this.read()?.axes ?? [])) return [];
    return [
      {
        title: known?.title ?? profile.title,
        what: known ? 'lets other values in' : 'a new profile',
        save: () =>
          this.api.saveProfile({ ...profile, title: known?.title ?? profile.title, revision: known?.revision ?? 0 }),
      },
    ];
  }
}

/** Whether two profiles let the same values of all axes in, and the same of those that come later. */
function letsInTheSame(one: StoredProfile, other: StoredProfile, axes: readonly Axis[]): boolean {
  const told = ({ axes: choices }: StoredProfile): string =>
    JSON.stringify(
      axes.map((axis) => [choices[axis.key]?.default ?? 'in', ...valueStates(axis, choices[axis.key]).entries()]),
    );
  return told(one) === told(other);
}

class FileFault extends Error {}

/** The documents in a file, which may be a ZIP of them. */
async function textsIn(file: File): Promise<readonly VocabularyFile[]> {
  if (file.size > mostBytes) throw new FileFault(`“${file.name}” has more than 5 MB: that is no vocabulary.`);
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) return [{ name: file.name, text: new TextDecoder().decode(bytes) }];
  let size = 0;
  const isWanted = ({ name, originalSize }: { readonly name: string; readonly originalSize: number }): boolean => {
    if (!/\.(ditamap|ditaval|xml)$/i.test(name)) return false;
    size += originalSize;
    if (size > mostBytes) throw new FileFault(`What is in “${file.name}” has more than 5 MB: that is no vocabulary.`);
    return true;
  };
  const entries = Object.entries(unzipSync(bytes, { filter: isWanted }));
  return entries.map(([name, content]) => ({ name, text: new TextDecoder().decode(content) }));
}
