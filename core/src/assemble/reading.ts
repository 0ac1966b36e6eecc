import { known } from '../model/known.js';
import { NumberByQuestion } from './number-by-question.js';
import { limits, TooLargeError } from '../model/limits.js';
import { contentBody, stampOf, type Component } from '../model/component.js';
import type { Recipe } from '../model/publication.js';
import { conditionsOf } from '../model/references.js';
import type { Source } from '../model/source.js';
import { ownCondition } from '../select/select.js';
import { candidatesByRule, slotRule } from '../select/slots.js';
import { alternativesOn } from '../variation/alternatives.js';
import { Selector } from '../variation/selector.js';
import { describeUndefined, undefinedIn } from '../variation/undefined-keys.js';
import type { AnyNode } from '../model/node.js';
import type { Finding } from './finding.js';
import type { Memo, Piece, Question } from './memo.js';
import {
  answersGivenBy,
  phraseText,
  preparedPhrase,
  type Inline,
  type Memory,
  type PreparedComponent,
  type PreparedPhrase,
  type QuestionKind,
  type Remembered,
} from './memory.js';
import { isIn, wayFrom, type Chain, type Place } from './place.js';
import { conditionsIn, conditionsOnSelf, type PreparedNode } from './prepared.js';

/** The parts of a recipe that content can show. */
const recipeParts = ['language', 'variant title', 'publication title', 'date', 'empty'] as const;
export type RecipePart = (typeof recipeParts)[number];

/** Whether a name is one of the parts of a recipe that content asks for. */
export const isRecipePart = (name: string): name is RecipePart => recipeParts.some((part) => part === name);

/** What is gathered while one piece is made. */
interface Frame {
  readonly serial: number;
  findings: Finding[];
  /** Whether other frames came between its questions, so that some may stand in it twice. */
  isShared: boolean;
}

const nothingFound: Finding[] = [];
const noAnswers: readonly number[] = [];

/** Stands for answers that depend on the place. */
const byPlace = -2;

/**
 * The one way by which assembly reads the library, the recipe and its surroundings. Every question that is asked
 * is taken down with the piece that is being made, so that no dependency can be forgotten; a piece that
 * would read the same again is not made again.
 */
export class Reading {
  readonly remembered: Remembered;
  readonly selector: Selector;
  private readonly answers: NumberByQuestion;
  /** The answers that the library gives, and those of the vocabulary alone, whatever the recipe. */
  private readonly givenByLibrary: NumberByQuestion;
  private readonly givenByVocabulary: NumberByQuestion;
  /** By question: the frame that asked it last. */
  private readonly askedIn: NumberByQuestion;
  private frame: Frame = { serial: 0, findings: nothingFound, isShared: false };
  /** The questions of all frames that are open, those of the innermost last; what stands from the end on is of none. */
  private readonly taken: Question[] = [];
  private end = 0;
  private frames = 0;
  private depth = 0;
  private place: Place | null = null;
  /** The variables whose answers are known, and the values for which they are: most places share one set of values. */
  private readonly variablesRead: Question[] = [];
  private valuesRead: Place['values'] | null = null;

  /** @param variableAt what a variable reads at a place */
  constructor(
    readonly source: Source,
    readonly recipe: Recipe,
    memory: Memory,
    private readonly variableAt: (key: string, place: Place) => Piece<Inline | null>,
  ) {
    this.remembered = memory.open();
    const { questions, givenByLibraries, givenByVocabularies } = this.remembered;
    const { library, axes, stamps } = source;
    const { count } = questions;
    this.answers = new NumberByQuestion(count);
    this.askedIn = new NumberByQuestion(count);
    this.givenByLibrary = answersGivenBy(givenByLibraries, [library, axes, stamps], count);
    this.givenByVocabulary = answersGivenBy(givenByVocabularies, [axes, stamps], count);
    this.selector = new Selector(source, recipe.profile);
  }

  // What can be asked. Each is taken down.

  /** Whether all conditions on a node hold: its own, and those of the marks on it. */
  nodeHolds(node: PreparedNode): boolean {
    let { asks } = node;
    if (asks === undefined) {
      asks = conditionsOnSelf(node).map((when) => this.questionOf('condition', when));
      node.asks = asks;
    }
    for (const question of asks) {
      this.take(question);
      if (this.answer(question, null) !== 1) return false;
    }
    return true;
  }

  holds(when: string | null): boolean {
    return when === null || when === '' || this.ask('condition', when, null) === 1;
  }

