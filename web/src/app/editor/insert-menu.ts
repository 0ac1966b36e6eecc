import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  HostListener,
  inject,
  input,
  output,
  signal,
  viewChild,
  effect,
  untracked,
} from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import {
  builtInVariables,
  contentBody,
  contentSchema,
  type Component as LibraryComponent,
  type ComponentRow,
  type PlaceRow,
} from '@allomorph/core';
import type { Node as PageNode } from 'prosemirror-model';
import { InputText } from 'primeng/inputtext';
import { catchError, debounceTime, of } from 'rxjs';
import { Api, problemText } from '../shared/api';
import { kindIcons } from '../shared/kinds';
import { EditorLibrary } from './editor-library';
import { structures, type Structure } from './commands';
import { TableSizeGrid, type TableSize } from './table-size';
import { InsertPreview } from './insert-preview';
import { placesOnPage, type InsertMode, type Insertion, type PlaceOnPage } from './insertion';

interface Option {
  readonly icon: string;
  readonly title: string;
  readonly detail: string;
  /** What would be inserted, where it is a component. */
  readonly row?: ComponentRow;
  /** What its size is chosen of. */
  readonly structure?: Structure;
  readonly choose: () => void;
}

/** A table in the size that was typed behind its name; more than that is made later, row by row. */
function sizedTables(typed: string): readonly Structure[] {
  const [, name = '', first = '', second = ''] = /^(\p{L}+)\s*(\d{1,2})\s*[x×*,]\s*(\d{1,2})$/u.exec(typed) ?? [];
  const [rows, columns] = [Number(first), Number(second)];
  const table = structures.find(({ sized, title }) => sized && title.toLowerCase().startsWith(name));
  if (name === '' || !table?.sized || rows < 1 || columns < 1) return [];
  const purpose = `${rows} rows, ${columns} columns`;
  return [{ title: table.title, words: typed, purpose, command: table.sized(rows, columns) }];
}

interface Group {
  readonly title: string;
  readonly options: readonly Option[];
}

/** What the library is asked for; undefined: all kinds. */
const kindOf: Readonly<Record<InsertMode, ComponentRow['kind'] | undefined>> = {
  all: undefined,
  refer: 'topic',
  variable: 'variable',
};

/** One searchable menu for all that can be inserted: structure, components, references. */
@Component({
  selector: 'al-insert-menu',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputText, InsertPreview, TableSizeGrid],
  templateUrl: './insert-menu.html',
  styleUrl: './insert-menu.css',
})
export class InsertMenu {
  private readonly api = inject(Api);
  private readonly library = inject(EditorLibrary);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly layer = viewChild.required<ElementRef<HTMLElement>>('layer');
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');

  readonly at = input.required<{ readonly left: number; readonly top: number }>();
  /** The component being edited: it cannot be placed in itself, but its own blocks can be referred to. */
  readonly own = input.required<LibraryComponent>();
  /** Whether blocks can stand here; in phrases they cannot. */
  readonly blocks = input(true);
  readonly mode = input<InsertMode>('all');
  /** The sign that was typed to open the menu; empty: it was opened by a key or a button. */
  readonly sign = input('');
  /** The page as it stands: what can be referred to on it. */
  readonly page = input<PageNode | null>(null);
  readonly chosen = output<Insertion>();
  readonly closed = output<void>();
  /** Nothing is inserted but what was typed. */
  readonly literal = output<string>();

  protected readonly find = signal('');
  protected readonly marked = signal(0);
  protected readonly problem = signal('');
  protected readonly referTo = signal<LibraryComponent | null>(null);
  protected readonly place = computed(() => {
    const { left, top } = this.at();
    return { left: Math.max(8, Math.min(left, innerWidth - 460)), top: Math.max(8, Math.min(top, innerHeight - 420)) };
  });
  private readonly settled = toSignal(toObservable(this.find).pipe(debounceTime(120)), { initialValue: '' });
  private readonly rows = rxResource({
    params: () => ({ find: this.settled(), kind: kindOf[this.mode()], limit: 60 }),
    stream: ({ params }) => this.api.components(params).pipe(catchError(() => of({ total: 0, items: [] }))),
    defaultValue: { total: 0, items: [] },
  });

