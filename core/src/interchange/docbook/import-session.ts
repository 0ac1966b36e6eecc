import { assignIds, idsAfter, tidyBody } from '../../content/body.js';
import { addMark } from '../../model/marks.js';
import { childrenOf, makeNode, textAttr, textOf, type ContentMark, type ContentNode } from '../../model/node.js';
import type { ProfilesFile } from '../../contract/profiles-file.js';
import { freeKey, keyFromTitle, type Component, type VariableBody } from '../../model/component.js';
import type { OutlineEntry, VariableValues } from '../../model/publication.js';
import { bothConditions, printCondition, type Condition } from '../../variation/condition-syntax.js';
import type { AxisChoice } from '../../model/profile.js';
import { ImportFault, type ImportedImage, type ImportedProfile, type ImportNote } from '../import-result.js';
import {
  overriddenNames,
  conditionMark,
  isElement,
  soleElement,
  baseName,
  splitReferences,
  normalizeValue,
} from './elements.js';
import { EntityTable, entityLimits, insideFolder, pathBeside, publicCharacter, type ReadFile } from './entities.js';
import { NamedPlaces, type Target } from './named-places.js';
import { normalizeSpaces } from './spaces.js';
import { chapterElements, effectivityAttributes, infoElements, partElements, sectionElements } from './vocabulary.js';
import { parseXml, type XmlElement, type XmlEntityReference, type XmlNode } from './xml.js';

export interface DocbookImport {
  /** The file that holds the book, relative to the imported folder. */
  readonly main: string;
  readonly read: ReadFile;
  /** How the publication is called in the library. */
  readonly publication: string;
  readonly profiles?: ProfilesFile;
  /** Whether the library already uses a key. */
  readonly isTaken?: (key: string) => boolean;
}

/** One block of converted content. */
export type Flow = ContentNode;

/** What is known of an external entity's file. */
export interface ImportedFile {
  readonly path: string;
  readonly nodes: readonly XmlNode[];
  readonly shape: 'topic' | 'fragment' | 'phrase' | 'parts' | 'info';
  /** The condition on the single element of a topic's file, which goes to its placements. */
  readonly when: string | null;
  key: string | null;
}

/** Where content is being converted: its component, and what it gathered for it. */
export interface Context {
  readonly component: string;
  /** Footnotes waiting for the end of the block that refers to them. */
  readonly footnotes: ContentNode[];
  /** XML ids that name the block being built, where their own element makes none. */
  readonly anchors: string[];
}

/** What all parts of an import share: the source, what was made of it so far, and how to ask for more. */
export abstract class ImportSession {
  protected readonly files = new Map<string, ImportedFile>();
  protected readonly parsedValues = new Map<string, readonly XmlNode[]>();
  protected readonly expandedSizes = new Map<string, number>();
  protected readonly components = new Map<string, Component>();
  protected readonly variables = new Map<string, string>();
  protected readonly images = new Map<string, ImportedImage>();
  protected readonly axes = new Map<string, Set<string>>();
  protected readonly named = new NamedPlaces((message, at) => this.note(message, at));
  protected readonly notes: ImportNote[] = [];
  protected readonly noted = new Set<string>();
  protected readonly taken = new Set<string>();
  protected readonly entities: EntityTable;
  protected readonly openFiles: string[] = [];
  protected expanded = 0;
  protected entryCount = 0;

  constructor(protected readonly options: DocbookImport) {
    this.entities = new EntityTable(options.read, (message, at) => this.note(message, at));
    for (const name of overriddenNames(options.profiles)) {
      this.entities.declare({ name, value: '', file: 'profiles', line: 1 });
      this.withoutDefault.add(name);
    }
  }

  protected readonly withoutDefault = new Set<string>();

