import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import {
  duplicateBody,
  isVariableBody,
  plainText,
  type Component as LibraryComponent,
  type ComponentList,
  type ComponentRow,
  type ImageBody,
  type LinkBody,
  type NewComponent,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { Splitter } from 'primeng/splitter';
import { TableModule } from 'primeng/table';
import { debounceTime, tap } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { componentAddress, kindIcons, kindNames } from '../shared/kinds';
import { MarkedText } from '../shared/marked-text';
import { LaneChips } from '../shared/lane-chips';
import { LazyRows } from '../shared/lazy-rows';
import { Lens } from '../shared/lens';
import { imageAddress } from '../shared/file-addresses';
import { Notices } from '../shared/notices';
import { ReadingView } from '../shared/reading-view';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { SidePane } from '../shared/side-pane';
import { UsesPanel } from '../shared/uses-panel';
import { Viewport } from '../shared/viewport';
import { TimePipe, Wording } from '../shared/wording';
import { dragComponents } from '../shared/dragged-components';
import { KeyDialog } from '../shared/key-dialog';
import { ChosenBar } from './chosen-bar';
import { ChosenRows, mostChosen } from './chosen-rows';
import { collectionText } from './collection-rows';
import { CollectionTree } from './collection-tree';
import { FilterBar } from './filter-bar';
import { LibraryFilter } from './library-filter';
import { NewComponentDialog } from './new-component';

const treeName = 'allomorph.collections';

/** Everything reusable: find it, see how it reads and where it is used, open or delete it. */
@Component({
  selector: 'al-library',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    RouterLink,
    Button,
    ChosenBar,
    CollectionTree,
    KeyDialog,
    Splitter,
    TableModule,
    FilterBar,
    LaneChips,
    MarkedText,
    NewComponentDialog,
    SidePane,
    TimePipe,
    ReadingView,
    UsesPanel,
  ],
  templateUrl: './library.html',
  styleUrl: './library.css',
})
export class LibraryPlace {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly router = inject(Router);
  private readonly deletion = inject(Deletion);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);

  protected readonly names = kindNames;
  protected readonly icons = kindIcons;
  protected readonly viewport = inject(Viewport);
  protected readonly wording = inject(Wording);
  protected readonly filter = new LibraryFilter();
  /** The key of the component in the preview. */
  protected readonly chosen = addressState('chosen');
  protected readonly previewOpen = signal(false);
  protected readonly selected = computed(
    () => this.list.rows().find((row) => row?.key === this.chosen.value()) ?? null,
  );
  protected readonly usesRead = signal(0);
  protected readonly newOpen = signal(false);
  protected readonly keyOpen = signal(false);
  /** Whether the tree of collections stands beside the list. */
  protected readonly tree = linkedSignal<boolean, boolean>({
    source: () => this.filter.collection.value() !== '',
    computation: (isNarrowed, before) => isNarrowed || (before?.value ?? localStorage.getItem(treeName) === 'yes'),
  });
  protected readonly collectionText = collectionText;
  protected readonly text = problemText;
  /** What was looked for instead of words that are nowhere. */
  protected readonly mended = signal<ComponentList['mended']>([]);
  protected readonly list = new LazyRows(this.filter.settled, (filter, offset, limit) =>
    this.api.components({ ...filter, offset, limit }).pipe(tap(({ mended }) => this.mended.set(mended))),
  );
  /** What is chosen to do something with all of it. */
  protected readonly many = new ChosenRows(this.list.rows);
  protected readonly closure = rxResource({
    params: () => {
      const key = this.chosen.value();
      return key === '' ? undefined : { key, revision: this.selected()?.revision };
    },
    stream: ({ params }) => this.api.closure(params.key),
  });

  constructor() {
    this.lens.hidden.set(null);
    inject(ServerEvents)
      .of('component', 'missed')
      .pipe(debounceTime(400), takeUntilDestroyed())
      .subscribe(() => {
        this.list.again();
        this.usesRead.update((count) => count + 1);
      });
  }

  protected showTree(on: boolean): void {
    this.tree.set(on);
    localStorage.setItem(treeName, on ? 'yes' : 'no');
  }

  /** What is chosen is dragged together. */
  protected dragBegins(event: DragEvent, row: ComponentRow): void {
    const chosen = this.list.rows().filter((each) => each !== undefined && this.many.has(each.key));
    dragComponents(event, this.many.has(row.key) ? (chosen as ComponentRow[]) : [row]);
  }

  protected rekeyed({ key }: LibraryComponent): void {
    this.chosen.set(key);
    this.list.again();
  }

  protected asRow(row: unknown): ComponentRow {
    return row as ComponentRow;
  }

  protected address(row: Pick<ComponentRow, 'kind' | 'key'>): ReturnType<typeof componentAddress> {
    return componentAddress(row.kind, row.key);
  }

  protected image(component: LibraryComponent): { src: string; alt: string } {
    const { file, alt } = component.body as ImageBody;
    return { src: imageAddress(file), alt };
  }

  protected link(component: LibraryComponent): LinkBody {
    return component.body as LinkBody;
  }

  protected valueOf(component: LibraryComponent): string {
    return isVariableBody(component.body) && component.body.default ? plainText([component.body.default]) : '';
  }

  protected select(row: ComponentRow | null): void {
    if (!row) return;
    this.chosen.set(row.key, true);
    this.previewOpen.set(true);
  }

  protected openRow(row: ComponentRow): void {
    const { commands, query } = this.address(row);
    void this.router.navigate([...commands], { queryParams: query ?? {} });
  }

  protected open(component: LibraryComponent): void {
    const { commands, query } = componentAddress(component.kind, component.key);
    void this.router.navigate([...commands], { queryParams: query ?? {} });
  }

  protected chooseAll(): void {
    this.api.components({ ...this.filter.settled(), offset: 0, limit: mostChosen }).subscribe({
      next: ({ items }) => this.many.choose(items),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  /** Makes a new component of one, and opens it to be named and changed. */
  protected duplicate(component: LibraryComponent): void {
    const { kind, labels } = component;
    const title = `${component.title.slice(0, 290)} (copy)`;
    const made = { kind, title, body: duplicateBody(component, title), ...(labels ? { labels } : {}) };
    this.api.createComponent(made as NewComponent).subscribe({
      next: (copy) => this.open(copy),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected remove(row: { readonly key: string; readonly title: string }): void {
    const done = (): void => {
      this.chosen.set('');
      this.previewOpen.set(false);
      this.list.again();
    };
    this.deletion.component(row, done, () => this.list.again());
  }
}
