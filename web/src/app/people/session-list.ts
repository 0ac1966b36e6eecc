import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Api, problemText } from '../shared/api';
import { TimePipe } from '../shared/wording';

/** Where somebody is signed in. */
@Component({
  selector: 'al-session-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [TimePipe],
  template: `
    @if (sessions.error(); as error) {
      <p class="problem-text">{{ text(error) }}</p>
    } @else if (sessions.hasValue()) {
      <ul>
        @for (each of sessions.value(); track each.id) {
          <li>
            <b>{{ browserOf(each.browser) }}</b>
            @if (each.isThis) {
              <span class="this">here</span>
            }
            <span class="soft"
              >{{ each.address }}, since {{ each.startedAt | alTime }}, last seen {{ each.lastSeenAt | alTime }}</span
            >
          </li>
        } @empty {
          <li class="soft">Nowhere.</li>
        }
      </ul>
    }
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0 0 1rem;
      padding: 0;
    }
    li {
      padding: 0.4rem 0;
      border-bottom: 1px solid var(--line);
    }
    .soft {
      color: var(--soft);
      display: block;
    }
    .this {
      background: var(--tint);
      padding: 0 0.5rem;
      border-radius: 999px;
    }
  `,
})
export class SessionList {
  private readonly api = inject(Api);

  /** Whose; null: one's own. */
  readonly person = input<string | null>(null);
  /** Grows when some were ended. */
  readonly revision = input(0);
  protected readonly sessions = rxResource({
    params: () => ({ person: this.person(), revision: this.revision() }),
    stream: ({ params }) => (params.person === null ? this.api.ownSessions() : this.api.sessionsOf(params.person)),
  });
  protected readonly text = problemText;

  /** What of a browser's own words tells it apart: the last that names a product, and the system. */
  protected browserOf(words: string): string {
    const system = /\(([^;)]*)/.exec(words)?.[1] ?? '';
    const product = [...words.matchAll(/(Firefox|Edg|Chrome|Safari)\/(\d+)/g)][0];
    return product ? `${product[1]} ${product[2]}, ${system}` : words.slice(0, 60) || 'No browser';
  }
}