  private readonly places = rxResource({
    params: () => (this.mode() === 'variable' ? '' : this.settled().trim()),
    stream: ({ params }) =>
      params === '' ? of([]) : this.api.places(params).pipe(catchError(() => of<readonly PlaceRow[]>([]))),
    defaultValue: [],
  });
  protected readonly name = computed(() => (this.mode() === 'refer' ? 'Refer to' : 'Insert'));
  protected readonly placeholder = computed(() => {
    if (this.referTo()) return 'Find a section, figure, table or step';
    const asks: Readonly<Record<InsertMode, string>> = {
      all: 'Find a variable, snippet, topic, image, structure …',
      refer: 'Refer to a topic, section, figure, table or step …',
      variable: 'Find a variable by title or key …',
    };
    return asks[this.mode()];
  });

  private readonly groups = computed<readonly Group[]>(() => {
    const target = this.referTo();
    return (target ? this.targetGroups(target) : this.groupsOf[this.mode()]()).filter(
      (group) => group.options.length > 0,
    );
  });
  protected readonly numbered = computed(() => {
    let number = 0;
    return this.groups().map((group) => ({
      title: group.title,
      options: group.options.map((option) => ({ ...option, number: number++ })),
    }));
  });

  /** Whether what is marked is being taken: as soon as what is offered is for what was typed. */
  private readonly chooses = signal(false);
  private readonly isAnswered = computed(
    () =>
      this.referTo() !== null || (this.find() === this.settled() && !this.rows.isLoading() && !this.places.isLoading()),
  );
  /** What was typed on while the answer was awaited: it goes behind what is inserted. */
  private typedOn = '';

  /** The component that is marked, as it would read here. */
  protected readonly shown = computed(
    () => this.numbered().flatMap(({ options }) => options)[this.marked()]?.row ?? null,
  );

  /** What is marked and comes in a size. */
  protected readonly sized = computed(() => {
    const structure = this.numbered().flatMap(({ options }) => options)[this.marked()]?.structure;
    return structure?.sized ? structure : null;
  });

  constructor() {
    effect(() => {
      if (!this.chooses() || !this.isAnswered()) return;
      untracked(() => {
        const marked = this.numbered().flatMap(({ options }) => options)[this.marked()];
        if (marked) marked.choose();
        else this.giveUp();
      });
    });
    effect(() => {
      // Over all else, and placed by the window, whatever it stands in.
      this.layer().nativeElement.showPopover();
      this.box().nativeElement.focus();
    });
    effect(() => {
      const marked = this.marked();
      this.host.nativeElement.querySelector(`#insert-${marked}`)?.scrollIntoView({ block: 'nearest' });
    });
  }

  @HostListener('document:mousedown', ['$event'])
  protected outside(event: MouseEvent): void {
    if (!this.host.nativeElement.contains(event.target as Node)) this.leave();
  }

  /** What was typed from the sign on stays typed. */
  private leave(): void {
    if (this.sign() === '') this.closed.emit();
    else this.literal.emit(`${this.sign()}${this.find()}${this.typedOn}`);
  }

  protected back(): void {
    this.referTo.set(null);
    this.find.set('');
    this.marked.set(0);
  }

