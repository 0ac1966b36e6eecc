import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import {
  flattenValues,
  formatFacts,
  planFirst,
  type FirstHour,
  type FirstHourMade,
  type FormatName,
  type MadeFor,
  type ToldAxis,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { Drafts } from '../shared/drafts';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';

interface ToldDocument {
  readonly title: string;
  readonly languages: string;
  readonly formats: readonly FormatName[];
  readonly madeFor: Readonly<Record<string, MadeFor>>;
}

/** What was told so far; it waits as a draft. */
interface Told {
  readonly axes: readonly ToldAxis[];
  readonly documents: readonly ToldDocument[];
  readonly topic: FirstHour['topic'];
  readonly further: string;
}

const newDocument: ToldDocument = { title: '', languages: 'en', formats: ['html', 'pdf'], madeFor: {} };
const beginning: Told = {
  axes: [
    { title: 'Product', values: '' },
    { title: 'Audience', values: '' },
    { title: 'Market', values: '' },
  ],
  documents: [newDocument],
  topic: { title: '', text: '' },
  further: '',
};

/** What stands in fields that are empty, of a maker of weather stations. */
const samples: Readonly<Record<string, string>> = {
  Product: 'Dunlin 2\nDunlin 4 family\n    Dunlin 4\n    Dunlin 4X',
  Audience: 'Observer\nInstaller\nTechnician',
  Market: 'Europe\nNorth America',
};

const steps = ['What differs', 'What you hand over', 'The first topics', 'Make it'] as const;
const keptUnder = 'first hour';

/** Leads from an empty library to the first build: what is handed over, to whom, and what is written first. */
@Component({
  selector: 'al-first-hour',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, NgTemplateOutlet, RouterLink, Button, InputText, Textarea],
  templateUrl: './first-hour.html',
  styleUrl: './first-hour.css',
})
export class FirstHourPlace {
  private readonly api = inject(Api);
  private readonly drafts = inject(Drafts);
  private readonly lens = inject(Lens);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly wording = inject(Wording);

  protected readonly steps = steps;
  private readonly stepText = addressState('step', '1');
  protected readonly step = computed(() => Math.min(Math.max(1, Number(this.stepText.value()) || 1), steps.length));
  protected readonly told = signal<Told>(beginning);
  protected readonly formats = Object.values(formatFacts) as readonly { name: FormatName; title: string }[];
  protected readonly samples = samples;
  /** Of each document; more are refused. */
  protected readonly mostShown = 100;
  protected readonly busy = signal(false);
  protected readonly made = signal<FirstHourMade | null>(null);
  protected readonly problem = signal('');

