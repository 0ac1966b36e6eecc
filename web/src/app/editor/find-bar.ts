import {
  type AfterViewInit,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  type ElementRef,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { InputText } from 'primeng/inputtext';
import { findNext, findPrev, replaceAll, replaceCurrent, SearchQuery, setSearchState } from 'prosemirror-search';
import type { Command, EditorState } from 'prosemirror-state';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { Wording } from '../shared/wording';
import { countPlaces, mostCounted, queryOf } from './find-in-page';

/** Finds words on the page that is open, and puts others in their place. */
@Component({
  selector: 'al-find-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText],
  templateUrl: './find-bar.html',
  styleUrl: './find-bar.css',
})
export class FindBar implements AfterViewInit {
  protected readonly lens = inject(Lens);
  private readonly notices = inject(Notices);
  private readonly wording = inject(Wording);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');

  readonly state = input.required<EditorState | null>();
  readonly editable = input(true);
  /** What is looked for at first. */
  readonly first = input('');
  /** Does a command and leaves the keyboard where it is. */
  readonly run = output<Command>();
  readonly closed = output();

  protected readonly find = signal('');
  protected readonly replace = signal('');
  protected readonly matchesCase = signal(false);
  protected readonly wholeWords = signal(false);
  protected readonly isPattern = signal(false);
  protected readonly onlyShown = signal(true);
  private readonly query = computed(() => {
    const within = this.onlyShown() ? this.lens.selector() : null;
    return queryOf({
      find: this.find(),
      replace: this.replace(),
      matchesCase: this.matchesCase(),
      wholeWords: this.wholeWords(),
      isPattern: this.isPattern(),
      within,
    });
  });
  protected readonly found = computed(() => {
    const state = this.state();
    return state && this.find() !== '' ? countPlaces(state, this.query()) : null;
  });
  protected readonly told = computed(() => {
    if (this.find() === '') return '';
    if (!this.query().valid) return 'This is no pattern.';
    const { count, at } = this.found() ?? { count: 0, at: 0 };
    if (count === 0) return 'Not on this page.';
    const all = count >= mostCounted ? `${mostCounted} or more` : String(count);
    return at > 0 ? `${at} of ${all}` : this.wording.count(count, 'place', 'places');
  });

  constructor() {
    effect(() => {
      const query = this.query();
      untracked(() => this.run.emit(searchFor(query)));
    });
    inject(DestroyRef).onDestroy(() => this.run.emit(searchFor(new SearchQuery({ search: '' }))));
  }

  ngAfterViewInit(): void {
    this.take(this.first());
  }

  /** Begins to look for some words. The keyboard is in the field at once: whatever is typed next goes there. */
  take(words: string): void {
    const field = this.field().nativeElement;
    if (words !== '') {
      this.find.set(words);
      field.value = words;
    }
    field.focus();
    field.select();
  }

  protected go(back: boolean): void {
    this.run.emit(back ? findPrev : findNext);
  }

  /** Replaces the place that is selected and goes to the next one; where none is, goes there first. */
  protected replaceOne(): void {
    this.run.emit((state, dispatch, view) => {
      if (!replaceCurrent(state, dispatch, view)) return findNext(state, dispatch, view);
      return view ? findNext(view.state, view.dispatch, view) : true;
    });
  }

  protected replaceEach(): void {
    const count = this.found()?.count ?? 0;
    if (count === 0) return;
    this.run.emit(replaceAll);
    // The button has nothing to do any more.
    this.take('');
    this.notices.done(`${this.wording.count(count, 'place was', 'places were')} replaced. Undo takes all of it back.`);
  }

  protected key(event: KeyboardEvent): void {
    if (event.key === 'Escape') this.closed.emit();
    else if (event.key === 'Enter') this.go(event.shiftKey);
    else return;
    event.preventDefault();
  }
}

const searchFor =
  (query: SearchQuery): Command =>
  (state, dispatch) => {
    dispatch?.(setSearchState(state.tr, query));
    return true;
  };
