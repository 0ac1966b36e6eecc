import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { matterParts, type MatterPart, type Setting, type SettingAnswer, type SettingValue } from '@allomorph/core';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { Textarea } from 'primeng/textarea';
import { ToggleSwitch } from 'primeng/toggleswitch';
import { ComponentChooser } from '../shared/component-chooser';
import { ComponentTitles } from '../shared/component-titles';

/** A family of fonts to choose. */
export interface FamilyChoice {
  readonly key: string;
  readonly title: string;
}

/** One setting of a design: its value, whose word it is, and the way back to what it would take from others. */
@Component({
  selector: 'al-setting-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, ComponentChooser, InputText, Select, Textarea, ToggleSwitch],
  host: { '[class.own]': 'isOwn()' },
  templateUrl: './setting-row.html',
  styleUrl: './setting-row.css',
})
export class SettingRow {
  private readonly titles = inject(ComponentTitles);

  readonly setting = input.required<Setting>();
  /** The value in force. */
  readonly answer = input.required<SettingAnswer>();
  /** Whether the design says it itself. */
  readonly isOwn = input.required<boolean>();
  /** Whose word it would be otherwise. */
  readonly otherwise = input.required<string>();
  readonly disabled = input(false);
  readonly families = input<readonly FamilyChoice[]>([]);
  readonly changed = output<SettingValue>();
  readonly takenBack = output();

  protected readonly id = computed(() => `setting-${this.setting().path.replaceAll('.', '-')}`);
  protected readonly text = computed(() => String(this.answer().value));
  protected readonly isOn = computed(() => this.answer().value === true);
  protected readonly lists = computed(() => (this.answer().value as readonly MatterPart[]).slice());
  protected readonly others = computed(() => matterParts.filter((list) => !this.lists().includes(list)));
  protected readonly chosen = computed(() => this.titles.of(this.text()));
  protected readonly listTitles: Readonly<Record<MatterPart, string>> = {
    contents: 'Contents',
    figures: 'Figures',
    tables: 'Tables',
    examples: 'Examples',
    glossary: 'Glossary',
    index: 'Index',
    topics: 'Topics of its own',
  };

  /** A number as far as it is one; while it is being typed it need not be. */
  protected setNumber(event: Event): void {
    const setting = this.setting();
    const field = event.target as HTMLInputElement;
    const value = field.valueAsNumber;
    if (setting.kind !== 'number' || Number.isNaN(value)) return;
    const within = Math.min(setting.most, Math.max(setting.least, value));
    if (within !== value) field.valueAsNumber = within;
    this.changed.emit(within);
  }

  protected move(list: MatterPart, by: -1 | 1): void {
    const lists = this.lists();
    const at = lists.indexOf(list);
    const to = at + by;
    if (to < 0 || to >= lists.length) return;
    lists.splice(at, 1);
    lists.splice(to, 0, list);
    this.changed.emit(lists);
  }

  protected without(list: MatterPart): void {
    this.changed.emit(this.lists().filter((each) => each !== list));
  }

  protected add(list: MatterPart | null): void {
    if (list) this.changed.emit([...this.lists(), list]);
  }
}