  /** What is there already. */
  protected readonly known = computed(() => {
    const { axes, profiles } = this.lens.variation();
    return { axes, profiles };
  });
  protected readonly further = computed(() =>
    this.told()
      .further.split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== ''),
  );
  private readonly documents = computed(() =>
    this.told().documents.map((each) => ({ ...each, languages: each.languages.split(/[\s,;]+/).filter(Boolean) })),
  );
  protected readonly plan = computed(() => planFirst(this.told().axes, this.documents(), this.known()));
  /** The axes as they will be, with their values by title. */
  protected readonly axes = computed(() => {
    const planned = new Map(this.plan().axes.map((axis) => [axis.key, axis]));
    const all = [...this.known().axes.map((axis) => planned.get(axis.key) ?? axis), ...this.plan().axes];
    return [...new Map(all.map((axis) => [axis.key, axis])).values()].map((axis) => ({
      title: axis.title,
      values: flattenValues(axis).map(({ value, ancestors }) => ({ title: value.title, depth: ancestors.length })),
      last: flattenValues(axis)
        .filter(({ value }) => !value.values?.length)
        .map(({ value }) => value.title),
    }));
  });
  protected readonly variants = computed(() =>
    this.plan().documents.reduce((sum, each) => sum + each.variants.length, 0),
  );
  protected readonly topics = computed(() => this.further().length + (this.told().topic.title.trim() === '' ? 0 : 1));
  protected readonly isNothing = computed(
    () => this.plan().axes.length + this.plan().documents.length + this.topics() === 0,
  );

  constructor() {
    this.lens.hidden.set(null);
    void this.drafts.read<Told>(keptUnder).then((kept) => {
      // Somebody may have begun to tell meanwhile.
      if (kept && this.told() === beginning) this.told.set({ ...beginning, ...kept });
    });
  }

  protected names(list: readonly { readonly title: string }[]): string {
    // Titles may have commas of their own.
    return list.map(({ title }) => title).join(' · ');
  }

  protected topicNames(): string {
    const first = this.told().topic.title.trim();
    return [...(first === '' ? [] : [first]), ...this.further()].join(' · ');
  }

  protected titlesOf(formats: readonly FormatName[]): string {
    return formats.map((name) => formatFacts[name].title).join(', ');
  }

  protected open(topic: string): void {
    void this.router.navigate(['/edit', topic]);
  }

  protected go(step: number): void {
    this.stepText.set(String(step), true);
  }

  protected setAxis(at: number, change: Partial<ToldAxis>): void {
    this.change({ axes: this.told().axes.map((axis, index) => (index === at ? { ...axis, ...change } : axis)) });
  }

  protected addAxis(): void {
    this.change({ axes: [...this.told().axes, { title: '', values: '' }] });
  }

  protected setDocument(at: number, change: Partial<ToldDocument>): void {
    const documents = this.told().documents.map((each, index) => (index === at ? { ...each, ...change } : each));
    this.change({ documents });
  }

  protected addDocument(): void {
    const { madeFor, languages, formats } = this.told().documents.at(-1) ?? newDocument;
    this.change({ documents: [...this.told().documents, { ...newDocument, languages, formats, madeFor }] });
  }

  protected dropDocument(at: number): void {
    this.change({ documents: this.told().documents.filter((_, index) => index !== at) });
  }

  protected turnFormat(at: number, name: FormatName): void {
    const { formats = [] } = this.told().documents[at] ?? {};
    const turned = formats.includes(name) ? formats.filter((each) => each !== name) : [...formats, name];
    this.setDocument(at, { formats: turned });
  }

  /** How a document is made on an axis: each, all or some. */
  protected howOn({ madeFor }: ToldDocument, axis: string): 'each' | 'all' | 'some' {
    const how = madeFor[axis] ?? 'all';
    return typeof how === 'string' ? how : 'some';
  }

  protected setHow(at: number, axis: string, how: string): void {
    const told = this.told().documents[at];
    if (!told) return;
    const first = this.axes().find(({ title }) => title === axis)?.last[0];
    const madeFor = how === 'each' || how === 'all' ? how : first === undefined ? [] : [first];
    this.setDocument(at, { madeFor: { ...told.madeFor, [axis]: madeFor } });
  }

  protected isFor({ madeFor }: ToldDocument, axis: string, value: string): boolean {
    const how = madeFor[axis];
    return Array.isArray(how) && how.includes(value);
  }

  protected turnValue(at: number, axis: string, value: string): void {
    const told = this.told().documents[at];
    const how = told?.madeFor[axis];
    if (!told || !Array.isArray(how)) return;
    const values = how as readonly string[];
    const turned = values.includes(value) ? values.filter((each) => each !== value) : [...values, value];
    this.setDocument(at, { madeFor: { ...told.madeFor, [axis]: turned } });
  }

  protected setTopic(change: Partial<FirstHour['topic']>): void {
    this.change({ topic: { ...this.told().topic, ...change } });
  }

  protected setFurther(further: string): void {
    this.change({ further });
  }

  protected make(): void {
    const { axes, topic } = this.told();
    this.busy.set(true);
    this.problem.set('');
    const documents = this.documents()
      .filter(({ title }) => title.trim() !== '')
      .map(({ madeFor, formats, ...rest }) => ({
        ...rest,
        formats: [...formats],
        madeFor: Object.fromEntries(
          Object.entries(madeFor).map(([axis, how]) => [axis, typeof how === 'string' ? how : [...how]]),
        ),
      }));
    this.api.makeFirst({ axes: [...axes], documents, topic, further: [...this.further()] }).subscribe({
      next: (made) => {
        this.busy.set(false);
        this.made.set(made);
        this.lens.refresh().subscribe({ error: (error: unknown) => this.notices.failed(error) });
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.problem.set(problemText(error));
      },
    });
  }

  protected build({ variants }: FirstHourMade): void {
    this.api.startBuilds(variants).subscribe({
      next: () => void this.router.navigate(['/builds']),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  private change(change: Partial<Told>): void {
    this.made.set(null);
    this.told.update((before) => ({ ...before, ...change }));
    this.drafts.keep(keptUnder, this.told());
  }
}
