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
} from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import {
  builtInVariables,
  childrenOf,
  contentBody,
  textOf,
  walk,
  type Component as LibraryComponent,
  type ComponentRow,
} from '@allomorph/core';
import { InputText } from 'primeng/inputtext';
import { catchError, debounceTime, of } from 'rxjs';
import { Api, problemText } from '../shared/api';
import { kindIcons } from '../shared/kinds';
import { EditorLibrary } from './editor-library';
import { structures, type Structure } from './commands';

/** What the menu was asked to insert. */
export type Insertion =
  | { readonly kind: 'structure'; readonly structure: Structure }
  | { readonly kind: 'place'; readonly component: LibraryComponent }
  | { readonly kind: 'variable'; readonly key: string }
  | { readonly kind: 'refer'; readonly component: string | null; readonly target: string | null };

interface Option {
  readonly icon: string;
  readonly title: string;
  readonly detail: string;
  readonly choose: () => void;
}

interface Group {
  readonly title: string;
  readonly options: readonly Option[];
}

/** One searchable menu for all that can be inserted: structure, components, references. */
@Component({
  selector: 'al-insert-menu',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputText],
  template: `
    <div class="menu" role="dialog" aria-label="Insert" [style.left.px]="place().left" [style.top.px]="place().top">
      @if (referTo(); as component) {
        <p class="step">
          <button type="button" class="plain-button" (click)="back()"><i class="pi pi-arrow-left"></i></button>
          Refer to “{{ component.title }}”
        </p>
      }
      <input
        #box
        pInputText
        type="text"
        role="combobox"
        aria-expanded="true"
        aria-controls="insert-options"
        aria-label="Find something to insert"
        autocomplete="off"
        [attr.aria-activedescendant]="'insert-' + marked()"
        [placeholder]="
          referTo() ? 'Find a section, figure or table' : 'Find a variable, snippet, topic, image, structure …'
        "
        [value]="find()"
        (input)="find.set(box.value); marked.set(0)"
        (keydown)="key($event)"
      />
      @if (problem(); as text) {
        <p class="problem-text">{{ text }}</p>
      }
      <div class="options" id="insert-options" role="listbox" aria-label="What can be inserted">
        @for (group of numbered(); track group.title) {
          <div role="group" [attr.aria-label]="group.title">
            <div class="group" aria-hidden="true">{{ group.title }}</div>
            @for (option of group.options; track option.number) {
              <button
                type="button"
                role="option"
                tabindex="-1"
                [id]="'insert-' + option.number"
                [class.marked]="option.number === marked()"
                [attr.aria-selected]="option.number === marked()"
                (mousedown)="$event.preventDefault()"
                (click)="option.choose()"
              >
                <i [class]="option.icon" aria-hidden="true"></i><b>{{ option.title }}</b>
                <span>{{ option.detail }}</span>
              </button>
            }
          </div>
        } @empty {
          <p class="group">Nothing fits “{{ find() }}”.</p>
        }
      </div>
    </div>
  `,
  styles: `
    .menu {
      position: fixed;
      z-index: 50;
      width: 27rem;
      background: var(--sheet);
      border: 1px solid var(--accent);
      border-radius: 4px;
      box-shadow: 0 8px 30px #0003;
      padding: 0.5rem;
    }
    .menu input {
      width: 100%;
    }
    .step {
      margin: 0.1rem 0 0.4rem;
      font-weight: 600;
    }
    .options {
      max-height: 20rem;
      overflow: auto;
      margin-top: 0.4rem;
    }
    .group {
      color: var(--soft);
      font-size: 0.8rem;
      font-weight: 600;
      padding: 0.4rem 0.4rem 0.1rem;
    }
    .options button {
      display: flex;
      gap: 0.5rem;
      align-items: baseline;
      width: 100%;
      border: 0;
      background: none;
      color: inherit;
      font: inherit;
      text-align: left;
      padding: 0.26rem 0.4rem;
      border-radius: 3px;
      cursor: pointer;
    }
    .options button.marked {
      background: var(--tint);
      outline: 1.5px solid var(--accent);
    }
    .options b {
      font-weight: 600;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
      flex: none;
      max-width: 60%;
    }
    .options span {
      color: var(--soft);
      font-size: 0.86rem;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .options i {
      color: var(--accent);
      font-size: 0.85rem;
    }
  `,
})
export class InsertMenu {
  private readonly api = inject(Api);
  private readonly library = inject(EditorLibrary);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');