  /** Converts what stands in a flow of blocks. */
  protected abstract flow(nodes: readonly XmlNode[], context: Context): readonly Flow[];
  /** Converts what stands in a line. */
  protected abstract inline(
    nodes: readonly XmlNode[],
    marks: readonly ContentMark[],
    context: Context,
  ): readonly ContentNode[];
  protected abstract isBlock(node: XmlNode): boolean;
  /** Converts a chapter or section into a topic; gives the entries of what stands below it. */
  protected abstract topic(element: XmlElement, key: string, hoist: boolean): readonly OutlineEntry[];

  /** The file behind an external entity or an inclusion; null for internal entities and other nodes. */
  protected fileOf(node: XmlNode): ImportedFile | null {
    let path: string;
    if (node.kind === 'entity') {
      const declaration = this.entities.declared(node.name);
      if (!declaration || declaration.value !== null) return null;
      path = insideFolder(declaration.file, node.file, node.line);
    } else if (node.kind === 'element' && node.name === 'xi:include' && node.attrs['href']) {
      path = pathBeside(node.file, node.attrs['href'], node.line);
    } else return null;
    const include = node.kind === 'element' ? node.attrs : {};
    const pointer = include['xpointer'] ?? (node.kind === 'element' ? include['fragid'] : undefined) ?? '';
    const isText = include['parse'] === 'text';
    const name = `${path}${pointer === '' ? '' : `#${pointer}`}${isText ? ' as text' : ''}`;
    const known = this.files.get(name);
    if (known) return known;
    const text = this.options.read(path);
    if (isText && text !== undefined)
      return this.addFile(name, path, [{ kind: 'text', text, file: path, line: 1 }], node);
    if (text === undefined) {
      const fallback = node.kind === 'element' ? node.children.find((each) => isElement(each, 'fallback')) : undefined;
      if (fallback?.kind === 'element') return this.addFile(name, path, fallback.children, node);
      this.noteOnce(`The file “${path}” is missing; what it holds was left out.`, node);
      return null;
    }
    const nodes = parseXml(text, path, {
      onDoctype: (doctype, line) => this.entities.readDoctype(doctype, path, line),
    });
    this.countExpanded(text.length, node);
    if (pointer !== '') {
      const pointed = pointedTo(nodes, pointer);
      if (!pointed) {
        this.noteOnce(`“${path}” has nothing that “${pointer}” points to; it was left out.`, node);
        return null;
      }
      return this.addFile(name, path, [pointed], node);
    }
    return this.addFile(name, path, nodes, node);
  }

  /** Takes a file, or a part of one, up among those that can be placed. */
  private addFile(name: string, path: string, nodes: readonly XmlNode[], node: XmlNode): ImportedFile {
    const sole = soleElement(nodes);
    // The shape of a file may depend on files inside it; a file inside itself is refused.
    const shape = this.inFile(path, node, () => this.shapeOf(nodes, sole));
    const file: ImportedFile = {
      path,
      nodes,
      shape,
      when: sole && shape === 'topic' ? this.conditionOn(sole) : null,
      key: null,
    };
    this.files.set(name, file);
    return file;
  }

  protected shapeOf(nodes: readonly XmlNode[], sole: XmlElement | null): ImportedFile['shape'] {
    if (sole && infoElements.has(sole.name)) return 'info';
    if (sole && (sectionElements.has(sole.name) || chapterElements.has(sole.name))) return 'topic';
    if (nodes.some((node) => node.kind === 'element' && partElements.has(node.name))) return 'parts';
    return nodes.some((node) => this.isBlock(node)) ? 'fragment' : 'phrase';
  }

  /** Runs work inside a file; a file that is open already would contain itself. */
  protected inFile<T>(path: string, at: XmlNode, work: () => T): T {
    if (this.openFiles.includes(path)) {
      const chain = [...this.openFiles.slice(this.openFiles.indexOf(path)), path].join(' › ');
      throw new ImportFault(`An entity contains itself: ${chain}.`, at.file, at.line);
    }
    if (this.openFiles.length > entityLimits.depth) throw new ImportFault('Entities nest too deep.', at.file, at.line);
    this.openFiles.push(path);
    try {
      return work();
    } finally {
      this.openFiles.pop();
    }
  }

