import { flattenAssembled, type AssembledPublication } from '../assemble/assembled.js';
import type { Piece, Question } from '../assemble/memo.js';
import type { QuestionKind, Questions } from '../assemble/memory.js';
import { NumberByQuestion } from '../assemble/number-by-question.js';
import type { OutlinePlace } from '../assemble/outline.js';
import type { ValuesInForce } from '../assemble/place.js';
import type { Reading } from '../assemble/reading.js';
import { digestOf } from '../model/digest.js';
import type { Recipe } from '../model/publication.js';
import { isSameList } from '../model/same-list.js';
import type { Format, FormatFile, Rendition } from '../output/format.js';
import { digestsOf, type Digest, type EntryDigests } from './content-digest.js';

/** One thing that was read for a build, and what was found: a condition and whether it holds, a component's revision, ... */
export type RecordedRead = readonly [kind: QuestionKind, name: string, answer: string];

/** What is kept of a build, to tell later whether building again would give the same and, if not, why. */
export interface BuildRecord {
  readonly version: typeof recordVersion;
  readonly reads: readonly RecordedRead[];
  /** Digests of what the recipe says of its own accord. */
  readonly recipe: { readonly language: string; readonly design: string; readonly title: string };
  /** The digest of the entries that are in, before their topics are looked at. */
  readonly outline: string;
  /** The pages that stay: which they are and how they stand to each other. */
  readonly structure: string;
  /** What was read for the outline, as positions among the reads. */
  readonly outlineReads: readonly number[];
  /** What was read for the title, and for what the design shows of the library. */
  readonly titleReads: readonly number[];
  readonly pages: readonly PageRecord[];
  /** By format: its version, and the digest of all its files. */
  readonly formats: Readonly<Record<string, { readonly version: number; readonly digest: string }>>;
}

export const recordVersion = 3;

/** What is kept of an entry: of one that was left out as well. */
export interface PageRecord extends EntryDigests {
  readonly entry: string;
  readonly topic: string | null;
  /** Whether it has a title and nothing else. */
  readonly bare: boolean;
  readonly reads: readonly number[];
}

/** What to keep of a build. */
export function recordBuild(
  assembled: AssembledPublication,
  recipe: Recipe,
  renditions: readonly { readonly format: Format; readonly rendition: Rendition }[],
  digest: Digest = digestOf,
): BuildRecord {
  const reads = new ReadTable(assembled.reading);
  const page = (each: Parameters<typeof digestsOf>[0] & OwnReads, bare: boolean): PageRecord => ({
    entry: each.id,
    topic: each.topic,
    bare,
    ...digestsOf(each, digest),
    reads: reads.of(each.piece, each.values),
  });
  const pages = [
    ...flattenAssembled(assembled.entries).map((entry) => page(entry, entry.blocks.length === 0)),
    ...assembled.leftOut.map((entry) => page(entry, true)),
  ];
  return {
    version: recordVersion,
    reads: reads.all,
    recipe: recipeDigests(recipe, digest),
    outline: outlineDigest(assembled.places, digest),
    structure: structureOf(assembled.entries, ({ id, name }) => `${id} ${name}`, digest),
    outlineReads: reads.of(assembled.outline, assembled.values),
    titleReads: [
      ...new Set([
        ...reads.of(assembled.titlePiece, assembled.values),
        ...reads.of(assembled.lookPiece, assembled.values),
      ]),
    ],
    pages,
    formats: Object.fromEntries(
      renditions.map(({ format, rendition }) => [
        format.name,
        { version: format.version, digest: renditionDigest(rendition, digest) },
      ]),
    ),
  };
}

interface OwnReads {
  readonly id: string;
  readonly topic: string | null;
  readonly piece: Piece<unknown>;
  readonly values: ValuesInForce;
}

export function recipeDigests({ language, design, variantTitle }: Recipe, digest: Digest): BuildRecord['recipe'] {
  return { language, design: digest(JSON.stringify(design)), title: digest(variantTitle) };
}

/** The components that were read for a build, at the revisions that they had; empty for records of older versions. */
export function recordedRevisions({
  version,
  reads,
}: BuildRecord): readonly { readonly key: string; readonly revision: number }[] {
  if (version !== recordVersion) return [];
  return reads.flatMap(([kind, key, stamp]) =>
    kind === 'component' && stamp !== '' ? [{ key, revision: revisionIn(stamp) }] : [],
  );
}

/** The revision in the recorded answer for a component; 0 where there was none. */
export function revisionIn(stamp: string): number {
  return stamp === '' ? 0 : Number(stamp.split(' ')[1]);
}

const outlineDigests = new WeakMap<readonly OutlinePlace[], { readonly by: Digest; readonly digest: string }>();

