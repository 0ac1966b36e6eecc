import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { chosenRule, plainText, type ContentNode } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { describeCondition } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { EditorLibrary } from './editor-library';
import { panelStyle } from './panel-style';

interface Case {
  readonly when: string;
  readonly value: string;
  /** Whether the lens takes the value from here. */
  readonly isTaken: boolean;
}

/** A selected variable: what it says in each case, and from which one it comes through the lens. */
@Component({
  selector: 'al-variable-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'placed' },
  imports: [RouterLink],
  template: `
    <p>
      <b>{{ title() }}</b>, {{ isBuiltIn() ? 'a built-in variable' : 'a variable' }}
      @if (through(); as value) {
        : reads “{{ value }}” through this lens.
      } @else {
        of the library.
      }
    </p>
    @if (cases(); as all) {
      <table>
        <caption class="sr-only">
          Its values
        </caption>
        @for (each of all; track $index) {
          <tr [class.taken]="each.isTaken">
            <th scope="row">{{ each.when }}</th>
            <td>
              {{ each.value || 'no value' }}
              @if (each.isTaken) {
                <span class="here">here</span>
              }
            </td>
          </tr>
        }
      </table>
    }
    <p class="acts">
      @if (cases()) {
        <button type="button" class="plain-button" (click)="opened.emit(key())">Change its values …</button>
      }
      <button type="button" class="plain-button" (click)="swapped.emit()">Swap for another …</button>
      @if (cases()) {
        <a routerLink="/variables" [queryParams]="{ key: key() }">In Variables</a>
      }
    </p>
  `,
  styles: [
    panelStyle,
    `
      table {
        width: 100%;
        border-collapse: collapse;
        font-size: 0.92rem;
        margin-bottom: 0.5rem;
      }
      th,
      td {
        text-align: left;
        vertical-align: top;
        font-weight: 400;
        border-top: 1px solid var(--line);
        padding: 0.2rem 0.4rem 0.2rem 0;
        overflow-wrap: anywhere;
      }
      th {
        color: var(--soft);
        width: 55%;
      }
      .taken {
        background: var(--tint);
      }
      .taken td {
        font-weight: 600;
      }
      .here {
        color: var(--accent);
        font-size: 0.8rem;
        margin-left: 0.4rem;
      }
      .acts {
        display: flex;
        flex-wrap: wrap;
        gap: 0.2rem 0.9rem;
      }
    `,
  ],
})
export class VariablePanel {
  private readonly library = inject(EditorLibrary);
  private readonly lens = inject(Lens);

  readonly node = input.required<Node>();
  /** Its values are to be changed. */
  readonly opened = output<string>();
  /** Another variable is to stand here. */
  readonly swapped = output<void>();

  protected readonly key = computed(() => String(this.node().attrs['key']));
  protected readonly isBuiltIn = computed(() => this.key().startsWith('@'));
  private readonly component = computed(() => {
    this.library.changes();
    return this.library.get(this.key());
  });
  protected readonly title = computed(
    () => this.component()?.title ?? this.key().replace('@', '').replaceAll('-', ' '),
  );
  protected readonly through = computed(() => {
    this.library.changes();
    return this.lens.recipe() ? this.library.variableText(this.key()) : null;
  });
  protected readonly cases = computed<readonly Case[] | null>(() => {
    const component = this.component();
    if (component?.kind !== 'variable') return null;
    const { body } = component;
    const [selector, recipe] = [this.lens.selector(), this.lens.recipe()];
    const taken =
      selector && recipe
        ? chosenRule(
            body,
            (when) => selector.holds(when),
            () => recipe.language,
          )
        : null;
    return [
      ...body.rules.map(({ when, language, value }, at) => ({
        when: [
          ...(when === null ? [] : [describeCondition(when, this.lens.vocabulary())]),
          ...(language === null ? [] : [`language ${language}`]),
        ].join('; '),
        value: this.textOf(value),
        isTaken: taken === at,
      })),
      {
        when: body.rules.length > 0 ? 'otherwise' : 'always',
        value: body.default ? this.textOf(body.default) : '',
        isTaken: taken === -1,
      },
    ];
  });

  private textOf(value: ContentNode): string {
    const named = (value.content ?? []).map((node) =>
      node.type === 'variable'
        ? { type: 'text' as const, text: `[${this.library.titleOf(String(node.attrs?.['key']))}]` }
        : node,
    );
    return plainText(named);
  }
}