  /** The newest revision of a component. */
  component(key: string): Component | undefined {
    this.ask('component', key, null);
    return this.source.library.component(key);
  }

  /** The condition that a component bears wherever it stands. */
  ownCondition(key: string): string | null {
    this.ask('own condition', key, null);
    return ownCondition(this.source.library.component(key));
  }

  /** A chosen revision of a component. */
  revision(key: string, revision: number): Component | undefined {
    this.ask('revision', `${key}@${revision}`, null);
    return this.source.library.revision(key, revision);
  }

  candidates(slot: AnyNode, place: Place): readonly Component[] {
    const matches = slot.attrs?.['matching'] !== null && slot.attrs?.['matching'] !== undefined;
    const rule = slotRule(slot, matches && this.ask('topic', '', place) !== 0 ? place.topic : null);
    this.ask('slot', rule, place);
    return candidatesByRule(this.source.library, rule);
  }

  /** The value that the surroundings give a variable; undefined: its own rules decide. */
  value(key: string, place: Place): PreparedPhrase | undefined {
    this.ask('value', key, place);
    const own = place.values.own(key);
    return own && preparedPhrase(this.remembered, own);
  }

  /** The placements from a component down to the place, with the component again at the end; null: it is none of them. */
  cycleAround(key: string, place: Place): string | null {
    return this.ask('around', key, place) === 0 ? null : `${wayFrom(place.around, key)} › ${key}`;
  }

  /** The variables from one down to the place, with itself again at the end; null: it is not being worked out. */
  cycleOfValues(key: string, place: Place): string | null {
    return this.ask('evaluating', key, place) === 0 ? null : `${wayFrom(place.evaluating, key)} › ${key}`;
  }

  /** Takes down that the place shows what a variable reads. */
  useVariable(key: string, place: Place): Piece<Inline | null> {
    const question = this.questionOf('variable', key);
    this.take(question);
    return this.variablePiece(question, key, place);
  }

  get language(): string {
    this.ask('recipe', 'language', null);
    return this.recipe.language;
  }

  get variantTitle(): string {
    this.ask('recipe', 'variant title', null);
    return this.recipe.variantTitle;
  }

  get buildDate(): string {
    this.ask('recipe', 'date', null);
    return this.recipe.buildDate;
  }

  get publicationTitle(): PreparedPhrase {
    this.ask('recipe', 'publication title', null);
    return preparedPhrase(this.remembered, this.recipe.publication.title);
  }

  get leavesOutEmpty(): boolean {
    return this.ask('recipe', 'empty', null) !== 0;
  }

  /** The axis on which two conditions are alternatives; null: they are not. */
  alternatives(a: string, b: string): string | null {
    return this.ask('alternatives', `${a}\0${b}`, null) === 0 ? null : alternativesOn(a, b, this.source);
  }

  /** Reports what the conditions of a component name and is not defined. */
  checkConditions(prepared: PreparedComponent): void {
    if (this.ask('undefined', prepared.name, null) === 0) return;
    for (const finding of this.undefinedOf(prepared)) this.report(finding);
  }

  private undefinedOf(prepared: PreparedComponent): readonly Finding[] {
    const { axes, stamps } = this.source;
    const { undefinedIn: known } = prepared;
    if (known?.axes !== axes || known.stamps !== stamps) {
      const { component, body } = prepared;
      const conditions = (prepared.conditions ??= contentBody(component)
        ? conditionsIn(body)
        : conditionsOf(component.body));
      const found = conditions.flatMap(({ when, place: block }) =>
        this.undefinedIn(when).map((message): Finding => {
          const place = { component: component.key, block, entry: null };
          return { severity: 'error', code: 'undefined-value', message, place };
        }),
      );
      prepared.undefinedIn = { axes, stamps, found };
      return found;
    }
    return known.found;
  }

  private readonly messages = new Map<string, readonly string[]>();

  /** What a condition names and is not defined; one sentence each. */
  undefinedIn(when: string): readonly string[] {
    let found = this.messages.get(when);
    if (!found) this.messages.set(when, (found = undefinedIn(when, this.source).map(describeUndefined)));
    return found;
  }

  report(finding: Finding): void {
    const { frame } = this;
    if (frame.findings === nothingFound) frame.findings = [finding];
    else frame.findings.push(finding);
  }

  // Pieces.

  /** Makes a piece, or finds it among those that were made with the same answers. */
  piece<Result>(memo: Memo<Result>, place: Place, make: () => Result): Piece<Result> {
    return this.find(memo, place) ?? this.make(memo, place, make);
  }