/** The digest of an outline as far as it is in, made once: most variants of a publication have the same entries. */
export function outlineDigest(places: readonly OutlinePlace[], by: Digest): string {
  let known = outlineDigests.get(places);
  if (known?.by !== by) outlineDigests.set(places, (known = { by, digest: by(outlineText(places)) }));
  return known.digest;
}

function outlineText(places: readonly OutlinePlace[]): string {
  return places
    .map(({ id, topic, link, heading, role, nested, fault, below }) => {
      const shown = link === null ? topic : { link };
      const own = JSON.stringify([id, shown, heading, role, nested?.title ?? null, fault?.kind ?? null]);
      return `${own}{${outlineText(below)}}`;
    })
    .join();
}

/** The digest of the pages that stay: which they are, in which order, how deep, and what they are called in addresses. */
export function structureOf<Entry extends { readonly entries: readonly Entry[] }>(
  entries: readonly Entry[],
  nameOf: (entry: Entry) => string,
  digest: Digest,
): string {
  const text = (list: readonly Entry[]): string =>
    list.map((entry) => `${JSON.stringify(nameOf(entry))}{${text(entry.entries)}}`).join();
  return digest(text(entries));
}

const fileDigests = new WeakMap<FormatFile, string>();

/** The digest of all files of a format. Files that are the same objects as before are not read again. */
export function renditionDigest({ files, fonts, script = '', standard = '' }: Rendition, digest: Digest): string {
  const lines = files.flatMap((file) => {
    if (file.isDerived) return [file.path];
    let known = fileDigests.get(file);
    if (known === undefined) {
      known = digest(`${file.text}\0${file.pictures.map((each) => `${each.path} ${each.file.digest}`).join()}`);
      fileDigests.set(file, known);
    }
    return `${file.path} ${known}`;
  });
  return digest([...lines, ...fonts.map(({ path }) => path), script, standard].sort().join('\n'));
}

/** What can change without anybody's doing in the recipe: these questions are asked again. */
const lasting: ReadonlySet<QuestionKind> = new Set([
  'condition',
  'component',
  'own condition',
  'revision',
  'slot',
  'value',
  'recipe',
  'alternatives',
]);

/** What a piece read, without what its place or its memory answers; the values of surroundings stand apart. */
interface LastingReads {
  readonly questions: readonly Question[];
  readonly values: readonly Question[];
}

const lastingReads = new WeakMap<Piece<unknown>, { readonly values: ValuesInForce; readonly reads: LastingReads }>();

/** The reads of a build, each with its answer once. */
class ReadTable {
  readonly all: RecordedRead[] = [];
  /** By question: its position. */
  private readonly positions: NumberByQuestion;
  private readonly valuePositions = new Map<string, number>();
  private readonly questions: Questions;

  constructor(private readonly reading: Reading) {
    this.questions = reading.remembered.questions;
    this.positions = new NumberByQuestion(this.questions.count);
  }

  /** The positions of what a piece read, variables replaced by what they read. */
  of(piece: Piece<unknown>, values: ValuesInForce): readonly number[] {
    const { questions, values: ofPlace } = this.lasting(piece, values);
    const found = questions.map((question) => this.position(question, values));
    for (const question of ofPlace) {
      const key = `${question} ${this.reading.answerText('value', this.questions.nameOf(question), values)}`;
      let position = this.valuePositions.get(key);
      if (position === undefined) this.valuePositions.set(key, (position = this.add(question, values)));
      found.push(position);
    }
    return found;
  }

  private position(question: Question, values: ValuesInForce): number {
    let position = this.positions.of(question);
    if (position < 0) this.positions.set(question, (position = this.add(question, values)));
    return position;
  }

  private add(question: Question, values: ValuesInForce): number {
    const [kind, name] = [this.questions.kindOf(question), this.questions.nameOf(question)];
    return this.all.push([kind, name, this.reading.answerText(kind, name, values)]) - 1;
  }

  private lasting(piece: Piece<unknown>, values: ValuesInForce): LastingReads {
    const known = lastingReads.get(piece);
    // What variables read belongs to the values in force; equal records of values are equal answers.
    if (known && sameRecords(known.values, values)) return known.reads;
    const found = { questions: new Set<Question>(), values: new Set<Question>() };
    this.collect(piece, values, found);
    const reads = { questions: [...found.questions], values: [...found.values] };
    lastingReads.set(piece, { values, reads });
    return reads;
  }

  private collect(
    { reads }: Piece<unknown>,
    values: ValuesInForce,
    found: { readonly questions: Set<Question>; readonly values: Set<Question> },
  ): void {
    for (const question of reads) {
      const kind = this.questions.kindOf(question);
      if (kind === 'variable') {
        const piece = values.read.get(question);
        if (piece) this.collect(piece, values, found);
      } else if (kind === 'value') found.values.add(question);
      else if (lasting.has(kind)) found.questions.add(question);
    }
  }
}

function sameRecords(a: ValuesInForce, b: ValuesInForce): boolean {
  return a === b || isSameList(a.records, b.records);
}
