import { known } from '../model/known.js';
import { contentBody, stampOf, type Component } from '../model/component.js';
import { makeNode, type ContentNode } from '../model/node.js';
import type { Publication } from '../model/publication.js';
import { isSameList } from '../model/same-list.js';
import type { Source } from '../model/source.js';
import type { Vocabulary } from '../model/stamp.js';
import type { Finding } from './finding.js';
import { Memo, type Question } from './memo.js';
import { NumberByQuestion } from './number-by-question.js';
import type { OutlinePlace } from './outline.js';
import { prepareBody, type conditionsIn, type PreparedNode } from './prepared.js';

/** What can be asked while content is assembled. */
export const questionKinds = [
  /** Whether a condition holds. */
  'condition',
  /** Which revision of a component there is. */
  'component',
  /** The condition that a component bears wherever it stands. */
  'own condition',
  /** Whether there is a revision of a component: `key@revision`. */
  'revision',
  /** Which snippets fit a slot, see `slotRule`. */
  'slot',
  /** The value that the entry, the variant or a publication gives a variable. */
  'value',
  /** What a variable reads. */
  'variable',
  /** The placements from a component down to the place, where it stands around the place. */
  'around',
  /** The variables from one down to the place, where it is being worked out. */
  'evaluating',
  /** The topic of the page. */
  'topic',
  /** A part of the recipe: the language, the date, ... */
  'recipe',
  /** What of a body's conditions is not defined. */
  'undefined',
  /** Whether two conditions are alternatives on one axis. */
  'alternatives',
] as const;
export type QuestionKind = (typeof questionKinds)[number];

/** All questions that came up, each by a number, and all answers likewise. */
export class Questions {
  private readonly kinds: QuestionKind[] = [];
  private readonly names: string[] = [];
  private readonly numbers = new Map<QuestionKind, Map<string, Question>>(
    questionKinds.map((kind) => [kind, new Map<string, Question>()]),
  );
  private readonly answers = new Map<string, number>();

  /** The number of a question. */
  of(kind: QuestionKind, name: string): Question {
    const byName = known(this.numbers.get(kind));
    let number = byName.get(name);
    if (number === undefined) {
      number = this.kinds.length;
      this.kinds.push(kind);
      this.names.push(name);
      byName.set(name, number);
    }
    return number;
  }

  kindOf(question: Question): QuestionKind {
    return known(this.kinds[question]);
  }

  nameOf(question: Question): string {
    return known(this.names[question]);
  }

  /** The number of an answer: equal for equal texts, 0 for the empty one. */
  answer(text: string): number {
    if (text === '') return 0;
    let number = this.answers.get(text);
    if (number === undefined) this.answers.set(text, (number = this.answers.size + 1));
    return number;
  }

  /** How many questions there are. */
  get count(): number {
    return this.kinds.length;
  }

  get size(): number {
    return this.kinds.length + this.answers.size;
  }
}

/** A body with what it becomes where it is placed, by the part that is placed. */
export interface PreparedComponent {
  /** Names the component at its revision. */
  readonly name: string;
  readonly component: Component;
  readonly body: PreparedNode;
  /** Its conditions, once they were asked for. */
  conditions: ReturnType<typeof conditionsIn> | undefined;
  /** What they name that one vocabulary does not define. */
  undefinedIn: (Vocabulary & { readonly found: readonly Finding[] }) | undefined;
  readonly placed: Map<string, Memo<readonly PreparedNode[]>>;
  /** A phrase in lines; in values it asks other questions, as what variables read is being worked out there. */
  readonly inLine: Memo<Inline>;
  readonly inValue: Memo<Inline>;
  /** A topic as a page. */
  readonly page: Memo<PageContent>;
}

/** What a topic shows on its own page. */
export interface PageContent {
  readonly title: readonly PreparedNode[];
  readonly blocks: readonly PreparedNode[];
}

/** Inline content, and the positions before which something was taken out. */
export interface Inline {
  readonly nodes: readonly PreparedNode[];
  readonly gaps: readonly number[];
}

/** A phrase as a value. */
export interface PreparedPhrase {
  readonly phrase: PreparedNode;
  readonly value: Memo<Inline>;
  /** The number of its text among the answers. */
  readonly serial: number;
}

interface GivenAnswers {
  readonly by: readonly object[];
  readonly answers: NumberByQuestion;
}

interface RememberedOutline {
  readonly by: readonly object[];
  readonly places: Memo<readonly OutlinePlace[]>;
}