  /** A piece that was made with the same answers before; undefined: none was. */
  find<Result>(memo: Memo<Result>, place: Place): Piece<Result> | undefined {
    const before = this.enter(place);
    const found = memo.find(this);
    this.place = before;
    return found;
  }

  /** Whatever is asked from here on is asked at a place. Returns the one before it. */
  private enter(place: Place): Place | null {
    const before = this.place;
    this.place = place;
    if (place.values !== this.valuesRead) {
      for (const question of this.variablesRead) this.answers.set(question, -1);
      this.variablesRead.length = 0;
      this.valuesRead = place.values;
    }
    return before;
  }

  /** Makes a piece that was not found. */
  make<Result>(memo: Memo<Result>, place: Place, make: () => Result): Piece<Result> {
    const { result, reads, findings } = this.recorded(make);
    const before = this.enter(place);
    const answers = reads.map((question) => this.answerOf(question));
    this.place = before;
    const { remembered } = this;
    const piece = memo.add(result, reads, answers, findings, (remembered.serials += 1));
    remembered.size += answers.length + (piece.reads === reads ? reads.length : 0) + 4;
    return piece;
  }

  /**
   * Takes down what a piece read and reported, as it stands in the piece that is being made.
   * @param across the component across whose placement it stands
   */
  include(piece: Piece<unknown>, across?: string): void {
    this.includeReads(piece, 'around', across);
    for (const finding of piece.findings) this.report(finding);
  }

  /**
   * Takes down what a piece read.
   * @param own what stands around it wherever it is used: a question for that is answered by the piece itself
   */
  includeReads({ reads }: Piece<unknown>, kind: 'around' | 'evaluating', own?: string): void {
    const answered = own === undefined ? -1 : this.questionOf(kind, own);
    for (const question of reads) if (question !== answered) this.take(question);
  }

  /** Runs work in a frame of its own and gives what it read and reported: for what is not remembered. */
  recorded<Result>(work: () => Result): Piece<Result> {
    if (this.depth >= limits.depth) throw new TooLargeError('Placements or variables nest too deep to be built.');
    const outer = this.frame;
    const frame: Frame = { serial: (this.frames += 1), findings: nothingFound, isShared: false };
    const from = this.end;
    outer.isShared = true;
    this.frame = frame;
    this.depth += 1;
    try {
      const result = work();
      const { findings } = frame;
      return { result, reads: this.distinct(from, frame), answers: noAnswers, findings, serial: 0 };
    } finally {
      this.end = from;
      this.depth -= 1;
      this.frame = outer;
    }
  }

  private take(question: Question): void {
    const { frame } = this;
    if (this.askedIn.of(question) === frame.serial) return;
    this.askedIn.set(question, frame.serial);
    this.taken[this.end] = question;
    this.end += 1;
  }

  /** The questions of a frame, each once: inner frames make an outer one forget what it has asked. */
  private distinct(from: number, { isShared }: Frame): readonly Question[] {
    const { taken, askedIn, end } = this;
    if (!isShared) return taken.slice(from, end);
    const serial = (this.frames += 1);
    let to = from;
    for (let at = from; at < end; at += 1) {
      const question = known(taken[at]);
      if (askedIn.of(question) === serial) continue;
      askedIn.set(question, serial);
      taken[to] = question;
      to += 1;
    }
    return taken.slice(from, to);
  }

  private ask(kind: QuestionKind, name: string, place: Place | null): number {
    const question = this.questionOf(kind, name);
    this.take(question);
    return this.answer(question, place);
  }

  private questionOf(kind: QuestionKind, name: string): Question {
    return this.remembered.questions.of(kind, name);
  }

  /** The answer of a question at the place whose piece is being looked for. */
  answerOf(question: Question): number {
    const before = this.answers.of(question);
    return before >= 0 ? before : this.answer(question, this.place);
  }

  /** The same where it takes no evaluation of a variable, which may only be asked for where it comes up. */
  quickAnswerOf(question: Question): number {
    const before = this.answers.of(question);
    if (before >= 0) return before;
    const { questions } = this.remembered;
    if (questions.kindOf(question) !== 'variable') return this.answer(question, this.place);
    // What was worked out before takes no work.
    return this.valuesRead?.read.has(question) ? this.answer(question, this.place) : -1;
  }

