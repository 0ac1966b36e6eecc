import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import {
  answerOf,
  faultOf,
  freeKey,
  keyFromTitle,
  plainDesign,
  settingGroups,
  settingOf,
  settings,
  stampSettings,
  shippedFamilies,
  wayOf,
  type DesignSettings,
  type ListedDesign,
  type Setting,
  type SettingAnswer,
  type SettingGroup,
  type SettingValue,
  type StoredDesign,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Menu } from 'primeng/menu';
import { Select } from 'primeng/select';
import type { MenuItem } from 'primeng/api';
import { addressState } from '../shared/address-state';
import { Api } from '../shared/api';
import { Bindings } from '../shared/bindings';
import { ComponentTitles } from '../shared/component-titles';
import { Deletion } from '../shared/deletion';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { latest } from '../shared/latest';
import { Lens } from '../shared/lens';
import { titleOfStamp } from '../shared/lanes';
import { Notices } from '../shared/notices';
import { Sending } from '../shared/sending';
import { Session } from '../shared/session';
import { SidePane } from '../shared/side-pane';
import type { HoldsWork } from '../shared/unsaved.guard';
import { Viewport } from '../shared/viewport';
import { designFile, readDesignFile } from './design-file';
import {
  derivedFrom,
  fromPart,
  partsOf,
  settingsOf,
  titleOf,
  titlePart,
  withParts,
  type DesignParts,
} from './design-parts';
import { FontsDialog } from './fonts-dialog';
import { LivePage } from './live-page';
import { SettingRow, type FamilyChoice } from './setting-row';

/** A setting as the form shows it. */
interface ShownSetting {
  readonly setting: Setting;
  readonly name: string;
  readonly answer: SettingAnswer;
  readonly isOwn: boolean;
  readonly otherwise: string;
}

const groupTitles: Readonly<Record<SettingGroup, string>> = {
  paper: 'Paper',
  type: 'Type',
  cover: 'Cover',
  heads: 'Heads and feet',
  numbers: 'Numbers',
  lists: 'Lists',
  blocks: 'Blocks',
  stamps: 'Stamps',
  web: 'Web',
};
const familyTitles: Readonly<Record<string, string>> = {
  serif: 'Source Serif',
  sans: 'Source Sans',
  mono: 'JetBrains Mono',
};

/** Designs: how deliverables look and count. A form, and beside it the first pages as the design makes them. */
@Component({
  selector: 'al-design',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FormsModule,
    Button,
    Dialog,
    EditingBands,
    RouterLink,
    FontsDialog,
    InputText,
    LivePage,
    Menu,
    Select,
    SettingRow,
    SidePane,
  ],
  templateUrl: './design.html',
  styleUrl: './design.css',
})
export class DesignPlace implements HoldsWork {
  private readonly api = inject(Api);
  protected readonly lens = inject(Lens);
  private readonly notices = inject(Notices);
  private readonly deletion = inject(Deletion);
  private readonly bindings = inject(Bindings);
  protected readonly session = inject(Session);
  protected readonly viewport = inject(Viewport);

  protected readonly key = addressState('design');
  protected readonly part = addressState('part', 'paper');
  protected readonly language = addressState('language');
  protected readonly findText = signal('');
  protected readonly asked = signal<'derive' | 'import' | null>(null);
  protected readonly fontsOpen = signal(false);
  protected readonly liveOpen = signal(false);
  protected readonly sending = new Sending(this.asked);
  protected newTitle = '';
  private imported: DesignSettings = {};

  protected readonly designs = computed(() => this.lens.variation().designs);
  protected readonly design = computed(
    () => this.designs().find(({ key }) => key === this.key.value()) ?? this.designs()[0] ?? null,
  );
  protected readonly editing = inject(Edits).of<ListedDesign, DesignParts>({
    nameOf: ({ key }) => `design ${key}`,
    titleOf: ({ title }) => title,
    partsOf,
    save: (from, parts) => this.api.saveDesign(withParts(from, parts)),
  });
  protected readonly partNames = computed<Record<string, string>>(() => {
    const names = Object.keys(this.parts()).flatMap((name): [string, string][] => {
      const found = settingOf(name);
      return found ? [[name, `“${found.setting.under}, ${found.setting.title}”`]] : [];
    });
    return { ...Object.fromEntries(names), [titlePart]: 'the title', [fromPart]: 'what it derives from' };
  });
  protected readonly parts = computed<DesignParts>(() => this.editing.parts() ?? {});
  protected readonly mayChange = computed(() => this.session.mayKeep() && this.design()?.isShipped === false);
  protected readonly title = computed(() => titleOf(this.parts()));
  protected readonly from = computed(() => derivedFrom(this.parts()));
  /** The design as it stands in the form. */
  protected readonly made = computed<StoredDesign>(() => ({
    key: this.design()?.key ?? '',
    title: this.title(),
    from: this.from(),
    settings: settingsOf(this.parts()),
  }));
  private readonly way = computed(() => [this.made(), ...wayOf(this.from() ?? '', this.designs())]);
  protected readonly isSound = computed(
    () =>
      this.design() !== null &&
      Object.entries(this.made().settings).every(([name, value]) => {
        const found = settingOf(name);
        return found !== undefined && faultOf(found.setting, value) === null;
      }),
  );
  /** What it can derive from: nothing that derives from it. */
  protected readonly bases = computed(() => [
    { key: '', title: 'nothing' },
    ...this.designs().filter(({ key }) => !wayOf(key, this.designs()).some((each) => each.key === this.design()?.key)),
  ]);
  protected readonly choices = computed(() => {
    const all = this.designs();
    const groups = [
      { title: 'Yours', items: all.filter(({ isShipped }) => !isShipped) },
      { title: 'Shipped', items: all.filter(({ isShipped }) => isShipped) },
    ];
    return groups.filter(({ items }) => items.length > 0);
  });
  protected readonly usedBy = computed(
    () => this.lens.variants().filter(({ design }) => design === this.design()?.key).length,
  );

