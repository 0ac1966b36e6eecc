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
  flattenValues,
  freeKey,
  keyFromTitle,
  type Axis,
  type AxisValue,
  type Revised,
  type StoredProfile,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { map, type Observable } from 'rxjs';
import { Api } from '../shared/api';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { laneColours, lanePatterns } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { addValue, changeValue, findValue } from './axis-tree';

export type KeptAxis = Axis & Revised;
export type KeptProfile = StoredProfile & Revised;

/** What of the vocabulary is made or changed. */
export type VocabularyAsked =
  | { readonly kind: 'axis' }
  | { readonly kind: 'value'; readonly axis: KeptAxis; readonly parent: string | null }
  | { readonly kind: 'change value'; readonly axis: KeptAxis; readonly value: AxisValue }
  | { readonly kind: 'change axis'; readonly axis: KeptAxis }
  | { readonly kind: 'profile'; readonly from: KeptProfile | null }
  | { readonly kind: 'change profile'; readonly profile: KeptProfile };

/** What is asked of it; those of one kind leave the parts of the others as they are. */
interface Words {
  readonly title: string;
  readonly key: string;
  readonly code: string;
  readonly colour: number;
  readonly pattern: number;
}

interface AskedThing extends Revised {
  readonly asked: VocabularyAsked;
}

/** Makes or changes an axis, a value or a profile: its title, and how it is known. */
@Component({
  selector: 'al-vocabulary-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Dialog, EditingBands, InputText, Select],
  templateUrl: './vocabulary-dialog.html',
  styleUrl: './vocabulary-dialog.css',
})
export class VocabularyDialog {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);

  readonly asked = input.required<VocabularyAsked>();
  readonly saved = output();
  readonly closed = output();

  protected readonly problem = signal('');
  protected readonly colours = laneColours.map((colour, value) => ({ colour, value }));
  protected readonly patterns = Array.from({ length: lanePatterns }, (_, value) => value);
  protected readonly partNames = {
    title: 'the title',
    key: 'the key',
    code: 'the short code',
    colour: 'the colour',
    pattern: 'the pattern',
  };
  protected readonly editing = inject(Edits).of<AskedThing, Words>({
    nameOf: ({ asked }) => nameOf(asked),
    titleOf: ({ asked }) => wordsOf(asked).title,
    partsOf: ({ asked }) => wordsOf(asked),
    save: ({ asked }, words) => this.request(asked, { ...words, title: words.title.trim() }),
    theirs: ({ asked }, current) => nowOf(asked, current),
    told: ({ asked }) => `“${wordsOf(asked).title}” is saved`,
  });
  protected readonly newest = computed(() => thingOf(this.asked()));
  protected readonly words = computed(() => this.editing.parts() ?? wordsOf(this.asked()));
  protected readonly heading = computed(() => headingOf(this.asked()));
  protected readonly asksForLook = computed(() => ['value', 'change value'].includes(this.asked().kind));
  protected readonly asksForKey = computed(() => ['axis', 'value'].includes(this.asked().kind));

  /** A title to begin with; empty: none. */
  private readonly suggested = computed(() => suggestedTitle(this.asked()));

  constructor() {
    effect(() => {
      const newest = this.newest();
      untracked(() => void this.show(newest));
    });
  }

  protected cancel(): void {
    this.editing.discard();
    this.closed.emit();
  }

  /** Closed without a word about what was written: that waits, unless nobody wrote it. */
  protected leave(): void {
    if (this.words().title === this.suggested()) this.editing.discard();
    this.closed.emit();
  }

  protected submit(): void {
    const isUntitled = this.words().title.trim() === '';
    this.problem.set(isUntitled ? 'Give it a title.' : '');
    if (isUntitled) return;
    if (this.editing.dirty()) this.editing.save(() => this.saved.emit());
    else this.closed.emit();
  }

  private async show(thing: AskedThing): Promise<void> {
    await this.editing.show(thing);
    if (this.suggested() !== '' && !this.editing.dirty()) this.editing.change({ title: this.suggested() });
  }

  private request(asked: VocabularyAsked, words: Words): Observable<AskedThing> {
    const { title } = words;
    const ownKey = (taken: readonly string[]): string =>
      words.key.trim() || freeKey(keyFromTitle(title), (key) => taken.includes(key));
    switch (asked.kind) {
      case 'axis': {
        const key = ownKey(this.lens.axes().map((axis) => axis.key));
        return this.saveAxis({ key, title, values: [], revision: 0 }, (axis) => ({ kind: 'change axis', axis }));
      }
      case 'value': {
        const key = ownKey(flattenValues(asked.axis).map(({ value }) => value.key));
        const added = { key, ...lookOf(words) };
        const values = addValue(asked.axis.values, asked.parent, added);
        return this.saveAxis({ ...asked.axis, values }, (axis) => ({ kind: 'change value', axis, value: added }));
      }
      case 'change value': {
        const { key } = asked.value;
        const value = { ...asked.value, ...lookOf(words) };
        const values = changeValue(asked.axis.values, key, lookOf(words));
        return this.saveAxis({ ...asked.axis, values }, (axis) => ({ kind: 'change value', axis, value }));
      }
      case 'change axis':
        return this.saveAxis({ ...asked.axis, title }, (axis) => ({ kind: 'change axis', axis }));
      case 'profile': {
        const taken = this.lens.variation().profiles.map((profile) => profile.key);
        const key = freeKey(keyFromTitle(title), (each) => taken.includes(each));
        const all = this.lens.axes().map((axis) => [axis.key, { default: 'in' as const }] as const);
        const axes: StoredProfile['axes'] = asked.from?.axes ?? Object.fromEntries(all);
        return this.saveProfile({ key, title, axes, revision: 0 });
      }
      case 'change profile':
        return this.saveProfile({ ...asked.profile, title });
    }
  }

  private saveAxis(changed: KeptAxis, as: (axis: KeptAxis) => VocabularyAsked): Observable<AskedThing> {
    return this.api.saveAxis(changed).pipe(map((axis) => thingOf(as(axis))));
  }

  private saveProfile(changed: KeptProfile): Observable<AskedThing> {
    return this.api.saveProfile(changed).pipe(map((profile) => thingOf({ kind: 'change profile', profile })));
  }
}