/** The memory of one time: what is remembered together is forgotten together. */
export interface Remembered {
  readonly questions: Questions;
  /** By name and revision. */
  readonly components: Map<string, PreparedComponent>;
  /** The same by the object that was asked for before: components never change. */
  readonly byObject: WeakMap<Component, PreparedComponent>;
  readonly phrases: Map<string, PreparedPhrase>;
  readonly variables: Map<string, Memo<Inline | null>>;
  /** What libraries, with their vocabularies, and vocabularies alone answer, whatever the recipe. */
  readonly givenByLibraries: GivenAnswers[];
  readonly givenByVocabularies: GivenAnswers[];
  /** The entries of outlines that are in. */
  readonly outlines: WeakMap<Publication, RememberedOutline>;
  serials: number;
  size: number;
}

const begin = (): Remembered => ({
  questions: new Questions(),
  components: new Map(),
  byObject: new WeakMap(),
  phrases: new Map(),
  variables: new Map(),
  givenByLibraries: [],
  givenByVocabularies: [],
  outlines: new WeakMap(),
  serials: 0,
  size: 0,
});

/**
 * What assembly remembers from one build to the next. It has an owner, such as a worker; keys are values (a
 * component at a revision, what was read), so that whatever is kept or dropped never changes what comes out.
 */
export class Memory {
  private current = begin();

  /** @param most about how many nodes and reads are kept before everything is dropped */
  constructor(private readonly most = 5_000_000) {}

  /** What is remembered; a build keeps to the same from its beginning to its end. */
  open(): Remembered {
    if (this.current.size + this.current.questions.size > this.most) this.drop();
    return this.current;
  }

  /** Forgets everything. */
  drop(): void {
    this.current = begin();
  }
}

/** How many states of the library are remembered: one before a change, one after it, and one beside them. */
const mostGiven = 3;

/** Answers that follow from some values, and last as long as these are read: libraries and vocabularies never change. */
export function answersGivenBy(kept: GivenAnswers[], by: readonly object[], count: number): NumberByQuestion {
  const at = kept.findIndex((each) => isSameList(each.by, by));
  // What was not read for longest is let go of: the library before a change is read at every stroke.
  const given = (at < 0 ? undefined : kept.splice(at, 1)[0]) ?? { by, answers: new NumberByQuestion(count) };
  kept.unshift(given);
  kept.length = Math.min(kept.length, mostGiven);
  return given.answers;
}

/** What an outline holds, by what was read on the way; outlines and vocabularies never change. */
export function outlineMemo(
  { outlines }: Remembered,
  { publications, axes, stamps }: Source,
  publication: Publication,
): Memo<readonly OutlinePlace[]> {
  const by = [publications, axes, stamps];
  let known = outlines.get(publication);
  if (!known || !isSameList(known.by, by)) outlines.set(publication, (known = { by, places: new Memo() }));
  return known.places;
}

/** A component's body made ready, once for each revision. */
export function preparedComponent(remembered: Remembered, component: Component): PreparedComponent {
  const quick = remembered.byObject.get(component);
  if (quick) return quick;
  const name = `${component.key}@${stampOf(component)}`;
  let known = remembered.components.get(name);
  if (!known) {
    const body = prepareBody(contentBody(component) ?? makeNode('phrase'));
    known = {
      name,
      component,
      body,
      conditions: undefined,
      undefinedIn: undefined,
      placed: new Map(),
      inLine: new Memo(),
      inValue: new Memo(),
      page: new Memo(),
    };
    remembered.components.set(name, known);
    remembered.size += countNodes(body);
  }
  remembered.byObject.set(component, known);
  return known;
}

function countNodes(node: PreparedNode): number {
  let count = 1;
  if (node.content) for (const child of node.content) count += countNodes(child);
  return count;
}

const texts = new WeakMap<ContentNode, string>();

/** A phrase as text: values never change, so each is written once. */
export function phraseText(phrase: ContentNode): string {
  let text = texts.get(phrase);
  if (text === undefined) texts.set(phrase, (text = JSON.stringify(phrase)));
  return text;
}

/** A phrase made ready, once for equal ones. */
export function preparedPhrase(remembered: Remembered, phrase: ContentNode): PreparedPhrase {
  const text = phraseText(phrase);
  let known = remembered.phrases.get(text);
  if (!known) {
    known = { phrase: prepareBody(phrase), value: new Memo(), serial: remembered.questions.answer(text) };
    remembered.phrases.set(text, known);
    remembered.size += countNodes(known.phrase);
  }
  return known;
}