  protected keyForFile(file: ImportedFile, at: XmlNode): string {
    if (file.key === null) {
      const name = at.kind === 'entity' ? at.name : file.path;
      file.key = this.newKey(keyFromTitle(baseName(name)));
    }
    return file.key;
  }

  /** The component that a file became, made at its first use. */
  protected componentOfFile(file: ImportedFile, at: XmlNode): string {
    if (file.key !== null && this.components.has(file.key)) return file.key;
    const key = this.keyForFile(file, at);
    this.inFile(file.path, at, () => {
      const root = soleElement(file.nodes);
      if (file.shape === 'topic' && root) this.topic(root, key, false);
      else {
        const context: Context = { component: key, footnotes: [], anchors: [] };
        const body =
          file.shape === 'phrase'
            ? makeNode('phrase', null, normalizeSpaces(this.inline(file.nodes, [], context)))
            : makeNode('fragment', null, this.flow(file.nodes, context));
        this.addSnippet(key, body, baseName(file.path));
      }
    });
    return key;
  }

  protected addSnippet(key: string, body: ContentNode, title: string): void {
    const filled =
      body.type === 'fragment' && childrenOf(body).length === 0
        ? makeNode('fragment', null, [makeNode('paragraph')])
        : body;
    this.components.set(key, { key, kind: 'snippet', title, revision: 1, body: filled });
  }

  /** The variable that a text entity became, made at its first use. */
  protected variable(reference: XmlEntityReference): string {
    const { name } = reference;
    const known = this.variables.get(name);
    if (known !== undefined) return known;
    const key = this.newKey(name.replace(/^@+/, ''));
    this.variables.set(name, key);
    const context: Context = { component: key, footnotes: [], anchors: [] };
    const nodes = this.valueNodes(reference) ?? [];
    const value = makeNode('phrase', null, normalizeValue(this.inline(nodes, [], context)));
    if (context.footnotes.length > 0) this.note(`The footnotes in the entity “${name}” were left out.`, reference);
    const body: VariableBody = { type: 'variable', default: this.withoutDefault.has(name) ? null : value, rules: [] };
    this.components.set(key, { key, kind: 'variable', title: name, revision: 1, body });
    return key;
  }

  protected valueNodes(reference: XmlEntityReference): readonly XmlNode[] | null {
    const known = this.parsedValues.get(reference.name);
    if (known) return known;
    const declaration = this.entities.declared(reference.name);
    if (!declaration || declaration.value === null) return null;
    const nodes = parseXml(declaration.value, declaration.file, { firstLine: declaration.line });
    this.parsedValues.set(reference.name, nodes);
    return nodes;
  }

  /** Refuses declarations that contain themselves or grow beyond measure, before anything is expanded. */
  protected checkExpansion(): void {
    for (const name of this.entities.names) this.expandedSize(name, []);
  }

