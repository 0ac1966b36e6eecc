import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { editorKeys, wayOutKeys } from '../editor/editor-keys';
import { typedSigns } from '../editor/typed-signs';
import { outlineEdits, outlineKeys } from '../publications/outline-keys';
import { Bindings, everywhereKeys, keyText, type EverywhereKey, type KeyBinding } from '../shared/bindings';

/** All keys, from the tables by which they work. */
@Component({
  selector: 'al-key-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (group of groups(); track group.title) {
      <section>
        <h3>{{ group.title }}</h3>
        <dl>
          @for (each of group.keys; track each.key + each.title) {
            <div>
              <dt>
                <kbd>{{ text(each.key) }}</kbd>
              </dt>
              <dd>{{ each.title }}</dd>
            </div>
          }
        </dl>
      </section>
    }
  `,
  styles: `
    h3 {
      font: 600 1rem/1.2 var(--sans);
      margin: 0.9rem 0 0.4rem;
    }
    dl {
      margin: 0;
    }
    dl > div {
      display: grid;
      grid-template-columns: 8rem minmax(0, 1fr);
      gap: 0.8rem;
      padding: 0.18rem 0;
    }
    dd {
      margin: 0;
    }
  `,
})
export class KeyList {
  private readonly bindings = inject(Bindings);
  protected readonly text = keyText;
  protected readonly groups = computed<readonly { readonly title: string; readonly keys: readonly KeyBinding[] }[]>(
    () => [
      {
        title: 'Everywhere',
        keys: (Object.keys(everywhereKeys) as EverywhereKey[]).map((name) => ({
          key: this.bindings.keyFor(name),
          title: everywhereKeys[name].title,
        })),
      },
      { title: 'In the text', keys: [...Object.values(editorKeys).flat(), ...typedSigns, ...wayOutKeys] },
      {
        title: 'In an outline, on the picked entries',
        keys: [...Object.values(outlineKeys), ...Object.values(outlineEdits)],
      },
    ],
  );
}