  private readonly fontRows = rxResource({ stream: () => this.api.fonts(), defaultValue: [] });
  protected readonly fonts = latest(this.fontRows, []);
  protected readonly families = computed<readonly FamilyChoice[]>(() => [
    ...Object.keys(shippedFamilies).map((key) => ({ key, title: familyTitles[key] ?? key })),
    ...this.fonts().map(({ key, title }) => ({ key, title })),
  ]);

  protected readonly groups = computed(() =>
    settingGroups.map((group) => ({
      group,
      title: groupTitles[group],
      own: Object.keys(this.made().settings).filter((name) => settingOf(name)?.setting.group === group).length,
    })),
  );
  protected readonly languages = computed(() => {
    const said = this.way().flatMap((each) => Object.keys(each.settings).flatMap((name) => name.split('@')[1] ?? []));
    const used = this.lens.variants().map(({ language }) => language.toLowerCase());
    const all = [...new Set([...said, ...used])].sort();
    return [{ key: '', title: 'all languages' }, ...all.map((key) => ({ key, title: key }))];
  });
  /** All that a design can say: of what every publication has, and of the stamps of the team. */
  private readonly settings = computed(() => {
    const { stamps } = this.lens.variation();
    return [...settings, ...stamps.flatMap(({ key }) => stampSettings(key, stamps))];
  });
  /** The settings that are shown, under their headings. */
  protected readonly shown = computed(() => {
    const wanted = this.findText().trim().toLowerCase();
    // What has no words is said for all languages.
    const language = wanted !== '' || this.hasWords() ? this.tag() : null;
    const under = new Map<string, ShownSetting[]>();
    for (const setting of this.settings()) {
      const fits =
        wanted === ''
          ? setting.group === this.part.value()
          : `${groupTitles[setting.group]} ${setting.under} ${setting.title}`.toLowerCase().includes(wanted);
      if (!fits || (language !== null && !setting.byLanguage) || !this.matters(setting)) continue;
      const heading = wanted === '' ? setting.under : `${groupTitles[setting.group]}: ${setting.under}`;
      under.set(heading, [...(under.get(heading) ?? []), this.shownSetting(setting, language)]);
    }
    return [...under].map(([heading, rows]) => ({ heading, rows }));
  });
  protected readonly hasWords = computed(() =>
    this.settings().some((setting) => setting.group === this.part.value() && setting.byLanguage),
  );
  protected readonly menu = computed<MenuItem[]>(() => [
    {
      label: 'Derive a design from this',
      icon: 'pi pi-plus',
      command: () => this.ask('derive'),
      visible: this.session.mayKeep(),
    },
    { label: 'Save as a file', icon: 'pi pi-download', command: () => this.download() },
    {
      label: 'Open a file …',
      icon: 'pi pi-upload',
      command: () => this.ask('import'),
      visible: this.session.mayKeep(),
    },
    { label: 'Fonts …', icon: 'pi pi-language', command: () => this.fontsOpen.set(true) },
    { label: 'Delete …', icon: 'pi pi-trash', command: () => this.remove(), visible: this.mayChange() },
  ]);

  constructor() {
    this.lens.hidden.set(null);
    effect(() => {
      const design = this.design();
      if (design) untracked(() => void this.editing.show(design));
    });
    const titles = inject(ComponentTitles);
    effect(() => {
      const keys = settings.flatMap((setting) => {
        if (setting.kind !== 'component') return [];
        const { value } = answerOf(setting, this.way(), null);
        return value === '' ? [] : [String(value)];
      });
      untracked(() => titles.read(keys));
    });
  }

  hasUnsavedWork(): boolean {
    return this.editing.dirty();
  }

