import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { Node } from 'prosemirror-model';
import { Button } from 'primeng/button';
import { HoldersPanel } from '../shared/holders-panel';
import { EditorLibrary } from './editor-library';
import { HeldChanges } from './held-changes';
import { panelStyle } from './panel-style';

/** What can be said about a selected placement: follow, hold, bring up to date, take its title along. */
@Component({
  selector: 'al-placement-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'placed' },
  imports: [Button, HeldChanges, HoldersPanel],
  template: `
    @if (source(); as component) {
      <p>
        <b>{{ component.title }}</b>, a {{ component.kind }} placed here,
        {{ held() ? 'held at revision ' + node().attrs['revision'] : 'live: it follows its newest revision' }}.
        <button type="button" class="plain-button" (click)="opened.emit(component.key)">Open the source</button>
      </p>
      <div class="acts">
        @if (held()) {
          @if (component.revision > node().attrs['revision']) {
            <p-button
              size="small"
              label="Bring up to revision {{ component.revision }}"
              (onClick)="altered.emit({ mode: 'held', revision: component.revision })"
            />
          }
          <p-button
            size="small"
            [outlined]="true"
            label="Follow the newest"
            (onClick)="altered.emit({ mode: 'live', revision: null })"
          />
        } @else {
          <p-button
            size="small"
            [outlined]="true"
            label="Hold at revision {{ component.revision }}"
            (onClick)="altered.emit({ mode: 'held', revision: component.revision })"
          />
        }
        @if (component.kind === 'topic' && node().type.name === 'placement') {
          <p-button
            size="small"
            [outlined]="true"
            [label]="node().attrs['withTitle'] ? 'Without its title' : 'With its title'"
            (onClick)="altered.emit({ withTitle: !node().attrs['withTitle'] })"
          />
        }
        <p-button
          size="small"
          [outlined]="true"
          label="Turn into own text"
          title="Copies the content here, where it can be written on; it no longer follows its source"
          (onClick)="ownText.emit()"
        />
      </div>
      @if (behind(); as held) {
        <details>
          <summary>What would change</summary>
          <al-held-changes [before]="held" [after]="component" />
        </details>
        <al-holders-panel [component]="component.key" [revision]="component.revision" [without]="own()" />
      }
    }
  `,
  styles: [
    panelStyle,
    `
      details {
        margin: 0.6rem 0;
      }
      summary {
        cursor: pointer;
        color: var(--accent);
        font-weight: 600;
      }
      .acts {
        display: flex;
        flex-wrap: wrap;
        gap: 0.4rem;
      }
    `,
  ],
})
export class PlacementPanel {
  private readonly library = inject(EditorLibrary);

  readonly node = input.required<Node>();
  /** The component whose page this is. */
  readonly own = input.required<string>();
  /** The source is to be opened. */
  readonly opened = output<string>();
  readonly altered = output<Readonly<Record<string, unknown>>>();
  readonly ownText = output<void>();
  protected readonly source = computed(() => {
    this.library.changes();
    return this.library.get(String(this.node().attrs['component'])) ?? null;
  });
  protected readonly held = computed(() => this.node().attrs['mode'] === 'held');
  /** What is held here while there is a newer revision. */
  protected readonly behind = computed(() => {
    const newest = this.source();
    const revision = Number(this.node().attrs['revision']);
    if (!newest || !this.held() || newest.revision <= revision) return null;
    return this.library.revision(newest.key, revision) ?? null;
  });
}