function nameOf(asked: VocabularyAsked): string {
  switch (asked.kind) {
    case 'axis':
      return 'new axis';
    case 'value':
      return `new value of axis ${asked.axis.key}${asked.parent === null ? '' : ` below ${asked.parent}`}`;
    case 'change value':
      return `value ${asked.value.key} of axis ${asked.axis.key}`;
    case 'change axis':
      return `axis ${asked.axis.key}`;
    case 'profile':
      return asked.from ? `copy of profile ${asked.from.key}` : 'new profile';
    case 'change profile':
      return `profile ${asked.profile.key}`;
  }
}

function headingOf(asked: VocabularyAsked): string {
  switch (asked.kind) {
    case 'axis':
      return 'New axis';
    case 'value':
      return `New value of “${asked.axis.title}”`;
    case 'change value':
      return `Value “${asked.value.title}”`;
    case 'change axis':
      return `Axis “${asked.axis.title}”`;
    case 'profile':
      return 'New profile';
    case 'change profile':
      return `Profile “${asked.profile.title}”`;
  }
}

function suggestedTitle(asked: VocabularyAsked): string {
  return asked.kind === 'profile' && asked.from ? `${asked.from.title}, copy` : '';
}

function wordsOf(asked: VocabularyAsked): Words {
  const none: Words = { title: '', key: '', code: '', colour: 0, pattern: 0 };
  switch (asked.kind) {
    case 'value': {
      const count = flattenValues(asked.axis).length;
      return { ...none, colour: count % laneColours.length, pattern: count % lanePatterns };
    }
    case 'change value': {
      const { title, code, colour, pattern } = asked.value;
      return { ...none, title, code, colour, pattern };
    }
    case 'change axis':
      return { ...none, title: asked.axis.title };
    case 'change profile':
      return { ...none, title: asked.profile.title };
    default:
      return none;
  }
}

/** The thing with the revision that a save of it is made against. */
function thingOf(asked: VocabularyAsked): AskedThing {
  switch (asked.kind) {
    case 'value':
    case 'change value':
    case 'change axis':
      return { asked, revision: asked.axis.revision };
    case 'change profile':
      return { asked, revision: asked.profile.revision };
    default:
      return { asked, revision: 0 };
  }
}

/**
 * What was asked for, on top of what somebody else saved.
 * @param current the axis or profile as it is now
 * @returns null where it can not be done any more: what it hangs on is gone, or another one bears the key
 */
function nowOf(asked: VocabularyAsked, current: unknown): AskedThing | null {
  switch (asked.kind) {
    case 'value': {
      const axis = current as KeptAxis;
      const isThere = asked.parent === null || findValue(axis.values, asked.parent) !== undefined;
      return isThere ? thingOf({ ...asked, axis }) : null;
    }
    case 'change value': {
      const axis = current as KeptAxis;
      const value = findValue(axis.values, asked.value.key);
      return value ? thingOf({ ...asked, axis, value }) : null;
    }
    case 'change axis':
      return thingOf({ ...asked, axis: current as KeptAxis });
    case 'change profile':
      return thingOf({ ...asked, profile: current as KeptProfile });
    default:
      return null;
  }
}

/** How a value is shown; its code is made from the title where none is given. */
function lookOf({ title, code, colour, pattern }: Words): Omit<AxisValue, 'key' | 'values'> {
  const made = title.replace(/[^\p{L}\p{N}]/gu, '').slice(0, 2) || '?';
  return { title, code: code.trim() || made, colour, pattern };
}