  discardWork(): void {
    this.editing.discard();
  }

  protected choose(key: string): void {
    this.key.set(key, true);
  }

  protected set(name: string, value: SettingValue): void {
    this.editing.change({ [name]: value });
  }

  /** Takes a setting from the designs behind this one again. */
  protected reset(name: string): void {
    this.editing.remove(name);
  }

  protected setTitle(title: string): void {
    this.editing.change({ [titlePart]: title });
  }

  protected setFrom(key: string): void {
    this.editing.change({ [fromPart]: key === '' ? null : key });
  }

  protected save(): void {
    if (!this.mayChange() || this.title().trim() === '') return;
    this.editing.save(() => this.refresh());
  }

  @HostListener('document:keydown', ['$event'])
  protected saveKey(event: KeyboardEvent): void {
    if (event.defaultPrevented || this.bindings.meant(event) !== 'save') return;
    event.preventDefault();
    this.save();
  }

  @HostListener('window:beforeunload', ['$event'])
  protected closing(event: BeforeUnloadEvent): void {
    if (this.editing.dirty()) event.preventDefault();
  }

  protected ask(what: 'derive' | 'import'): void {
    this.imported = {};
    this.newTitle = what === 'derive' ? `${this.design()?.title ?? ''}, our way` : '';
    this.asked.set(what);
  }

  protected async readFile(input: HTMLInputElement): Promise<void> {
    const [file] = input.files ?? [];
    if (!file) return;
    const read = readDesignFile(await file.text());
    this.sending.problem.set('fault' in read ? read.fault : '');
    if ('fault' in read) return;
    this.newTitle = read.file.title;
    this.imported = read.file.settings;
  }

  /** Makes a design of one's own: derived from the shown one, or of a file. */
  protected create(): void {
    const title = this.newTitle.trim();
    if (title === '') {
      this.sending.problem.set('Give it a title.');
      return;
    }
    const key = freeKey(keyFromTitle(title), (each) => this.designs().some((design) => design.key === each));
    const from = this.asked() === 'derive' ? (this.design()?.key ?? null) : null;
    const design = { key, title, from, settings: this.imported, revision: 0, isShipped: false };
    this.sending.send(this.api.saveDesign(design), (_, isOpen) => {
      if (isOpen) this.asked.set(null);
      this.refresh(() => this.choose(key));
    });
  }

  protected fontsChanged(): void {
    this.fontRows.reload();
  }

  private shownSetting(setting: Setting, language: string | null): ShownSetting {
    const name = language === null ? setting.path : `${setting.path}@${language}`;
    const [own] = this.way();
    const answer = answerOf(setting, this.way(), language);
    const { by, path } = answerOf(setting, this.wayWithout(name), language);
    const stamp = path === setting.path ? undefined : settingOf(path)?.setting.under;
    const otherwise =
      stamp !== undefined
        ? titleOfStamp(stamp, this.lens.vocabulary())
        : by === own?.key
          ? 'all languages'
          : (this.designs().find(({ key }) => key === by)?.title ?? plainDesign.title);
    return { setting, name, answer, isOwn: own?.settings[name] !== undefined, otherwise };
  }

  /** Whether a setting does something, with the others as they are. */
  private matters({ path, onlyWith }: Setting): boolean {
    if (!onlyWith || this.made().settings[path] !== undefined) return true;
    const { setting } = settingOf(onlyWith.path) ?? {};
    return !setting || answerOf(setting, this.way(), null).value === onlyWith.value;
  }

  /** The way as it would be without one word of the design at hand. */
  private wayWithout(name: string): readonly StoredDesign[] {
    const [own, ...behind] = this.way();
    if (!own) return behind;
    const rest = Object.fromEntries(Object.entries(own.settings).filter(([each]) => each !== name));
    return [{ ...own, settings: rest }, ...behind];
  }

  /** The language whose words are changed; null: those of all. */
  private tag(): string | null {
    const tag = this.language.value().trim().toLowerCase();
    return /^[a-z]{2,8}(-[a-z0-9]{1,8})*$/.test(tag) ? tag : null;
  }

  private download(): void {
    const file = designFile(this.made(), this.designs());
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([JSON.stringify(file, null, 2)], { type: 'application/json' }));
    link.download = `${this.title()}.json`;
    link.click();
    URL.revokeObjectURL(link.href);
  }

  private remove(): void {
    const design = this.design();
    if (!design) return;
    this.deletion.toBin(
      'design',
      design,
      'Refused as long as a variant uses it or a design derives from it.',
      () => this.api.deleteDesign(design.key),
      () => {
        this.editing.discard();
        this.refresh();
      },
    );
  }

  private refresh(then: () => void = () => undefined): void {
    this.lens.refresh().subscribe({ next: then, error: (error: unknown) => this.notices.failed(error) });
  }
}
