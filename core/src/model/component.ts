import type { ContentNode } from './node.js';

export const componentKinds = ['topic', 'snippet', 'variable', 'image', 'link'] as const;
export type ComponentKind = (typeof componentKinds)[number];

/** One of a variable's values and where it applies; null: in every case, in every language. */
export interface VariableRule {
  readonly when: string | null;
  readonly language: string | null;
  /** A `phrase` node. */
  readonly value: ContentNode;
}

export interface VariableBody {
  readonly type: 'variable';
  /** A `phrase` node; null: no value unless a rule or an override gives one. */
  readonly default: ContentNode | null;
  readonly rules: readonly VariableRule[];
}

/** One file of an image; the digest names its bytes in the store. */
export interface ImageFile {
  readonly digest: string;
  readonly mediaType: string;
  readonly width: number | null;
  readonly height: number | null;
}

export interface ImageBody {
  readonly type: 'image';
  readonly alt: string;
  readonly file: ImageFile;
  /** Other files, the first whose condition holds is used instead. */
  readonly versions: readonly { readonly when: string; readonly file: ImageFile }[];
}

export interface LinkBody {
  readonly type: 'link';
  /** A URI template (RFC 6570): `{+key}` stands for the value of a variable. */
  readonly href: string;
  readonly label: string;
}

/** Topics are `topic` nodes; snippets are `fragment` or `phrase` nodes. */
export type ComponentBody = ContentNode | VariableBody | ImageBody | LinkBody;

/** What slots find snippets by. Labels belong to the component, not to one of its revisions. */
export interface ComponentLabels {
  /** The collection that a snippet belongs to. */
  readonly collection: string | null;
  /** Values by tag. */
  readonly tags: Readonly<Record<string, readonly string[]>>;
}

interface ComponentFacts {
  /** Names the component in its workspace; never changes. */
  readonly key: string;
  readonly title: string;
  /** Counted from 1; every save adds one. */
  readonly revision: number;
  readonly labels?: ComponentLabels;
  /** Tells a body that was not saved from every other one under the same revision. */
  readonly draft?: string;
}

/** What is in a component of each kind. */
export interface ComponentBodies {
  readonly topic: ContentNode;
  readonly snippet: ContentNode;
  readonly variable: VariableBody;
  readonly image: ImageBody;
  readonly link: LinkBody;
}

/** A component of one kind at one revision. */
export type ComponentOf<Kind extends ComponentKind> = ComponentFacts &
  {
    readonly [K in Kind]: { readonly kind: K; readonly body: ComponentBodies[K] };
  }[Kind];

/** A component at one revision. */
export type Component = ComponentOf<ComponentKind>;

/** Puts a component together whose kind and body were checked to belong together, such as one out of the database. */
export function componentFrom(
  facts: ComponentFacts & { readonly kind: ComponentKind; readonly body: ComponentBody },
): Component {
  // The body was checked against the kind; the compiler cannot see that.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  return facts as Component;
}

/** Names the revision of a component, so that equal names are equal bodies. */
export function stampOf({ kind, revision, draft }: Component): string {
  return draft === undefined ? `${kind} ${revision}` : `${kind} ${revision} ${draft}`;
}

/** Bodies are told apart by what only one kind of them has: kinds of nodes are called `variable` and `image` as well. */
export const isVariableBody = (body: ComponentBody): body is VariableBody => 'rules' in body;
export const isImageBody = (body: ComponentBody): body is ImageBody => 'versions' in body;
export const isLinkBody = (body: ComponentBody): body is LinkBody => 'href' in body;

/** The file that was chosen for an assembled picture, image or poster; undefined where there is none. */
export function chosenFileOf(node: {
  readonly attrs?: Readonly<Record<string, unknown>> | undefined;
}): ImageFile | undefined {
  const file = node.attrs?.['file'];
  return isImageFile(file) ? file : undefined;
}

function isImageFile(value: unknown): value is ImageFile {
  return typeof value === 'object' && value !== null && 'digest' in value && 'mediaType' in value;
}

/** Where the engine finds components. */
export interface Library {
  /** The component at its newest revision, or undefined where there is none. */
  component(key: string): Component | undefined;
  /** The component at a chosen revision, for held placements. */
  revision(key: string, revision: number): Component | undefined;
  /** The snippets of a collection at their newest revision, by key. */
  collection(name: string): readonly Component[];
}

/** A library over a list of components; those given in `held` are found by their revision. */
export function libraryOf(components: readonly Component[], held: readonly Component[] = []): Library {
  const newest = new Map(components.map((component) => [component.key, component]));
  const collections = new Map<string, Component[]>();
  for (const component of components) {
    const name = component.kind === 'snippet' ? component.labels?.collection : null;
    if (name) collections.set(name, [...(collections.get(name) ?? []), component]);
  }
  for (const members of collections.values()) members.sort((a, b) => (a.key < b.key ? -1 : 1));
  const older = new Map(held.map((component) => [`${component.key}@${component.revision}`, component]));
  return {
    component: (key) => newest.get(key),
    revision: (key, revision) => {
      const head = newest.get(key);
      return head?.revision === revision ? head : older.get(`${key}@${revision}`);
    },
    collection: (name) => collections.get(name) ?? [],
  };
}

/** The content of a topic or snippet; undefined for other kinds. */
export function contentBody(component: Component): ContentNode | undefined {
  return component.kind === 'topic' || component.kind === 'snippet' ? component.body : undefined;
}

/** Makes a key out of a title: lower-case words joined by hyphens, at most 60 characters. */
export function keyFromTitle(title: string): string {
  const key = title
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60)
    .replace(/-+$/, '');
  return key === '' ? 'untitled' : key;
}

/** The key, or the key with the lowest number behind it that is not taken. */
export function freeKey(wanted: string, taken: (key: string) => boolean): string {
  if (!taken(wanted)) return wanted;
  let number = 2;
  while (taken(`${wanted}-${number}`)) number += 1;
  return `${wanted}-${number}`;
}
