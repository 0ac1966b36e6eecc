import type { ContentMark, ContentNode } from '../../model/node.js';
import { freeKey, type Component } from '../../model/component.js';
import type { ProfilesFile } from '../../contract/profiles-file.js';
import type { OutlineEntry } from '../../model/publication.js';
import { printCondition, type Condition } from '../../variation/condition-syntax.js';
import {
  ImportFault,
  mostImportNotes,
  type ImportedImage,
  type ImportNote,
  type ImportNoteKind,
} from '../import-result.js';
import { overriddenNames, splitReferences } from './elements.js';
import { EntityTable, entityLimits, publicCharacter, type ReadFile } from './entities.js';
import { NamedPlaces, type Target } from './named-places.js';
import type { StyleSheet } from './style-sheets.js';
import { effectivityAttributes } from './vocabulary.js';
import { parseXml, type XmlElement, type XmlEntityReference, type XmlNode } from './xml.js';

export interface DocbookImport {
  /** The file that holds the book, relative to the imported folder. */
  readonly main: string;
  readonly read: ReadFile;
  /** How the publication is called in the library. */
  readonly publication: string;
  readonly profiles?: ProfilesFile;
  /** What the book is published with, where it lies beside it. */
  readonly styleSheets?: readonly StyleSheet[];
  /** Whether the library already uses a key. */
  readonly isTaken?: (key: string) => boolean;
}

/** One block of converted content. */
export type Flow = ContentNode;

/** What is known of an external entity's file. */
export interface ImportedFile {
  readonly path: string;
  readonly nodes: readonly XmlNode[];
  /** Characters, to count what is put in place of a reference. */
  readonly size: number;
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

/** The elements whose text names those that hold them. */
const innerNames: Readonly<Record<string, string>> = {
  cmdsynopsis: 'command',
  funcsynopsis: 'function',
  funcprototype: 'function',
  refnamediv: 'refname',
};

function firstNamed(element: XmlElement, name: string): XmlElement | null {
  for (const child of element.children) {
    if (child.kind !== 'element') continue;
    const found = child.name === name ? child : firstNamed(child, name);
    if (found) return found;
  }
  return null;
}

/** What converts the parts of a document into content. Handlers reach each other through the session only. */
export interface Conversion {
  /** What stands in a flow of blocks; runs of text and inline elements become paragraphs. */
  flow(session: ImportSession, nodes: readonly XmlNode[], context: Context): readonly Flow[];
  /** What stands in a line. */
  inline(
    session: ImportSession,
    nodes: readonly XmlNode[],
    marks: readonly ContentMark[],
    context: Context,
  ): readonly ContentNode[];
  /** Whether a node stands between paragraphs rather than inside them. */
  isBlock(session: ImportSession, node: XmlNode): boolean;
  /** Makes a topic of a chapter or section; gives the entries of what stands below it. */
  topic(session: ImportSession, element: XmlElement, key: string, hoist: boolean): readonly OutlineEntry[];
}

/** What the handlers of an import share: the source, what was made of it so far, and the way to each other. */
export class ImportSession {
  readonly files = new Map<string, ImportedFile>();
  /** What stands in for missing files, by the elements that say so. */
  readonly fallbacks = new Map<XmlElement, ImportedFile>();
  readonly parsedValues = new Map<string, readonly XmlNode[]>();
  readonly expandedSizes = new Map<string, number>();
  readonly components = new Map<string, Component>();
  readonly variables = new Map<string, string>();
  readonly images = new Map<string, ImportedImage>();
  readonly axes = new Map<string, Set<string>>();
  readonly named = new NamedPlaces((kind, message, at) => this.note(kind, message, at));
  readonly notes: ImportNote[] = [];
  readonly entities: EntityTable;
  readonly openFiles: string[] = [];
  /** Files to be put in as text that are none. */
  readonly unreadable = new Set<string>();
  /** Topics whose sections became entries, by file. */
  readonly hoisted = new Map<string, readonly OutlineEntry[]>();
  /** Entities that a profiles file gives values and the source does not. */
  readonly withoutDefault = new Set<string>();
  /** The numbers of callouts, by id. */
  readonly callouts = new Map<string, number>();
  calloutCount = 0;
  footnoteCount = 0;
  entryCount = 0;
  /** The last number of the ordered list before. */
  lastNumber = 0;
  /** Whether the book has a place for an index. */
  asksForIndex = false;
  private readonly noted = new Set<string>();
  private readonly taken = new Set<string>();
  private expanded = 0;

  constructor(
    readonly options: DocbookImport,
    private readonly conversion: Conversion,
  ) {
    this.entities = new EntityTable(options.read, (message, at) => this.note('missing file', message, at));
    for (const name of overriddenNames(options.profiles)) {
      this.entities.declare({ name, value: '', file: 'profiles', line: 1 });
      this.withoutDefault.add(name);
    }
  }

  flow(nodes: readonly XmlNode[], context: Context): readonly Flow[] {
    return this.conversion.flow(this, nodes, context);
  }