  protected key(event: KeyboardEvent): void {
    if (this.chooses() && event.key !== 'Escape') {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key.length === 1) this.typedOn += event.key;
      event.preventDefault();
      return;
    }
    const all = this.numbered().flatMap((group) => group.options);
    if (event.key === 'ArrowDown') this.marked.update((at) => Math.min(at + 1, all.length - 1));
    else if (event.key === 'ArrowUp') this.marked.update((at) => Math.max(at - 1, 0));
    else if (event.key === 'Enter') this.chooses.set(true);
    else if (event.key === 'Escape') {
      if (this.referTo()) this.back();
      else this.leave();
    } else if (event.key === ' ' && this.sign() !== '' && this.find() === '') this.literal.emit(`${this.sign()} `);
    else return;
    event.preventDefault();
  }

  /** Nothing is taken after all. */
  private giveUp(): void {
    this.chooses.set(false);
    this.typedOn = '';
  }

  private take(insertion: Insertion): void {
    this.chosen.emit(insertion);
    if (this.typedOn !== '') this.literal.emit(this.typedOn);
  }

  private readonly groupsOf: Readonly<Record<InsertMode, () => readonly Group[]>> = {
    all: () => this.allGroups(),
    refer: () => this.referGroups(),
    variable: () => [this.variables()],
  };

  private fits(text: string): boolean {
    const wanted = this.find().trim().toLowerCase();
    return wanted === '' || text.toLowerCase().includes(wanted);
  }

  private of(kind: ComponentRow['kind']): readonly ComponentRow[] {
    return this.rows.value().items.filter((row) => row.kind === kind && row.key !== this.own().key);
  }

  private variables(): Group {
    const builtIn = builtInVariables
      .filter((key) => this.fits(key.slice(1).replaceAll('-', ' ')))
      .map((key): Option => ({
        icon: 'pi pi-percentage',
        title: key.slice(1).replaceAll('-', ' '),
        detail: 'built in',
        choose: () => this.take({ kind: 'variable', key }),
      }));
    const offersBuiltIn = this.mode() === 'variable' || this.find().trim() !== '';
    const named = this.of('variable').map((row) => this.placeOption(row));
    return { title: 'Variables', options: [...named, ...(offersBuiltIn ? builtIn : [])] };
  }

  private allGroups(): readonly Group[] {
    const wanted = this.find().trim().toLowerCase();
    const shape = this.blocks()
      ? [...sizedTables(wanted), ...structures.filter((each) => this.fits(`${each.title} ${each.words}`))].map(
          (structure): Option => ({
            icon: 'pi pi-align-left',
            title: structure.title,
            detail: structure.purpose,
            structure,
            choose: () => this.take({ kind: 'structure', structure }),
          }),
        )
      : [];
    const components = (kind: ComponentRow['kind']): readonly Option[] =>
      this.of(kind).map((row) => this.placeOption(row));
    const refer = [
      ...this.ownReference(),
      ...(wanted === '' ? [] : this.placesHere().map((place) => this.hereOption(place))),
      ...this.named().map((row) => this.referOption(row)),
      ...this.elsewhere().map((place) => this.elsewhereOption(place)),
      ...this.telling().map((row) => this.referOption(row)),
    ];
    const library: Group[] = [
      this.variables(),
      { title: 'Snippets', options: components('snippet') },
      { title: 'Refer to', options: refer },
      { title: 'Place the content of a topic', options: this.blocks() ? components('topic') : [] },
      { title: 'Images', options: components('image') },
      { title: 'Links', options: components('link') },
    ];
    const structure: Group = { title: 'Structure', options: shape };
    if (wanted === '') {
      return [structure, ...library.map((group) => ({ ...group, options: group.options.slice(0, 5) }))];
    }
    // Whoever types the name of a structure means it; other words are looked for in the library first.
    const named =
      sizedTables(wanted).length > 0 || shape.some((option) => option.title.toLowerCase().startsWith(wanted));
    return named ? [structure, ...library] : [...library, structure];
  }

  /** What is marked, in a size that was pointed at. */
  protected takeSized(structure: Structure, { rows, columns }: TableSize): void {
    const command = structure.sized?.(rows, columns);
    if (command) this.take({ kind: 'structure', structure: { ...structure, command } });
  }

  /** One list of all that can be referred to: what is near comes first. */
  private referGroups(): readonly Group[] {
    const topic = (row: ComponentRow): Option => ({
      ...this.referOption(row),
      detail: 'the whole topic',
      choose: () => this.loaded(row.key, () => this.take({ kind: 'refer', component: row.key, target: null })),
    });
    return [
      { title: 'On this page', options: this.placesHere().map((place) => this.hereOption(place)) },
      { title: 'Topics', options: this.named().map(topic) },
      { title: 'In other topics', options: this.elsewhere().map((place) => this.elsewhereOption(place)) },
      { title: 'Topics that tell of it', options: this.telling().map(topic) },
    ];
  }

  /** The topics that have all words that are looked for in their titles; all, where nothing is looked for. */
  private named(): readonly ComponentRow[] {
    const words = this.settled()
      .split(/\s+/)
      .filter((word) => word !== '').length;
    return this.of('topic').filter(({ titleMarks }) => titleMarks.length >= words);
  }

  /** Those that have it in their texts only. */
  private telling(): readonly ComponentRow[] {
    const named = new Set(this.named());
    return this.of('topic').filter((row) => !named.has(row));
  }

  private placesHere(): readonly PlaceOnPage[] {
    const page = this.page();
    return page && this.own().kind === 'topic' ? placesOnPage(page).filter(({ title }) => this.fits(title)) : [];
  }

  private elsewhere(): readonly PlaceRow[] {
    return this.places.value().filter(({ component }) => component !== this.own().key);
  }

  private hereOption({ title, kind, id, position }: PlaceOnPage): Option {
    return {
      icon: 'pi pi-hashtag',
      title,
      detail: `${kind} on this page`,
      choose: () =>
        this.take(id === null ? { kind: 'refer-here', position } : { kind: 'refer', component: null, target: id }),
    };
  }

  private elsewhereOption({ component, id, kind, title, componentTitle }: PlaceRow): Option {
    return {
      icon: 'pi pi-hashtag',
      title,
      detail: `${kind} in “${componentTitle}”`,
      choose: () => this.loaded(component, () => this.take({ kind: 'refer', component, target: id })),
    };
  }

  private placeOption(row: ComponentRow): Option {
    return {
      icon: kindIcons[row.kind],
      title: row.title,
      detail: row.excerpt,
      row,
      choose: () => {
        if (row.kind === 'variable') {
          this.loaded(row.key, () => this.take({ kind: 'variable', key: row.key }));
        } else this.loaded(row.key, (component) => this.take({ kind: 'place', component }));
      },
    };
  }

  private ownReference(): readonly Option[] {
    return this.fits('this component') && this.own().kind === 'topic'
      ? [
          {
            icon: 'pi pi-directions',
            title: 'A place in this topic',
            detail: '',
            choose: () => this.offerTargets(this.own()),
          },
        ]
      : [];
  }

  private referOption(row: ComponentRow): Option {
    return {
      icon: 'pi pi-directions',
      title: row.title,
      detail: 'cross-reference',
      choose: () => this.loaded(row.key, (component) => this.offerTargets(component)),
    };
  }

  private offerTargets(component: LibraryComponent): void {
    this.giveUp();
    this.referTo.set(component);
    this.find.set('');
    this.marked.set(0);
  }

  private targetGroups(component: LibraryComponent): readonly Group[] {
    const isOwn = component.key === this.own().key;
    const body = contentBody(component);
    const page = isOwn ? this.page() : body ? contentSchema.nodeFromJSON(body) : null;
    const places = (page ? placesOnPage(page) : []).map((place): Option => {
      if (isOwn) return this.hereOption(place);
      const { title, kind, id } = place;
      const row = { component: component.key, componentTitle: component.title };
      return { ...this.elsewhereOption({ ...row, id: id ?? '', kind, title }), detail: kind };
    });
    const whole: Option = {
      icon: kindIcons.topic,
      title: component.title,
      detail: 'the whole topic',
      choose: () => this.take({ kind: 'refer', component: component.key, target: null }),
    };
    const options = isOwn ? places : [whole, ...places];
    return [{ title: 'Where to', options: options.filter(({ title }) => this.fits(title)) }];
  }

  private loaded(key: string, act: (component: LibraryComponent) => void): void {
    this.library.load(key).subscribe({
      next: act,
      error: (error: unknown) => {
        this.giveUp();
        this.problem.set(problemText(error));
      },
    });
  }
}