  readonly at = input.required<{ readonly left: number; readonly top: number }>();
  /** The component being edited: it cannot be placed in itself, but its own blocks can be referred to. */
  readonly own = input.required<LibraryComponent>();
  /** Whether blocks can stand here; in phrases they cannot. */
  readonly blocks = input(true);
  readonly chosen = output<Insertion>();
  readonly closed = output<void>();

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
    params: () => this.settled(),
    stream: ({ params }) =>
      this.api.components({ find: params, limit: 60 }).pipe(catchError(() => of({ total: 0, items: [] }))),
    defaultValue: { total: 0, items: [] },
  });

  private readonly groups = computed<readonly Group[]>(() => {
    const target = this.referTo();
    return (target ? this.targetGroups(target) : this.mainGroups()).filter((group) => group.options.length > 0);
  });
  protected readonly numbered = computed(() => {
    let number = 0;
    return this.groups().map((group) => ({
      title: group.title,
      options: group.options.map((option) => ({ ...option, number: number++ })),
    }));
  });

  constructor() {
    effect(() => this.box().nativeElement.focus());
    effect(() => {
      const marked = this.marked();
      this.host.nativeElement.querySelector(`#insert-${marked}`)?.scrollIntoView({ block: 'nearest' });
    });
  }

  @HostListener('document:mousedown', ['$event'])
  protected outside(event: MouseEvent): void {
    if (!this.host.nativeElement.contains(event.target as Node)) this.closed.emit();
  }

  protected back(): void {
    this.referTo.set(null);
    this.find.set('');
    this.marked.set(0);
  }

  protected key(event: KeyboardEvent): void {
    const all = this.numbered().flatMap((group) => group.options);
    if (event.key === 'ArrowDown') this.marked.update((at) => Math.min(at + 1, all.length - 1));
    else if (event.key === 'ArrowUp') this.marked.update((at) => Math.max(at - 1, 0));
    else if (event.key === 'Enter') all[this.marked()]?.choose();
    else if (event.key === 'Escape') {
      if (this.referTo()) this.back();
      else this.closed.emit();
    } else return;
    event.preventDefault();
  }

  private mainGroups(): readonly Group[] {
    const wanted = this.find().trim().toLowerCase();
    const fits = (text: string): boolean => wanted === '' || text.toLowerCase().includes(wanted);
    const shape = this.blocks()
      ? structures
          .filter((each) => fits(`${each.title} ${each.words}`))
          .map((structure): Option => ({
            icon: 'pi pi-align-left',
            title: structure.title,
            detail: '',
            choose: () => this.chosen.emit({ kind: 'structure', structure }),
          }))
      : [];
    const rows = this.rows.value().items.filter((row) => row.key !== this.own().key);
    const of = (kind: ComponentRow['kind']): readonly ComponentRow[] => rows.filter((row) => row.kind === kind);
    const builtIn = builtInVariables
      .filter((key) => fits(key.slice(1).replaceAll('-', ' ')))
      .map((key): Option => ({
        icon: 'pi pi-percentage',
        title: key.slice(1).replaceAll('-', ' '),
        detail: 'built in',
        choose: () => this.chosen.emit({ kind: 'variable', key }),
      }));
    const components = (kind: ComponentRow['kind']): readonly Option[] => of(kind).map((row) => this.placeOption(row));
    const library: Group[] = [
      { title: 'Variables', options: [...components('variable'), ...(wanted === '' ? [] : builtIn)] },
      { title: 'Snippets', options: components('snippet') },
      { title: 'Refer to', options: [...this.ownReference(fits), ...of('topic').map((row) => this.referOption(row))] },
      { title: 'Place the content of a topic', options: this.blocks() ? components('topic') : [] },
      { title: 'Images', options: components('image') },
      { title: 'Links', options: components('link') },
    ];
    const structure: Group = { title: 'Structure', options: wanted === '' ? shape.slice(0, 8) : shape };
    if (wanted === '') {
      return [structure, ...library.map((group) => ({ ...group, options: group.options.slice(0, 5) }))];
    }
    // Whoever types the name of a structure means it; other words are looked for in the library first.
    const named = shape.some((option) => option.title.toLowerCase().startsWith(wanted));
    return named ? [structure, ...library] : [...library, structure];
  }

  private placeOption(row: ComponentRow): Option {
    return {
      icon: kindIcons[row.kind],
      title: row.title,
      detail: row.excerpt,
      choose: () => {
        if (row.kind === 'variable') {
          this.loaded(row.key, () => this.chosen.emit({ kind: 'variable', key: row.key }));
        } else this.loaded(row.key, (component) => this.chosen.emit({ kind: 'place', component }));
      },
    };
  }

  private ownReference(fits: (text: string) => boolean): readonly Option[] {
    return fits('this component') && this.own().kind === 'topic'
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
    this.referTo.set(component);
    this.find.set('');
    this.marked.set(0);
  }

  private targetGroups(component: LibraryComponent): readonly Group[] {
    const own = component.key === this.own().key;
    const refer = (target: string | null): (() => void) => {
      return () => this.chosen.emit({ kind: 'refer', component: own ? null : component.key, target });
    };
    const options: Option[] = own
      ? []
      : [{ icon: kindIcons.topic, title: component.title, detail: 'the whole topic', choose: refer(null) }];
    const body = contentBody(component);
    if (body) {
      walk(body, (node) => {
        const id = node.attrs?.['id'];
        if (typeof id !== 'string' || !['section', 'figure', 'table', 'example'].includes(node.type)) return;
        const title = childrenOf(node).find((child) => child.type === 'title' || child.type === 'caption');
        if (!title) return;
        options.push({
          icon: 'pi pi-hashtag',
          title: textOf(title) || node.type,
          detail: node.type,
          choose: refer(id),
        });
      });
    }
    const wanted = this.find().trim().toLowerCase();
    return [{ title: 'Where to', options: options.filter((option) => option.title.toLowerCase().includes(wanted)) }];
  }

  private loaded(key: string, act: (component: LibraryComponent) => void): void {
    this.library.load(key).subscribe({
      next: act,
      error: (error: unknown) => this.problem.set(problemText(error)),
    });
  }
}