  inline(nodes: readonly XmlNode[], marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    return this.conversion.inline(this, nodes, marks, context);
  }

  isBlock(node: XmlNode): boolean {
    return this.conversion.isBlock(this, node);
  }

  topic(element: XmlElement, key: string, hoist: boolean): readonly OutlineEntry[] {
    return this.conversion.topic(this, element, key, hoist);
  }

  /** An attribute with its entity references expanded to text. */
  attribute(element: XmlElement, name: string): string | null {
    const raw = element.attrs[name];
    if (raw === undefined) return null;
    return splitReferences(raw)
      .map((part) => (part.entity ? this.entityText(part.text) : part.text))
      .join('');
  }

  entityText(name: string): string {
    const reference = { kind: 'entity', name, file: this.options.main, line: 1 } as const;
    const nodes = this.valueNodes(reference) && this.expandedValue(reference);
    return nodes ? nodes.map((node) => this.expandedText(node)).join('') : (publicCharacter(name) ?? '');
  }

  expandedText(node: XmlNode): string {
    if (node.kind === 'text') return node.text;
    return node.kind === 'entity'
      ? this.entityText(node.name)
      : node.children.map((child) => this.expandedText(child)).join('');
  }

  /** The condition that an element's effectivity attributes make, or null. */
  conditionOn(element: XmlElement): string | null {
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

  idAttr(element: XmlElement, context: Context): Record<string, unknown> {
    const id = this.idOf(element);
    if (id === null) return {};
    this.name(id, { component: context.component, block: id }, element);
    return { id };
  }

  /** The id of an element, entities in it expanded. */
  idOf(element: XmlElement): string | null {
    return this.attribute(element, 'id') ?? this.attribute(element, 'xml:id');
  }

  /** Takes down what an id names; the first element counts where several have one id. */
  name(id: string, target: Target, at: XmlElement): void {
    this.named.label(id, this.attribute(at, 'xreflabel') ?? this.innerName(at));
    this.named.claim(id, at);
    this.named.lead(id, target);
  }

  /** Lets ids of parts of an element, such as its title, name the element. */
  nameParts(elements: readonly XmlNode[], target: Target): void {
    for (const node of elements) {
      if (node.kind !== 'element') continue;
      const id = this.idOf(node);
      if (id === null) continue;
      this.name(id, target, node);
      this.named.reads(id, this.expandedText(node));
    }
  }

  /** What references to an element without a title call it: the first name in it (DocBook XSL, “xref-to”). */
  private innerName(element: XmlElement): string | null {
    const wanted = innerNames[element.name];
    const first = wanted === undefined ? null : firstNamed(element, wanted);
    return first && this.expandedText(first).replace(/\s+/g, ' ').trim();
  }

  /** Lets ids that no block was found for name the whole component. */
  leadRest(context: Context): void {
    for (const id of context.anchors.splice(0)) this.named.lead(id, { component: context.component, block: null });
  }

  newKey(wanted: string): string {
    const key = freeKey(wanted, (each) => this.taken.has(each) || (this.options.isTaken?.(each) ?? false));
    this.taken.add(key);
    return key;
  }

  /** Takes down what is worth saying once, wherever it comes up. */
  noteOnce(kind: ImportNoteKind, message: string, at: { readonly file: string; readonly line: number }): void {
    if (this.noted.has(message)) return;
    this.noted.add(message);
    this.note(kind, message, at);
  }

  note(kind: ImportNoteKind, message: string, { file, line }: { readonly file: string; readonly line: number }): void {
    const key = `${file}:${line}:${message}`;
    if (this.noted.has(key)) return;
    this.noted.add(key);
    if (this.notes.length < mostImportNotes) this.notes.push({ kind, message, file, line });
    else if (this.notes.length === mostImportNotes)
      this.notes.push({
        kind,
        message: `There is more to note than ${mostImportNotes} places; the rest is not kept.`,
        file,
        line,
      });
  }

  countExpanded(size: number, at: XmlNode): void {
    this.expanded += size;
    if (this.expanded > entityLimits.expanded)
      throw new ImportFault('The source is larger than an import may be.', at.file, at.line);
  }

  /**
   * The value of a text entity, to be put in place of a reference.
   * @throws ImportFault where all that was put in is more than any manual needs
   */
  expandedValue(reference: XmlEntityReference): readonly XmlNode[] {
    const nodes = this.valueNodes(reference) ?? [];
    this.countExpanded(entityLimits.reference + (this.expandedSizes.get(reference.name) ?? 0), reference);
    return nodes;
  }

  valueNodes(reference: XmlEntityReference): readonly XmlNode[] | null {
    const known = this.parsedValues.get(reference.name);
    if (known) return known;
    const declaration = this.entities.declared(reference.name);
    if (!declaration || declaration.value === null) return null;
    const nodes = parseXml(declaration.value, declaration.file, { firstLine: declaration.line });
    this.parsedValues.set(reference.name, nodes);
    return nodes;
  }
}
