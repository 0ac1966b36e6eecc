import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import {
  inCaseOf,
  isVariableBody,
  textOf,
  type ChangedComponent,
  type Component as LibraryComponent,
  type ComponentPassages,
  type ReplacedText,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { debounceTime, of } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { ComponentChooser } from '../shared/component-chooser';
import { componentAddress, kindNames } from '../shared/kinds';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';

/** What came of the last change. */
interface Done extends ReplacedText {
  readonly text: string;
}

/** Names a place of a component; ids of elements have no spaces. */
const nameOf = ({ key }: ComponentPassages, at: number): string => `${key}_${at}`;

/** The values that a variable has, each once, as they read without markup. */
function valuesOf(component: LibraryComponent | undefined): readonly string[] {
  if (!component || !isVariableBody(component.body)) return [];
  const { default: otherwise, rules } = component.body;
  const values = [...(otherwise ? [otherwise] : []), ...rules.map(({ value }) => value)].map((value) => textOf(value));
  return [...new Set(values.filter((value) => value.trim().length > 1))];
}

/** Finds words in all of the library, and replaces them where it is wanted, by other words or by a variable. */
@Component({
  selector: 'al-replace',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RouterLink, Button, ComponentChooser, InputText],
  templateUrl: './replace.html',
  styleUrl: './replace.css',
})
export class ReplacePlace {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);
  protected readonly wording = inject(Wording);

  protected readonly find = addressState('find');
  protected readonly becomes = addressState('with');
  protected readonly variable = addressState('variable');
  protected readonly matchesCase = addressState('case');
  protected readonly wholeWords = addressState('whole');
  protected readonly kindNames = kindNames;
  protected readonly text = problemText;

  private readonly readings = signal(0);
  protected readonly wanted = computed(() => {
    const find = this.find.value();
    if (find.trim() === '') return null;
    const matchesCase = this.matchesCase.value() === 'yes' ? 'yes' : 'no';
    return { find, matchesCase, wholeWords: this.wholeWords.value() === 'yes' ? 'yes' : 'no' } as const;
  });
  private readonly asked = toSignal(toObservable(this.wanted).pipe(debounceTime(250)), { initialValue: null });
  protected readonly found = rxResource({
    params: () => ({ asked: this.asked(), reading: this.readings() }),
    stream: ({ params: { asked } }) => (asked ? this.api.passages(asked) : of({ items: [], more: false })),
  });
  private readonly chosenVariable = rxResource({
    params: () => this.variable.value() || undefined,
    stream: ({ params }) => this.api.component(params),
  });
  private readonly variableComponent = computed(() =>
    this.chosenVariable.hasValue() ? this.chosenVariable.value() : undefined,
  );
  protected readonly named = computed(() => this.variableComponent()?.title ?? this.variable.value());
  protected readonly values = computed(() => valuesOf(this.variableComponent()));

  protected readonly groups = computed(() =>
    (this.found.hasValue() ? this.found.value().items : [])
      // A variable cannot stand in its own value.
      .filter(({ key }) => key !== this.variable.value())
      .map((item) => ({ ...item, address: componentAddress(item.kind, item.key) })),
  );
  private readonly places = computed(() => this.groups().reduce((sum, { passages }) => sum + passages.length, 0));
  protected readonly counted = computed(() => {
    if (this.wanted() === null || !this.found.hasValue()) return '';
    const more = this.found.value().more ? ' and more' : '';
    return `${this.wording.count(this.places(), 'place', 'places')}${more}`;
  });

  /** The places that are to stay as they are. */
  private readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly chosenGroups = computed(() => this.groups().filter((group) => this.chosenIn(group) > 0));
  protected readonly chosenPlaces = computed(() => this.groups().reduce((sum, group) => sum + this.chosenIn(group), 0));
  protected readonly same = computed(() => this.variable.value() === '' && this.becomes.value() === this.find.value());
  protected readonly why = computed(() => {
    if (this.same()) return 'This would change nothing.';
    return this.variable.value() === '' && this.becomes.value() === '' ? 'The words go; nothing comes instead.' : '';
  });
  protected readonly busy = signal(false);
  protected readonly done = signal<Done | null>(null);

  constructor() {
    // Other words are other places.
    toObservable(this.wanted)
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.left.set(new Set()));
    // Whoever comes from a variable looks for what it says most often.
    toObservable(this.values)
      .pipe(takeUntilDestroyed())
      .subscribe(([first]) => {
        if (first !== undefined && this.find.value() === '') this.find.set(first);
      });
  }

  /** What stands in the list in the place of what was found. */
  protected shownAs(found: string): string {
    if (this.variable.value() !== '') return this.named();
    const becomes = this.becomes.value();
    return this.matchesCase.value() === 'yes' ? becomes : inCaseOf(this.find.value(), found, becomes);
  }

  protected readonly nameOf = nameOf;

  protected isLeft(group: ComponentPassages, at: number): boolean {
    return this.left().has(nameOf(group, at));
  }

  protected chosenIn(group: ComponentPassages): number {
    return group.passages.filter((_, at) => !this.isLeft(group, at)).length;
  }

  protected tick(group: ComponentPassages, at: number): void {
    this.leave([at], group, !this.isLeft(group, at));
  }

  protected tickAll(group: ComponentPassages): void {
    const all = this.chosenIn(group) === group.passages.length;
    this.leave([...group.passages.keys()], group, all);
  }

  private leave(places: readonly number[], group: ComponentPassages, leaves: boolean): void {
    this.left.update((before) => {
      const after = new Set(before);
      for (const at of places)
        if (leaves) after.add(nameOf(group, at));
        else after.delete(nameOf(group, at));
      return after;
    });
  }

  protected replace(): void {
    const asked = this.asked();
    if (!asked || this.busy()) return;
    const components = this.chosenGroups().map((group) => ({
      key: group.key,
      revision: group.revision,
      places: [...group.passages.keys()].filter((at) => !this.isLeft(group, at)),
    }));
    const count = this.chosenPlaces();
    const variable = this.variable.value();
    this.change(
      this.api.replaceText({
        find: asked.find,
        matchesCase: asked.matchesCase === 'yes',
        wholeWords: asked.wholeWords === 'yes',
        becomes: variable === '' ? { text: this.becomes.value() } : { variable },
        components,
      }),
      ({ changed, refused }) =>
        refused.length === 0
          ? `Replaced ${this.wording.count(count, 'place', 'places')} in ${this.wording.count(changed.length, 'component', 'components')}.`
          : `Changed ${this.wording.count(changed.length, 'component', 'components')}; ${refused.length} stayed as they were.`,
    );
  }

  protected takeBack(changed: readonly ChangedComponent[]): void {
    this.change(
      this.api.takeBack([...changed]),
      (back) => `${this.wording.count(back.changed.length, 'component', 'components')} read as before again.`,
      true,
    );
  }

  private change(
    answer: ReturnType<Api['replaceText']>,
    text: (replaced: ReplacedText) => string,
    isBack = false,
  ): void {
    this.busy.set(true);
    answer.subscribe({
      next: (replaced) => {
        this.busy.set(false);
        this.done.set({ ...replaced, text: text(replaced), ...(isBack ? { changed: [] } : {}) });
        this.readings.update((count) => count + 1);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.notices.failed(error);
      },
    });
  }
}
