import { DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { Use } from '@allomorph/core';
import { Api, problemText } from './api';
import { componentAddress, kindIcons } from './kinds';

interface ShownUse {
  readonly title: string;
  readonly icon: string;
  readonly commands: readonly unknown[];
  readonly query: Readonly<Record<string, string>>;
  readonly how: string;
}

/** Every place that refers to a component, direct or through others; each leads there. */
@Component({
  selector: 'al-uses-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DecimalPipe, RouterLink],
  template: `
    @if (uses.error(); as error) {
      <p class="problem-text">{{ text(error) }}</p>
    } @else if (uses.hasValue()) {
      <h3>
        Directly <span class="count">{{ uses.value().directTotal | number }}</span>
      </h3>
      <ul class="direct">
        @for (use of direct(); track $index) {
          <li>
            <i [class]="use.icon" aria-hidden="true"></i>
            <a [routerLink]="use.commands" [queryParams]="use.query">{{ use.title }}</a>
            <span class="how">{{ use.how }}</span>
          </li>
        } @empty {
          <li class="how">Nothing refers to it yet.</li>
        }
      </ul>
      @if (uses.value().directTotal > direct().length) {
        <p class="how">These are the first {{ direct().length }}.</p>
      }
      @if (further().length > 0) {
        <h3>
          Through others <span class="count">{{ uses.value().furtherTotal | number }}</span>
        </h3>
        <ul class="further">
          @for (use of further(); track $index) {
            <li>
              <i [class]="use.icon" aria-hidden="true"></i>
              <a [routerLink]="use.commands" [queryParams]="use.query">{{ use.title }}</a>
              <span class="how">{{ use.how }}</span>
            </li>
          }
        </ul>
        @if (uses.value().furtherTotal > further().length) {
          <p class="how">These are the nearest {{ further().length }}.</p>
        }
      }
    }
  `,
  styles: `
    h3 {
      font: 600 0.95rem/1.2 var(--sans);
      margin: 0.4rem 0;
    }
    .count {
      color: var(--soft);
      font-weight: 500;
    }
    ul {
      list-style: none;
      margin: 0 0 0.9rem;
      padding: 0;
    }
    li {
      padding: 0.22rem 0;
      border-bottom: 1px solid var(--line);
    }
    i {
      color: var(--soft);
      font-size: 0.85rem;
      margin-right: 0.3rem;
    }
    a {
      color: var(--accent);
      font-weight: 600;
    }
    .how {
      color: var(--soft);
      font-size: 0.88rem;
      margin-left: 0.3rem;
    }
  `,
})
export class UsesPanel {
  private readonly api = inject(Api);

  readonly component = input.required<string>();
  /** A change of this number reads the uses again. */
  readonly revision = input(0);

  protected readonly uses = rxResource({
    params: () => ({ key: this.component(), revision: this.revision() }),
    stream: ({ params }) => this.api.uses(params.key),
  });
  private readonly shown = computed(() => (this.uses.hasValue() ? this.uses.value() : null));
  protected readonly direct = computed(() => (this.shown()?.direct ?? []).map(showUse));
  protected readonly further = computed(() => (this.shown()?.further ?? []).map(showUse));
  protected readonly text = problemText;
}

function showUse(use: Use): ShownUse {
  const how = [
    use.kind,
    use.held === null ? '' : `held at revision ${use.held}`,
    use.through.length === 0 ? '' : `through ${use.through.map((each) => `“${each.title}”`).join(' › ')}`,
  ].filter((part) => part !== '');
  if (use.sourceKind === 'publication') {
    return {
      title: use.title,
      icon: 'pi pi-book',
      commands: ['/publications', use.source],
      query: use.place === null ? {} : { entry: use.place },
      how: how.join(', '),
    };
  }
  const kind = use.componentKind ?? 'topic';
  const { commands, query } = componentAddress(kind, use.source);
  return {
    title: use.title,
    icon: kindIcons[kind],
    commands,
    query: { ...query, ...(use.place === null || kind === 'variable' ? {} : { block: use.place }) },
    how: how.join(', '),
  };
}