  protected expandedSize(name: string, stack: readonly string[]): number {
    const known = this.expandedSizes.get(name);
    if (known !== undefined) return known;
    const declaration = this.entities.declared(name);
    if (!declaration || declaration.value === null) return 0;
    if (stack.includes(name)) {
      throw new ImportFault(
        `An entity contains itself: ${[...stack, name].join(' › ')}.`,
        declaration.file,
        declaration.line,
      );
    }
    if (stack.length > entityLimits.depth)
      throw new ImportFault('Entities nest too deep.', declaration.file, declaration.line);
    let size = declaration.value.length;
    for (const [, inner] of declaration.value.matchAll(/&([^#;\s][^;\s]*);/g))
      size += this.expandedSize(inner ?? '', [...stack, name]);
    if (size > entityLimits.characters) {
      throw new ImportFault(
        `The entity “${name}” expands to more text than any manual needs.`,
        declaration.file,
        declaration.line,
      );
    }
    this.expandedSizes.set(name, size);
    return size;
  }

  protected countExpanded(size: number, at: XmlNode): void {
    this.expanded += size;
    if (this.expanded > entityLimits.expanded)
      throw new ImportFault('The source is larger than an import may be.', at.file, at.line);
  }

  /** An attribute with its entity references expanded to text. */
  protected attribute(element: XmlElement, name: string): string | null {
    const raw = element.attrs[name];
    if (raw === undefined) return null;
    return splitReferences(raw)
      .map((part) => (part.entity ? this.entityText(part.text) : part.text))
      .join('');
  }

  protected entityText(name: string): string {
    const nodes = this.valueNodes({ kind: 'entity', name, file: '', line: 1 });
    return nodes ? nodes.map((node) => this.expandedText(node)).join('') : (publicCharacter(name) ?? '');
  }

  protected expandedText(node: XmlNode): string {
    if (node.kind === 'text') return node.text;
    return node.kind === 'entity'
      ? this.entityText(node.name)
      : node.children.map((child) => this.expandedText(child)).join('');
  }

  protected titleText(element: XmlElement): string {
    const title = element.children.find((node) => isElement(node, 'title'));
    return title ? this.expandedText(title).replace(/\s+/g, ' ').trim() : '';
  }

  /** A title as the library lists it, variables by their default values. */
  protected plainTitle(title: ContentNode): string {
    const byKey = new Map([...this.variables].map(([name, key]) => [key, name]));
    return textOf(title, (leaf) =>
      leaf.type === 'variable'
        ? this.entityText(byKey.get(textAttr(leaf, 'key') ?? '') ?? '') || `[${textAttr(leaf, 'key') ?? ''}]`
        : '',
    )
      .replace(/\s+/g, ' ')
      .trim();
  }

  /** The condition that an element's effectivity attributes make, or null. */
  protected conditionOn(element: XmlElement): string | null {
    const leaves: Condition[] = [];
    for (const axis of effectivityAttributes) {
      const values = (this.attribute(element, axis) ?? '')
        .split(/[;]/)
        .map((value) => value.trim())
        .filter((value) => value !== '');
      if (values.length === 0) continue;
      const known = this.axes.get(axis) ?? new Set<string>();
      values.forEach((value) => known.add(value));
      this.axes.set(axis, known);
      leaves.push({ axis, values: [...new Set(values)] });
    }
    const [only] = leaves;
    if (!only) return null;
    return printCondition(leaves.length === 1 ? only : { all: leaves });
  }

  protected conditioned(nodes: readonly Flow[], when: string | null): readonly Flow[] {
    if (when === null) return nodes;
    return nodes.map((node) => ({
      ...node,
      attrs: { ...node.attrs, when: bothConditions(when, textAttr(node, 'when')) },
    }));
  }

  protected withCondition(nodes: readonly ContentNode[], when: string | null): readonly ContentNode[] {
    if (when === null) return nodes;
    return nodes.map((node) => ({ ...node, marks: addMark(node.marks ?? [], conditionMark(when)) }));
  }

  protected idAttr(element: XmlElement, context: Context): Record<string, unknown> {
    const id = this.idOf(element);
    if (id === null) return {};
    this.name(id, { component: context.component, block: id }, element);
    return { id };
  }

  /** The id of an element, entities in it expanded. */
  protected idOf(element: XmlElement): string | null {
    return this.attribute(element, 'id') ?? this.attribute(element, 'xml:id');
  }

  /** Takes down what an id names; the first element counts where several have one id. */
  protected name(id: string, target: Target, at: XmlElement): void {
    this.named.label(id, this.attribute(at, 'xreflabel'));
    this.named.claim(id, at);
    this.named.lead(id, target);
  }

  /** Lets ids of parts of an element, such as its title, name the element. */
  protected nameParts(elements: readonly XmlNode[], target: Target): void {
    for (const node of elements) {
      if (node.kind !== 'element') continue;
      const id = this.idOf(node);
      if (id === null) continue;
      this.name(id, target, node);
      this.named.reads(id, this.expandedText(node));
    }
  }

  protected profiles(): readonly ImportedProfile[] {
    const file = this.options.profiles;
    if (!file) return [];
    return file.profiles.map((profile) => {
      const axes: Record<string, AxisChoice> = {};
      for (const [axis, { default: otherwise }] of Object.entries(file.axes)) {
        const inValues = profile.in?.[axis] ?? [];
        const outValues = profile.out?.[axis] ?? [];
        const known = this.axes.get(axis) ?? new Set<string>();
        [...inValues, ...outValues].forEach((value) => known.add(value));
        this.axes.set(axis, known);
        axes[axis] = { default: otherwise, in: inValues, out: outValues };
      }
      return { title: profile.profile, profile: { axes }, values: this.profileValues(profile.variables ?? {}) };
    });
  }

  protected profileValues(variables: Readonly<Record<string, string>>): VariableValues {
    const values: Record<string, ContentNode> = {};
    for (const [name, text] of Object.entries(variables)) {
      const key = this.variable({ kind: 'entity', name, file: 'profiles', line: 1 });
      const context: Context = { component: key, footnotes: [], anchors: [] };
      values[key] = tidyBody(
        makeNode('phrase', null, normalizeValue(this.inline(parseXml(text, 'profiles'), [], context))),
      );
    }
    return values;
  }

  protected newKey(wanted: string): string {
    const key = freeKey(wanted, (each) => this.taken.has(each) || (this.options.isTaken?.(each) ?? false));
    this.taken.add(key);
    return key;
  }

  /** A component with references resolved, ids given and attributes in their shortest form. */
  protected finished(component: Component): Component {
    if (component.kind === 'variable') {
      const { body } = component;
      const value = body.default ? tidyBody(this.named.resolved(body.default, component.key)) : null;
      return { ...component, body: { ...body, default: value } };
    }
    if (component.kind !== 'topic' && component.kind !== 'snippet') return component;
    const body = this.named.resolved(component.body, component.key);
    return { ...component, body: tidyBody(assignIds(body, idsAfter(body))) };
  }

  /** Takes down what is worth saying once, wherever it comes up. */
  protected noteOnce(message: string, at: { readonly file: string; readonly line: number }): void {
    if (this.noted.has(message)) return;
    this.noted.add(message);
    this.note(message, at);
  }

  protected note(message: string, { file, line }: { readonly file: string; readonly line: number }): void {
    const key = `${file}:${line}:${message}`;
    if (this.noted.has(key)) return;
    this.noted.add(key);
    this.notes.push({ message, file, line });
  }
}

/** The element that a pointer names: an id, or a way by positions from an id or the root (XPointer `element()` scheme). */
function pointedTo(nodes: readonly XmlNode[], pointer: string): XmlElement | null {
  const scheme = /^element\((.*)\)$/.exec(pointer)?.[1];
  const [start = '', ...steps] = (scheme ?? pointer.replace(/^xpointer\(id\(['"](.*)['"]\)\)$/, '$1')).split('/');
  const elements = (list: readonly XmlNode[]): readonly XmlElement[] =>
    list.filter((node): node is XmlElement => node.kind === 'element');
  const byId = (list: readonly XmlNode[]): XmlElement | null => {
    for (const each of elements(list)) {
      if (each.attrs['id'] === start || each.attrs['xml:id'] === start) return each;
      const found = byId(each.children);
      if (found) return found;
    }
    return null;
  };
  let found: XmlElement | null = start === '' ? null : byId(nodes);
  for (const step of steps) {
    const list = elements(found ? found.children : nodes);
    found = list[Number(step) - 1] ?? null;
    if (!found) return null;
  }
  return found;
}
