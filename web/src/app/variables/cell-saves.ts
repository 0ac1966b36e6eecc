import { DestroyRef, inject } from '@angular/core';
import {
  componentFrom,
  sameJson,
  valueInCase,
  withValueInCase,
  type Component as LibraryComponent,
  type ContentNode,
  type Revised,
  type StoredVariant,
  type VariableBody,
  type VariableCase,
  type VariantRecipe,
} from '@allomorph/core';
import type { Observable } from 'rxjs';
import { Api } from '../shared/api';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { saveChange } from '../shared/save-change';

/** A column: the default, a case, or a variant that may say another value. */
export interface Column {
  readonly id: string;
  readonly title: string;
  /** The condition that its head shows. */
  readonly when: string | null;
  readonly of: 'default' | VariableCase | StoredVariant;
}

/** Whether a column is that of a variant. */
export const isVariant = (of: Column['of']): of is StoredVariant => of !== 'default' && 'publication' in of;

/** The cell that something is written into, with what it is a cell of as that was when it was opened. */
export interface CellPlace {
  readonly component: LibraryComponent;
  readonly column: Column;
}

/**
 * Saves what is written into cells of the grid, each by itself: neither other cells of the row nor what others save keep it
 * waiting, and nothing is written over. Needs a place to inject from.
 */
export class CellSaves {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly notices = inject(Notices);
  private readonly place = inject(DestroyRef);
  /** What was saved here, by its id: the next cell may be opened before it is read again. */
  private readonly saves = new Map<string, Revised>();

  /**
   * @param say a value as people read it
   * @param saved called when a variable was saved, while the grid is there
   */
  constructor(
    private readonly say: (value: ContentNode) => string,
    private readonly saved: () => void,
  ) {}

  /** A cell as it is by now, though it may not have been read again since it was saved here. */
  newest({ component, column }: CellPlace): CellPlace {
    const { of } = column;
    return {
      component: this.latest(component.key, component),
      column: isVariant(of) ? { ...column, of: this.latest(of.id, of) } : column,
    };
  }

  /** @param value null: it says what the wider case, the default or the variable says */
  put(cell: CellPlace, value: ContentNode | null): void {
    const { of } = cell.column;
    if (isVariant(of)) this.putInVariant(cell, of, value);
    else this.putInVariable(cell, of, value);
  }

  private putInVariable(cell: CellPlace, of: 'default' | VariableCase, value: ContentNode | null): void {
    const { component } = cell;
    const { key } = component;
    const say = (current: LibraryComponent): LibraryComponent => {
      this.refuseOther(cell, value, ownValue(component, of), ownValue(current, of));
      const body = current.body as VariableBody;
      const said = of === 'default' ? { ...body, default: value } : withValueInCase(body, of, value);
      return componentFrom({ ...current, body: said });
    };
    const request = saveChange(component, say, ({ revision: base, title, body }) =>
      this.api.saveComponent(key, { base, title, body }),
    );
    this.follow(request, key, ({ revision }) => {
      this.tellSaved();
      this.notices.undoable(`${nameOf(cell)}: saved.`, () =>
        this.takeBack({ key, before: revision - 1, after: revision }),
      );
    });
  }

  private putInVariant(cell: CellPlace, variant: StoredVariant, value: ContentNode | null): void {
    const { key } = cell.component;
    const say = (current: StoredVariant): StoredVariant => {
      this.refuseOther(cell, value, variant.values[key] ?? null, current.values[key] ?? null);
      const rest = Object.fromEntries(Object.entries(current.values).filter(([each]) => each !== key));
      return { ...current, values: value ? { ...rest, [key]: value } : rest };
    };
    const request = saveChange(variant, say, (changed) =>
      this.api.saveVariant(changed.id, changed.revision, recipeOf(changed)),
    );
    this.follow(request, variant.id, () => {
      this.lens.refresh().subscribe({ error: (error: unknown) => this.notices.failed(error) });
      this.notices.done(`${nameOf(cell)}: saved.`);
    });
  }

  /** @throws Error where somebody else has said something else in the same cell meanwhile; what was written stands in it */
  private refuseOther(
    cell: CellPlace,
    written: ContentNode | null,
    before: ContentNode | null,
    now: ContentNode | null,
  ): void {
    if (sameJson(before, now)) return;
    const words = (value: ContentNode | null): string => (value ? `“${this.say(value)}”` : 'nothing of its own');
    throw new Error(
      `${nameOf(cell)}: somebody else said ${words(now)} here meanwhile. What you wrote is not saved: ${words(written)}.`,
    );
  }

  private follow<Saved extends Revised>(request: Observable<Saved>, id: string, done: (saved: Saved) => void): void {
    request.subscribe({
      next: (saved) => {
        this.saves.set(id, saved);
        done(saved);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  private latest<Kept extends Revised>(id: string, read: Kept): Kept {
    const saved = this.saves.get(id) as Kept | undefined;
    return saved && saved.revision > read.revision ? saved : read;
  }

  private takeBack(change: { readonly key: string; readonly before: number; readonly after: number }): void {
    this.api.takeBack([change]).subscribe({
      next: ({ refused }) => {
        this.tellSaved();
        if (refused[0]) this.notices.failed(new Error(refused[0].why));
        else this.notices.done('Taken back.');
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  private tellSaved(): void {
    if (!this.place.destroyed) this.saved();
  }
}

const nameOf = ({ component, column }: CellPlace): string => `“${component.title}”, ${column.title}`;

/** What a variable says of a case itself, not by a wider one; null: nothing. */
function ownValue({ body }: LibraryComponent, of: 'default' | VariableCase): ContentNode | null {
  const said = body as VariableBody;
  if (of === 'default') return said.default;
  const { value, from } = valueInCase(said, of);
  return from === 'own' ? value : null;
}

/** What of a variant is its recipe. */
function recipeOf(variant: StoredVariant): VariantRecipe {
  const { title, profile, language, design, formats, leaveOutEmpty, stopsAt, values } = variant;
  return { title, profile, language, design, formats, leaveOutEmpty, stopsAt, values };
}
