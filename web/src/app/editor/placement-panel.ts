import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { Node } from 'prosemirror-model';
import { Button } from 'primeng/button';
import { EditorLibrary } from './editor-library';
import { panelStyle } from './panel-style';

/** What can be said about a selected placement: follow, hold, bring up to date, take its title along. */
@Component({
  selector: 'al-placement-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'placed' },
  imports: [Button],
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
    }
  `,
  styles: [
    panelStyle,
    `
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
  /** The source is to be opened. */
  readonly opened = output<string>();
  readonly altered = output<Readonly<Record<string, unknown>>>();
  readonly ownText = output<void>();
  protected readonly source = computed(() => {
    this.library.changes();
    return this.library.get(String(this.node().attrs['component'])) ?? null;
  });
  protected readonly held = computed(() => this.node().attrs['mode'] === 'held');
}