  /** The answer of a question at a place, as a number. */
  answer(question: Question, place: Place | null): number {
    const before = this.answers.of(question);
    if (before >= 0) return before;
    const { questions } = this.remembered;
    const kind = questions.kindOf(question);
    const name = questions.nameOf(question);
    if (before === byPlace) return this.answerAt(kind, name, known(place ?? undefined));
    if (isByPlace(kind)) {
      this.answers.set(question, byPlace);
      return this.answerAt(kind, name, known(place ?? undefined));
    }
    if (kind === 'variable') return this.variableAnswer(question, name, known(place ?? undefined));
    const answer = kind === 'condition' ? Number(this.selector.holds(name)) : this.lastingAnswer(kind, name, question);
    this.answers.set(question, answer);
    return answer;
  }

  /** The answer of a question that reads the same all over the build. */
  private lastingAnswer(kind: QuestionKind, name: string, question: Question): number {
    const { questions } = this.remembered;
    if (kind === 'recipe') return questions.answer(this.textAnswer(kind, name));
    const given = kind === 'undefined' || kind === 'alternatives' ? this.givenByVocabulary : this.givenByLibrary;
    let answer = given.of(question);
    if (answer < 0) given.set(question, (answer = questions.answer(this.textAnswer(kind, name))));
    return answer;
  }

  private variableAnswer(question: Question, name: string, place: Place): number {
    const { serial } = this.variablePiece(question, name, place);
    this.answers.set(question, serial);
    this.variablesRead.push(question);
    return serial;
  }

  private answerAt(kind: QuestionKind, name: string, place: Place): number {
    const { questions } = this.remembered;
    switch (kind) {
      case 'value': {
        const own = place.values.own(name);
        return own ? preparedPhrase(this.remembered, own).serial : 0;
      }
      case 'around':
        return this.answerOfWay(place.around, name);
      case 'evaluating':
        return this.answerOfWay(place.evaluating, name);
      default:
        return questions.answer(place.topic ?? '');
    }
  }

  private answerOfWay(chain: Chain | null, key: string): number {
    return isIn(chain, key) ? this.remembered.questions.answer(wayFrom(chain, key)) : 0;
  }

  private variablePiece(question: Question, key: string, place: Place): Piece<Inline | null> {
    const { read } = place.values;
    let piece = read.get(question);
    if (!piece) read.set(question, (piece = this.variableAt(key, place)));
    return piece;
  }

  /**
   * The answer of a question as text, for what must outlast the memory. Texts are equal for equal answers.
   * @param values those in force where it is asked
   */
  answerText(kind: QuestionKind, name: string, values: Place['values']): string {
    if (kind === 'condition') return this.selector.holds(name) ? 'holds' : '';
    if (kind === 'value') {
      const own = values.own(name);
      return own ? phraseText(own) : '';
    }
    return this.textAnswer(kind, name);
  }

  /** An answer that is the same all over the build, as text; equal texts are equal answers. */
  private textAnswer(kind: QuestionKind, name: string): string {
    const { library } = this.source;
    const { recipe } = this;
    switch (kind) {
      case 'component': {
        const component = library.component(name);
        return component ? stampOf(component) : '';
      }
      case 'own condition':
        return ownCondition(library.component(name)) ?? '';
      case 'revision': {
        const at = name.lastIndexOf('@');
        return library.revision(name.slice(0, at), Number(name.slice(at + 1))) ? 'there' : '';
      }
      case 'slot':
        return candidatesByRule(library, name)
          .map(({ key }) => key)
          .join('\n');
      case 'alternatives': {
        const [a = '', b = ''] = name.split('\0');
        return alternativesOn(a, b, this.source) ?? '';
      }
      case 'undefined':
        return this.undefinedOf(known(this.remembered.components.get(name)))
          .map(({ message }) => message)
          .join('\n');
      default:
        return isRecipePart(name) ? recipeText(recipe, name) : '';
    }
  }
}

function isByPlace(kind: QuestionKind): boolean {
  return kind === 'value' || kind === 'around' || kind === 'evaluating' || kind === 'topic';
}

/** What a part of a recipe says, as text. */
export function recipeText(recipe: Recipe, part: RecipePart): string {
  switch (part) {
    case 'language':
      return recipe.language;
    case 'variant title':
      return recipe.variantTitle;
    case 'publication title':
      return JSON.stringify(recipe.publication.title);
    case 'date':
      return recipe.buildDate;
    case 'empty':
      return recipe.leaveOutEmpty ? 'left out' : '';
  }
}
