import { assignIds, idsAfter, tidyBody } from '../../content/body.js';
import { addMark } from '../../content/marks.js';
import {
  childrenOf,
  makeNode,
  makeText,
  textAttr,
  textOf,
  type ContentMark,
  type ContentNode,
} from '../../content/node.js';
import { freeKey, keyFromTitle, type Component, type VariableBody } from '../../library/component.js';
import type { OutlineEntry, VariableValues } from '../../publication/publication.js';
import { bothConditions, printCondition, type Condition } from '../../variation/condition-syntax.js';
import type { AxisChoice } from '../../variation/profile.js';
import type { ProfilesFile } from '../../contract/profiles-file.js';
import {
  ImportFault,
  type ImportedImage,
  type ImportedProfile,
  type ImportNote,
  type ImportResult,
} from '../import-result.js';
import { EntityTable, entityLimits, insideFolder, pathBeside, publicCharacter, type ReadFile } from './entities.js';
import { normalizeSpaces } from './spaces.js';
import {
  admonitionElements,
  blockElements,
  chapterElements,
  effectivityAttributes,
  infoElements,
  listElements,
  markElements,
  partElements,
  sectionElements,
  transparentElements,
  verbatimElements,
} from './vocabulary.js';
import {
  parseXml,
  referenceEnd,
  referenceStart,
  type XmlElement,
  type XmlEntityReference,
  type XmlNode,
} from './xml.js';

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

/**
 * Imports a DocBook 4 or 5 document with its reuse: every external entity file becomes one component
 * (a topic where it holds one chapter or section, a snippet otherwise), placed wherever it is referred
 * to; every text entity becomes one variable; effectivity attributes become conditions. What it does not
 * know is kept as text and noted.
 * @throws ImportFault where the source is malformed, hostile or points outside its folder
 */
export function importDocbook(options: DocbookImport): ImportResult {
  return new DocbookImporter(options).run();
}

type Flow = ContentNode;

/** What is known of an external entity's file. */
interface ImportedFile {
  readonly path: string;
  readonly nodes: readonly XmlNode[];
  readonly shape: 'topic' | 'fragment' | 'phrase' | 'parts' | 'info';
  /** The condition on the single element of a topic's file, which goes to its placements. */
  readonly when: string | null;
  key: string | null;
}

/** Where content is being converted: its component, and what it gathered for it. */
interface Context {
  readonly component: string;
  /** Footnotes waiting for the end of the block that refers to them. */
  readonly footnotes: ContentNode[];
  /** XML ids that name the block being built, where their own element makes none. */
  readonly anchors: string[];
}

interface Target {
  readonly component: string;
  readonly block: string | null;
}

class DocbookImporter {
  private readonly entities: EntityTable;
  private readonly files = new Map<string, ImportedFile>();
  private readonly parsedValues = new Map<string, readonly XmlNode[]>();
  private readonly expandedSizes = new Map<string, number>();
  private readonly components = new Map<string, Component>();
  private readonly variables = new Map<string, string>();
  private readonly images = new Map<string, ImportedImage>();
  private readonly axes = new Map<string, Set<string>>();
  private readonly targets = new Map<string, Target>();
  private readonly notes: ImportNote[] = [];
  private readonly noted = new Set<string>();
  private readonly taken = new Set<string>();
  private readonly openFiles: string[] = [];
  private expanded = 0;
  private entryCount = 0;

  constructor(private readonly options: DocbookImport) {
    this.entities = new EntityTable(options.read);
    for (const name of overriddenNames(options.profiles)) {
      this.entities.declare({ name, value: '', file: 'profiles', line: 1 });
      this.withoutDefault.add(name);
    }
  }

  private readonly withoutDefault = new Set<string>();

  run(): ImportResult {
    const { main, publication } = this.options;
    const text = this.options.read(main);
    if (text === undefined) throw new ImportFault('The file does not exist.', main, 1);
    const nodes = parseXml(text, main, {
      onDoctype: (doctype, line) => this.entities.readDoctype(doctype, main, line),
    });
    this.checkExpansion();
    const root = nodes.find((node): node is XmlElement => node.kind === 'element');
    if (!root) throw new ImportFault('The document has no root element.', main, 1);

    const key = this.newKey(keyFromTitle(publication));
    const entries =
      root.name === 'book' || root.name === 'article' || root.name === 'set'
        ? this.bookEntries(root, key)
        : this.entriesOf([root], root.name === 'part' ? 'part' : null);
    const profiles = this.profiles();
    this.notes.sort((a, b) => a.file.localeCompare(b.file) || a.line - b.line);
    return {
      publication: { key, title: makeNode('phrase', null, [makeText(publication)]), values: {}, entries },
      components: [...this.components.values()].map((component) => this.finished(component)),
      images: [...this.images.values()],
      axes: [...this.axes].map(([axis, values]) => ({ key: axis, values: [...values] })),
      profiles,
      notes: this.notes,
    };
  }

  // --- the book and its outline ---------------------------------------------------------------

  private bookEntries(book: XmlElement, publicationKey: string): readonly OutlineEntry[] {
    const entries: OutlineEntry[] = [];
    const front = this.frontTopic(book, publicationKey);
    if (front) entries.push(front);
    const rest = book.children.filter(
      (node) => !this.isInfo(node) && !isElement(node, 'title', 'subtitle', 'titleabbrev'),
    );
    entries.push(...this.entriesOf(rest, null));
    return entries;
  }

  /** Outline entries for chapters, parts and external entities; loose content becomes a topic of its own. */
  private entriesOf(nodes: readonly XmlNode[], within: 'part' | null): readonly OutlineEntry[] {
    const entries: OutlineEntry[] = [];
    for (const node of nodes) {
      if (node.kind === 'text') {
        if (node.text.trim() !== '') {
          this.note('Text between chapters became a topic of its own.', node);
          entries.push(
            this.entryForElement({ ...node, kind: 'element', name: 'preface', attrs: {}, children: [node] }),
          );
        }
      } else if (node.kind === 'entity' || node.name === 'xi:include') {
        const file = this.fileOf(node);
        if (!file) {
          const value = node.kind === 'entity' ? this.valueNodes(node) : null;
          if (value) entries.push(...this.entriesOf(value, within));
        } else if (file.shape === 'topic') entries.push(this.entryForFile(file, node));
        else if (file.shape !== 'info') entries.push(...this.entriesOf(file.nodes, within));
      } else if (chapterElements.has(node.name) || sectionElements.has(node.name)) {
        entries.push(this.entryForElement(node));
      } else if (!['toc', 'lot', 'index'].includes(node.name)) {
        this.note(`<${node.name}> between chapters became a topic of its own.`, node);
        entries.push(this.entryForElement(node));
      }
    }
    return entries;
  }

  private entryForFile(file: ImportedFile, at: XmlNode): OutlineEntry {
    const root = soleElement(file.nodes) as XmlElement;
    const known = this.hoisted.get(file.path);
    const entries = known ?? this.inFile(file.path, at, () => this.topic(root, this.keyForFile(file, at), true));
    this.hoisted.set(file.path, entries);
    return {
      id: this.entryId(),
      topic: file.key as string,
      ...(file.when === null ? {} : { when: file.when }),
      role: roleOf(root),
      // A second entry of the same topic gets ids of its own below it, too.
      entries: known ? this.freshIds(entries) : entries,
    };
  }

  private readonly hoisted = new Map<string, readonly OutlineEntry[]>();

  private freshIds(entries: readonly OutlineEntry[]): readonly OutlineEntry[] {
    return entries.map((entry) => ({ ...entry, id: this.entryId(), entries: this.freshIds(entry.entries ?? []) }));
  }

  private entryForElement(element: XmlElement): OutlineEntry {
    const title = this.titleText(element);
    const key = this.newKey(keyFromTitle(idOf(element) ?? (title || element.name)));
    const entries = this.topic(element, key, true);
    const when = this.conditionOn(element);
    return { id: this.entryId(), topic: key, ...(when === null ? {} : { when }), role: roleOf(element), entries };
  }

  private entryId(): string {
    this.entryCount += 1;
    return `e${this.entryCount}`;
  }

  /**
   * Makes a topic of an element.
   * @param hoist whether section files that end the element become entries below it instead of placements
   * @returns the entries below it
   */
  private topic(element: XmlElement, key: string, hoist: boolean): readonly OutlineEntry[] {
    const id = idOf(element);
    if (id !== null) this.targets.set(id, { component: key, block: null });
    const context: Context = { component: key, footnotes: [], anchors: [] };
    const title = this.title(element, context);
    const content = element.children.filter((node) => !isElement(node, 'title', 'subtitle', 'titleabbrev'));
    let entries: readonly OutlineEntry[] = [];
    let own: readonly XmlNode[] = content;
    if (hoist && element.name === 'part') {
      const first = content.findIndex((node) => this.isChapterLike(node));
      own = first < 0 ? content : content.slice(0, first);
      entries = this.entriesOf(content.slice(own.length), 'part');
    } else if (hoist) {
      let from = content.length;
      while (from > 0 && this.mayHoist(content[from - 1] as XmlNode)) from -= 1;
      own = content.slice(0, from);
      entries = this.entriesOf(
        content.slice(from).filter((node) => node.kind !== 'text'),
        null,
      );
    }
    const flow = this.flow(own, context);
    const notes = context.footnotes.splice(0);
    const body = makeNode('topic', null, [title, ...notes, ...(flow.length > 0 ? flow : [makeNode('paragraph')])]);
    this.components.set(key, {
      key,
      kind: 'topic',
      title: this.plainTitle(title) || key,
      revision: 1,
      body,
    });
    return entries;
  }

  private isChapterLike(node: XmlNode): boolean {
    if (node.kind === 'element' && node.name !== 'xi:include')
      return chapterElements.has(node.name) && node.name !== 'partintro';
    return node.kind !== 'text' && this.fileOf(node)?.shape === 'topic';
  }

  private mayHoist(node: XmlNode): boolean {
    if (node.kind === 'text') return node.text.trim() === '';
    if (node.kind === 'element' && node.name !== 'xi:include') return false;
    return this.fileOf(node)?.shape === 'topic';
  }

  private frontTopic(book: XmlElement, publicationKey: string): OutlineEntry | null {
    const info = book.children.find((node) => this.isInfo(node));
    const file = info ? this.fileOf(info) : null;
    const element = file ? (soleElement(file.nodes) as XmlElement) : info?.kind === 'element' ? info : null;
    const titled = element && element.children.some((node) => isElement(node, 'title')) ? element : book;
    const key = this.newKey(`${publicationKey}-about`);
    const context: Context = { component: key, footnotes: [], anchors: [] };
    const title = this.title(titled, context);
    let flow: readonly Flow[] = [];
    if (file && element) {
      const snippet = this.newKey(keyFromTitle(baseName(file.path)));
      file.key = snippet;
      const inside: Context = { component: snippet, footnotes: [], anchors: [] };
      const content = this.infoFlow(element, inside);
      if (content.length > 0) {
        this.addSnippet(snippet, makeNode('fragment', null, content), this.plainTitle(title) || snippet);
        flow = [makeNode('placement', { component: snippet })];
      }
    } else if (element) flow = this.infoFlow(element, context);
    // The publication has the title already; a topic with nothing else would say it twice.
    if (flow.length === 0) return null;
    const body = makeNode('topic', null, [title, ...flow]);
    this.components.set(key, { key, kind: 'topic', title: this.plainTitle(title) || key, revision: 1, body });
    return { id: this.entryId(), topic: key, role: 'front', entries: [] };
  }

  private isInfo(node: XmlNode): boolean {
    if (node.kind === 'element' && node.name !== 'xi:include') return infoElements.has(node.name);
    return node.kind !== 'text' && this.fileOf(node)?.shape === 'info';
  }

  /** What a book says about itself, as content. */
  private infoFlow(info: XmlElement, context: Context): readonly Flow[] {
    const order = ['copyright', 'legalnotice', 'abstract'];
    const elements = info.children.filter((node): node is XmlElement => node.kind === 'element');
    const sorted = [
      ...elements.filter((node) => !order.includes(node.name)),
      ...order.flatMap((name) => elements.filter((node) => node.name === name)),
    ];
    return sorted.flatMap((node) => {
      if (['title', 'subtitle', 'titleabbrev', 'keywordset', 'subjectset', 'revhistory'].includes(node.name)) return [];
      if (node.name === 'abstract') return [this.titledSection(node, 'Abstract', context)];
      if (node.name === 'legalnotice') return this.flow(withoutTitle(node), context);
      if (node.name === 'copyright') {
        const years = node.children.filter((each) => isElement(each, 'year'));
        const holders = node.children.filter((each) => isElement(each, 'holder'));
        const inline = normalizeSpaces([
          makeText('Copyright © '),
          ...this.joined(years, ', ', context),
          makeText(' '),
          ...this.joined(holders, ', ', context),
        ]);
        return this.conditioned([makeNode('paragraph', null, inline)], this.conditionOn(node));
      }
      return this.flow([node], context);
    });
  }

  private joined(nodes: readonly XmlNode[], separator: string, context: Context): readonly ContentNode[] {
    return nodes.flatMap((node, index) => [
      ...(index > 0 ? [makeText(separator)] : []),
      ...this.inline(node.kind === 'element' ? node.children : [node], [], context),
    ]);
  }

  private titledSection(element: XmlElement, fallback: string, context: Context): Flow {
    const own = element.children.find((node) => isElement(node, 'title'));
    const title = own ? this.title(element, context) : makeNode('title', null, [makeText(fallback)]);
    return makeNode('section', { numbered: false, when: this.conditionOn(element) }, [
      title,
      ...this.flow(withoutTitle(element), context),
    ]);
  }

  // --- blocks -----------------------------------------------------------------------------------

  /** Converts nodes that stand in a flow of blocks; runs of text and inline elements become paragraphs. */
  private flow(nodes: readonly XmlNode[], context: Context): readonly Flow[] {
    const blocks: Flow[] = [];
    let run: XmlNode[] = [];
    const flush = (): void => {
      if (run.some((node) => node.kind !== 'text' || node.text.trim() !== '')) {
        const content = normalizeSpaces(this.inline(run, [], context));
        if (content.length > 0) blocks.push(this.paragraph(content, null, context), ...context.footnotes.splice(0));
      }
      run = [];
    };
    for (const node of nodes) {
      if (!this.isBlock(node)) {
        run.push(node);
        continue;
      }
      flush();
      blocks.push(...this.block(node as XmlElement | XmlEntityReference, context), ...context.footnotes.splice(0));
    }
    flush();
    return blocks;
  }

  private paragraph(content: readonly ContentNode[], when: string | null, context: Context): Flow {
    const [id, ...more] = context.anchors.splice(0);
    for (const alias of more) this.targets.set(alias, { component: context.component, block: id ?? null });
    if (id !== undefined) this.targets.set(id, { component: context.component, block: id });
    return makeNode('paragraph', { id, when }, content);
  }

  private isBlock(node: XmlNode): boolean {
    if (node.kind === 'text') return false;
    if (node.kind === 'element' && node.name !== 'xi:include') {
      return (
        blockElements.has(node.name) ||
        infoElements.has(node.name) ||
        partElements.has(node.name) ||
        this.holdsBlocks(node)
      );
    }
    const file = this.fileOf(node);
    if (file) return file.shape !== 'phrase';
    return node.kind === 'entity' && this.isBlockValue(node);
  }

  /** Whether an inline element was put around blocks. */
  private holdsBlocks(element: XmlElement): boolean {
    if (element.name === 'footnote' || element.name === 'inlinemediaobject' || element.name === 'indexterm')
      return false;
    return element.children.some((child) => this.isBlock(child));
  }

  private isBlockValue(reference: XmlEntityReference): boolean {
    const nodes = this.valueNodes(reference);
    return nodes?.some((node) => this.isBlock(node)) ?? false;
  }

  private block(node: XmlElement | XmlEntityReference, context: Context): readonly Flow[] {
    if (node.kind === 'entity' || node.name === 'xi:include') return this.blockReference(node, context);
    return this.conditioned(this.element(node, context), this.conditionOn(node));
  }

  private blockReference(node: XmlElement | XmlEntityReference, context: Context): readonly Flow[] {
    const file = this.fileOf(node);
    if (!file) {
      if (node.kind !== 'entity') return [];
      this.note(`The entity “${node.name}” holds blocks; they were put in place of it.`, node);
      return this.flow(this.valueNodes(node) ?? [], context);
    }
    if (file.shape === 'parts' || file.shape === 'info') {
      this.note(`“${file.path}” holds parts of a list or table; they were put in place of it.`, node);
      return this.inFile(file.path, node, () => this.flow(file.nodes, context));
    }
    const key = this.componentOfFile(file, node);
    return [
      makeNode('placement', { component: key, when: file.when, withTitle: file.shape === 'topic' ? true : null }),
    ];
  }

  private element(element: XmlElement, context: Context): readonly Flow[] {
    const { name } = element;
    const admonition = admonitionElements[name];
    if (admonition !== undefined) {
      const title = element.children.some((node) => isElement(node, 'title')) ? [this.title(element, context)] : [];
      return this.ifAny(this.flow(withoutTitle(element), context), (content) =>
        makeNode('admonition', { ...this.idAttr(element, context), kind: admonition }, [
          ...title,
          ...this.onlyBlocks(content, element),
        ]),
      );
    }
    if (verbatimElements.has(name)) return [this.verbatim(element, context)];
    if (listElements.has(name)) return this.list(element, context);
    if (sectionElements.has(name) || chapterElements.has(name)) return [this.section(element, context)];
    switch (name) {
      case 'para':
      case 'simpara':
        return this.para(element, context);
      case 'formalpara':
        return this.formalPara(element, context);
      case 'bridgehead':
        return [
          makeNode('paragraph', null, normalizeSpaces(this.inline(element.children, [{ type: 'strong' }], context))),
        ];
      case 'example':
      case 'informalexample':
      case 'sidebar':
        return this.ifAny(this.flow(withoutTitle(element), context), (content) => {
          const title = element.children.some((node) => isElement(node, 'title')) ? [this.title(element, context)] : [];
          return makeNode('example', this.idAttr(element, context), [...title, ...this.onlyBlocks(content, element)]);
        });
      case 'blockquote':
      case 'epigraph': {
        const by = element.children.find((node) => isElement(node, 'attribution'));
        const attribution = by ? xmlText(by).trim() : null;
        const content = this.flow(
          withoutTitle(element).filter((node) => node !== by),
          context,
        );
        return this.ifAny(content, () =>
          makeNode('quotation', { ...this.idAttr(element, context), attribution }, content),
        );
      }
      case 'table':
      case 'informaltable':
        return this.table(element, context);
      case 'figure':
      case 'informalfigure':
      case 'mediaobject':
      case 'screenshot':
        return this.figure(element, context);
      case 'abstract':
        return [this.titledSection(element, 'Abstract', context)];
      case 'legalnotice':
      case 'highlights':
        return this.flow(withoutTitle(element), context);
      default:
        return this.unknownBlock(element, context);
    }
  }

  private unknownBlock(element: XmlElement, context: Context): readonly Flow[] {
    if (infoElements.has(element.name)) {
      this.note(`<${element.name}> was left out.`, element);
      return [];
    }
    if (!transparentElements.has(element.name) && !(element.name in markElements)) {
      this.note(`<${element.name}> is not known here; its text was kept.`, element);
    }
    return this.flow(element.children, context);
  }

  private para(element: XmlElement, context: Context): readonly Flow[] {
    const id = idOf(element);
    if (id !== null) context.anchors.push(id);
    const blocks = this.flow(element.children, context);
    // An id on an empty paragraph names whatever comes next.
    return blocks;
  }

  private formalPara(element: XmlElement, context: Context): readonly Flow[] {
    const title = this.title(element, context);
    const lead = childrenOf(title).map((node) => ({ ...node, marks: addMark(node.marks ?? [], { type: 'strong' }) }));
    const [first, ...rest] = this.flow(withoutTitle(element), context);
    const period = /[.!?:]$/.test(textOf(title)) ? ' ' : '. ';
    const start = [...lead, makeText(period, [{ type: 'strong' }])];
    if (first?.type === 'paragraph') return [{ ...first, content: [...start, ...childrenOf(first)] }, ...rest];
    return [makeNode('paragraph', null, start), ...(first ? [first, ...rest] : [])];
  }

  private section(element: XmlElement, context: Context): Flow {
    const attrs = this.idAttr(element, context);
    const title = this.title(element, context);
    const notes = context.footnotes.splice(0);
    const flow = this.flow(withoutTitle(element), context);
    const numbered = element.name === 'simplesect' ? false : null;
    return makeNode('section', { ...attrs, numbered }, [title, ...notes, ...flow]);
  }

  private title(element: XmlElement, context: Context): ContentNode {
    const inInfo = element.children.filter(
      (node): node is XmlElement => node.kind === 'element' && infoElements.has(node.name),
    );
    const titles = [...element.children, ...inInfo.flatMap((info) => info.children)].filter((node) =>
      isElement(node, 'title'),
    );
    const inline = titles.flatMap((node) => {
      const title = node as XmlElement;
      return this.withCondition(this.inline(title.children, [], context), this.conditionOn(title));
    });
    return makeNode('title', null, normalizeSpaces(inline));
  }

  private verbatim(element: XmlElement, context: Context): Flow {
    const inline = this.inline(element.children, [], context);
    // A line break right after the start tag and before the end tag is layout of the source.
    const content = trimVerbatim(inline);
    return makeNode(
      'code_block',
      { ...this.idAttr(element, context), language: element.attrs['language'] ?? null },
      content,
    );
  }

  private list(element: XmlElement, context: Context): readonly Flow[] {
    const before = element.children.filter(
      (node) => node.kind === 'element' && !partElements.has(node.name) && this.isBlock(node),
    );
    const lead = this.flow(before, context);
    const title = element.children.some((node) => isElement(node, 'title'))
      ? [
          makeNode(
            'paragraph',
            null,
            childrenOf(this.title(element, context)).map((node) => ({
              ...node,
              marks: addMark(node.marks ?? [], { type: 'strong' }),
            })),
          ),
        ]
      : [];
    const attrs = this.idAttr(element, context);
    const parts = this.parts(element.children);
    const made = ((): Flow | null => {
      switch (element.name) {
        case 'variablelist':
        case 'glosslist':
        case 'qandaset':
          return this.nonEmpty(
            'definition_list',
            attrs,
            parts.flatMap((part) => this.definition(part, context)),
          );
        case 'procedure':
        case 'substeps':
          return this.nonEmpty(
            'steps',
            attrs,
            parts.map((part) => this.item('step', part, context)),
          );
        case 'orderedlist':
          return this.nonEmpty(
            'ordered_list',
            { ...attrs, style: numeration(element.attrs['numeration']) },
            parts.map((part) => this.item('list_item', part, context)),
          );
        default:
          return this.nonEmpty(
            'bullet_list',
            attrs,
            parts.map((part) => this.item('list_item', part, context)),
          );
      }
    })();
    return [...title, ...lead, ...(made ? [made] : [])];
  }

  /** The parts of a list or table, entities that hold parts expanded. */
  private parts(nodes: readonly XmlNode[]): readonly XmlElement[] {
    return nodes.flatMap((node) => {
      if (node.kind === 'text') return [];
      if (node.kind === 'element' && node.name !== 'xi:include') return partElements.has(node.name) ? [node] : [];
      const file = this.fileOf(node);
      const inner = file ? file.nodes : node.kind === 'entity' ? (this.valueNodes(node) ?? []) : [];
      if (inner.length > 0)
        this.note(`The parts that the entity “${nameOf(node)}” holds were put in place of it.`, node);
      return this.parts(inner);
    });
  }

  private nonEmpty(type: string, attrs: Record<string, unknown>, content: readonly ContentNode[]): Flow | null {
    return content.length > 0 ? makeNode(type, attrs, content) : null;
  }

  private item(type: 'list_item' | 'step', part: XmlElement, context: Context): ContentNode {
    const title = part.children.some((node) => isElement(node, 'title'))
      ? [
          makeNode(
            'paragraph',
            null,
            childrenOf(this.title(part, context)).map((node) => ({
              ...node,
              marks: addMark(node.marks ?? [], { type: 'strong' }),
            })),
          ),
        ]
      : [];
    const attrs = { ...this.idAttr(part, context), when: this.conditionOn(part) };
    const content = [...title, ...this.onlyBlocks(this.flow(withoutTitle(part), context), part)];
    return makeNode(type, attrs, content.length > 0 ? content : [makeNode('paragraph')]);
  }

  private definition(part: XmlElement, context: Context): readonly ContentNode[] {
    const isTerm = (node: XmlNode): boolean => isElement(node, 'term', 'glossterm', 'question');
    const terms = part.children.filter(isTerm) as XmlElement[];
    const below = part.children.filter((node) =>
      isElement(node, 'listitem', 'glossdef', 'answer', 'glosssee', 'glossseealso'),
    ) as XmlElement[];
    const attrs = { ...this.idAttr(part, context), when: this.conditionOn(part) };
    const termNodes = terms.map((term) => {
      const when = this.conditionOn(term);
      return makeNode('term', { when }, normalizeSpaces(this.inlineOnly(term, context)));
    });
    const notes = context.footnotes.splice(0);
    const blocks = below.flatMap((node) => this.conditioned(this.flow(node.children, context), this.conditionOn(node)));
    const content = [...notes, ...this.onlyBlocks(blocks, part)];
    return [
      makeNode('definition', attrs, [
        ...(termNodes.length > 0 ? termNodes : [makeNode('term')]),
        makeNode('description', null, content.length > 0 ? content : [makeNode('paragraph')]),
      ]),
    ];
  }

  /** The inline content of an element that may hold paragraphs, joined by spaces. */
  private inlineOnly(element: XmlElement, context: Context): readonly ContentNode[] {
    return element.children.flatMap((node) =>
      isElement(node, 'para', 'simpara')
        ? [...this.inline((node as XmlElement).children, [], context), makeText(' ')]
        : this.inline([node], [], context),
    );
  }

  private table(element: XmlElement, context: Context): readonly Flow[] {
    const caption = element.children.some((node) => isElement(node, 'title', 'caption'))
      ? [
          makeNode(
            'caption',
            null,
            childrenOf(this.title({ ...element, children: element.children.map(captionAsTitle) }, context)),
          ),
        ]
      : [];
    const attrs = this.idAttr(element, context);
    const groups = element.children.filter((node): node is XmlElement => isElement(node, 'tgroup'));
    const bodies = groups.length > 0 ? groups : [element];
    return bodies.flatMap((group, index) => {
      const grid = this.grid(group, context);
      if (!grid) return [];
      return [makeNode('table', index === 0 ? attrs : null, index === 0 ? [...caption, grid] : [grid])];
    });
  }

  private grid(group: XmlElement, context: Context): ContentNode | null {
    const columnNames = new Map<string, number>();
    const specs = group.children.filter((node): node is XmlElement => isElement(node, 'colspec', 'col'));
    specs.forEach((spec, index) => {
      const name = spec.attrs['colname'];
      if (name) columnNames.set(name, Number(spec.attrs['colnum'] ?? index + 1));
    });
    const conditions = specs.map((spec) => this.conditionOn(spec));
    const columns = conditions.some((when) => when !== null) ? conditions.map((when) => ({ width: null, when })) : null;
    const rows: ContentNode[] = [];
    const addRows = (nodes: readonly XmlNode[], header: boolean, when: string | null): void => {
      for (const part of this.parts(nodes)) {
        const own = bothConditions(when, this.conditionOn(part));
        if (part.name === 'thead') addRows(part.children, true, own);
        else if (part.name === 'tbody') addRows(part.children, header, own);
        else if (part.name === 'row' || part.name === 'tr')
          rows.push(this.row(part, header, own, columnNames, context));
      }
    };
    addRows(
      group.children.map((node) => (isElement(node, 'tfoot') ? { ...(node as XmlElement), name: 'tbody' } : node)),
      false,
      null,
    );
    return rows.length > 0 ? makeNode('table_grid', { columns }, rows) : null;
  }

  private row(
    row: XmlElement,
    header: boolean,
    when: string | null,
    columnNames: ReadonlyMap<string, number>,
    context: Context,
  ): ContentNode {
    const cells = this.parts(row.children).map((cell) => {
      const { attrs } = cell;
      const first = columnNames.get(attrs['namest'] ?? '');
      const last = columnNames.get(attrs['nameend'] ?? '');
      const colspan = first && last ? last - first + 1 : Number(attrs['colspan'] ?? 1);
      const rowspan = attrs['morerows'] ? Number(attrs['morerows']) + 1 : Number(attrs['rowspan'] ?? 1);
      const content = this.onlyBlocks(
        this.conditioned(this.flow(cell.children, context), this.conditionOn(cell)),
        cell,
      );
      const type = header || cell.name === 'th' ? 'table_header' : 'table_cell';
      return makeNode(
        type,
        { colspan: colspan > 1 ? colspan : null, rowspan: rowspan > 1 ? rowspan : null, align: attrs['align'] ?? null },
        content.length > 0 ? content : [makeNode('paragraph')],
      );
    });
    return makeNode('table_row', { when, header: header || null }, cells);
  }

  private figure(element: XmlElement, context: Context): readonly Flow[] {
    const pictures: ContentNode[] = [];
    const collect = (node: XmlElement, when: string | null): void => {
      const own = bothConditions(when, node === element ? null : this.conditionOn(node));
      if (node.name === 'imagedata' || node.name === 'graphic') {
        const picture = this.image(node, this.altOf(element), own);
        if (picture) pictures.push(picture);
        return;
      }
      for (const child of node.children) if (child.kind === 'element') collect(child, own);
    };
    collect(element, null);
    if (pictures.length === 0) {
      const text = xmlText(element).replace(/\s+/g, ' ').trim();
      if (text !== '') this.note('A figure without a picture: its text was kept.', element);
      return text === '' ? [] : [makeNode('paragraph', null, [makeText(text)])];
    }
    const captionFrom = element.children.some((node) => isElement(node, 'title', 'caption'));
    const caption = captionFrom
      ? [
          makeNode(
            'caption',
            null,
            childrenOf(this.title({ ...element, children: element.children.map(captionAsTitle) }, context)),
          ),
        ]
      : [];
    return [makeNode('figure', this.idAttr(element, context), [...pictures, ...caption])];
  }

  private altOf(element: XmlElement): string | null {
    let alt: string | null = null;
    const visit = (node: XmlNode): void => {
      if (node.kind !== 'element' || alt !== null) return;
      if (node.name === 'phrase' || node.name === 'alt' || node.name === 'textobject')
        alt = xmlText(node).replace(/\s+/g, ' ').trim() || null;
      else node.children.forEach(visit);
    };
    visit(element);
    return alt;
  }

  private image(data: XmlElement, alt: string | null, when: string | null): ContentNode | null {
    const reference = this.attribute(data, 'fileref');
    if (!reference) return null;
    const path = pathBeside(data.file, reference, data.line);
    let image = this.images.get(path);
    if (!image) {
      const title = baseName(path);
      image = { key: this.newKey(keyFromTitle(title)), title, alt: alt ?? title, path };
      this.images.set(path, image);
    }
    return makeNode('picture', { component: image.key, alt, when });
  }

  /** Sections cannot stand inside lists, cells and the like: their title becomes a paragraph there. */
  private onlyBlocks(nodes: readonly Flow[], at: XmlElement): readonly Flow[] {
    return nodes.flatMap((node) => {
      if (node.type !== 'section') return [node];
      this.note(`A section inside <${at.name}> became paragraphs.`, at);
      const [title, ...rest] = childrenOf(node);
      return [makeNode('paragraph', null, title ? childrenOf(title) : []), ...this.onlyBlocks(rest, at)];
    });
  }

  private ifAny(content: readonly Flow[], make: (content: readonly Flow[]) => Flow): readonly Flow[] {
    return content.length > 0 ? [make(content)] : [];
  }

  // --- inline content ---------------------------------------------------------------------------

  private inline(nodes: readonly XmlNode[], marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    return nodes.flatMap((node) => {
      if (node.kind === 'text') return node.text === '' ? [] : [makeText(node.text, marks)];
      if (node.kind === 'entity' || node.name === 'xi:include') return this.inlineReference(node, marks, context);
      return this.inlineElement(node, marks, context);
    });
  }

  private inlineReference(
    node: XmlElement | XmlEntityReference,
    marks: readonly ContentMark[],
    context: Context,
  ): readonly ContentNode[] {
    const file = this.fileOf(node);
    if (file?.shape === 'phrase') {
      const when = file.when === null ? marks : addMark(marks, conditionMark(file.when));
      return [{ type: 'inline_placement', attrs: { component: this.componentOfFile(file, node) }, marks: when }];
    }
    if (file) {
      this.note(`“${file.path}” holds blocks inside a line; its text was kept.`, node);
      return this.inFile(file.path, node, () => this.inline(file.nodes, marks, context));
    }
    if (node.kind !== 'entity') return [];
    const declaration = this.entities.declared(node.name);
    if (!declaration) {
      const character = publicCharacter(node.name);
      if (character !== undefined) return [makeText(character, marks)];
      this.note(`The entity “${node.name}” is not declared; its name was kept.`, node);
      return [makeText(`&${node.name};`, marks)];
    }
    const value = declaration.value ?? '';
    if ([...value].length === 1 && !/[<&]/.test(value)) return [makeText(value, marks)];
    if (this.isBlockValue(node)) {
      this.note(`The entity “${node.name}” holds blocks inside a line; its text was kept.`, node);
      return this.inline(this.valueNodes(node) ?? [], marks, context);
    }
    return [{ type: 'variable', attrs: { key: this.variable(node) }, ...(marks.length > 0 ? { marks } : {}) }];
  }

  private inlineElement(element: XmlElement, outer: readonly ContentMark[], context: Context): readonly ContentNode[] {
    const when = this.conditionOn(element);
    const marks = when === null ? outer : addMark(outer, conditionMark(when));
    const id = idOf(element);
    if (id !== null && element.name !== 'footnote') context.anchors.push(id);
    const mark = markElements[element.name];
    if (mark) {
      const isStrong = element.name === 'emphasis' && /^(bold|strong)$/.test(element.attrs['role'] ?? '');
      return this.inline(element.children, addMark(marks, isStrong ? { type: 'strong' } : mark), context);
    }
    switch (element.name) {
      case 'ulink':
      case 'link':
      case 'uri':
        return this.link(element, marks, context);
      case 'xref':
      case 'olink':
        return [this.crossReference(element, marks, null)];
      case 'email': {
        const address = [makeText('<', marks), ...this.inline(element.children, marks, context), makeText('>', marks)];
        return address;
      }
      case 'keycombo':
        return this.interleaved(element, '+', marks, context);
      case 'menuchoice':
        return this.interleaved(element, ' → ', marks, context);
      case 'citerefentry':
        return this.manualPage(element, marks, context);
      case 'footnote':
        return this.footnote(element, marks, context);
      case 'footnoteref':
        return [
          {
            type: 'footnote_reference',
            attrs: { target: this.attribute(element, 'linkend') ?? '' },
            ...(marks.length > 0 ? { marks } : {}),
          },
        ];
      case 'indexterm':
        return this.indexMarker(element);
      case 'inlinemediaobject':
      case 'inlinegraphic': {
        const figure = this.figure(element, context)[0];
        const picture = figure ? childrenOf(figure).find((child) => child.type === 'picture') : undefined;
        return picture ? [{ ...picture, type: 'image', ...(marks.length > 0 ? { marks } : {}) }] : [];
      }
      case 'anchor':
        return [];
      case 'remark':
        this.note('A <remark> was left out.', element);
        return [];
      case 'trademark': {
        const sign: Readonly<Record<string, string>> = { registered: '®', copyright: '©', service: '℠' };
        return [
          ...this.inline(element.children, marks, context),
          makeText(sign[element.attrs['class'] ?? ''] ?? '™', marks),
        ];
      }
      default:
        if (!transparentElements.has(element.name) && !blockElements.has(element.name)) {
          this.note(`<${element.name}> is not known here; its text was kept.`, element);
        }
        return this.inline(element.children, marks, context);
    }
  }

  private link(element: XmlElement, marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    const linkend = this.attribute(element, 'linkend');
    if (linkend !== null) {
      const text = this.expandedText(element).replace(/\s+/g, ' ').trim();
      return [this.crossReference(element, marks, text === '' ? null : text)];
    }
    const raw = element.attrs['url'] ?? element.attrs['xlink:href'] ?? element.attrs['href'];
    if (raw === undefined) return this.inline(element.children, marks, context);
    if (raw.startsWith('#')) {
      const text = this.expandedText(element).replace(/\s+/g, ' ').trim();
      return [this.crossReference({ ...element, attrs: { linkend: raw.slice(1) } }, marks, text === '' ? null : text)];
    }
    const inside = addMark(marks, { type: 'link', attrs: { href: this.template(raw, element) } });
    const content = this.inline(element.children, inside, context);
    if (content.length > 0) return content;
    return splitReferences(raw).flatMap((part) =>
      part.entity
        ? this.inlineReference(
            { kind: 'entity', name: part.text, file: element.file, line: element.line },
            inside,
            context,
          )
        : [makeText(part.text, inside)],
    );
  }

  /** An address with entity references as a URI template over the variables they became. */
  private template(raw: string, at: XmlElement): string {
    return splitReferences(raw)
      .map((part) => {
        if (!part.entity) return part.text.replace(/[{}]/g, encodeURIComponent);
        const declaration = this.entities.declared(part.text);
        if (!declaration) return publicCharacter(part.text) ?? `&${part.text};`;
        return `{+${this.variable({ kind: 'entity', name: part.text, file: at.file, line: at.line })}}`;
      })
      .join('')
      .trim();
  }

  private crossReference(element: XmlElement, marks: readonly ContentMark[], text: string | null): ContentNode {
    const linkend = this.attribute(element, 'linkend') ?? (element.attrs['xlink:href'] ?? '').replace(/^#/, '');
    const attrs = {
      linkend,
      file: element.file,
      line: element.line,
      form: text === null ? 'number-title' : 'text',
      text,
    };
    return { type: 'cross_reference', attrs, ...(marks.length > 0 ? { marks } : {}) };
  }

  private interleaved(
    element: XmlElement,
    separator: string,
    marks: readonly ContentMark[],
    context: Context,
  ): readonly ContentNode[] {
    const parts = element.children
      .filter((node) => node.kind !== 'text' || node.text.trim() !== '')
      .filter((node) => !isElement(node, 'shortcut'));
    return parts.flatMap((part, index) => [
      ...(index > 0 ? [makeText(separator, marks)] : []),
      ...this.inline([part], marks, context),
    ]);
  }

  private manualPage(element: XmlElement, marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    const title = element.children.find((node) => isElement(node, 'refentrytitle'));
    const volume = element.children.find((node) => isElement(node, 'manvolnum'));
    const name =
      title?.kind === 'element'
        ? this.inline(title.children, addMark(marks, { type: 'code', attrs: { kind: 'command' } }), context)
        : [];
    return [...name, ...(volume ? [makeText(`(${xmlText(volume).trim()})`, marks)] : [])];
  }

  private footnote(element: XmlElement, marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    this.footnoteCount += 1;
    const id = idOf(element) ?? `fn${this.footnoteCount}`;
    this.targets.set(id, { component: context.component, block: id });
    const inner: Context = { component: context.component, footnotes: [], anchors: [] };
    const content = this.onlyBlocks(this.flow(element.children, inner), element);
    context.footnotes.push(
      makeNode(
        'footnote',
        { id, when: this.conditionOn(element) },
        content.length > 0 ? content : [makeNode('paragraph')],
      ),
    );
    return [{ type: 'footnote_reference', attrs: { target: id }, ...(marks.length > 0 ? { marks } : {}) }];
  }

  private footnoteCount = 0;

  private indexMarker(element: XmlElement): readonly ContentNode[] {
    const text = (name: string): string | null => {
      const part = element.children.find((node) => isElement(node, name));
      return part ? xmlText(part).replace(/\s+/g, ' ').trim() : null;
    };
    const primary = text('primary');
    if (!primary) return [];
    return [
      makeNode('index_marker', { primary, secondary: text('secondary'), see: text('see'), seeAlso: text('seealso') }),
    ];
  }

  // --- entities, files and variables --------------------------------------------------------------

  /** The file behind an external entity or an inclusion; null for internal entities and other nodes. */
  private fileOf(node: XmlNode): ImportedFile | null {
    let path: string;
    if (node.kind === 'entity') {
      const declaration = this.entities.declared(node.name);
      if (!declaration || declaration.value !== null) return null;
      path = insideFolder(declaration.file, node.file, node.line);
    } else if (node.kind === 'element' && node.name === 'xi:include' && node.attrs['href']) {
      path = pathBeside(node.file, node.attrs['href'], node.line);
    } else return null;
    const known = this.files.get(path);
    if (known) return known;
    const text = this.options.read(path);
    if (text === undefined) throw new ImportFault(`The file “${path}” is missing.`, node.file, node.line);
    const nodes = parseXml(text, path, {
      onDoctype: (doctype, line) => this.entities.readDoctype(doctype, path, line),
    });
    this.countExpanded(text.length, node);
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
    this.files.set(path, file);
    return file;
  }

  private shapeOf(nodes: readonly XmlNode[], sole: XmlElement | null): ImportedFile['shape'] {
    if (sole && infoElements.has(sole.name)) return 'info';
    if (sole && (sectionElements.has(sole.name) || chapterElements.has(sole.name))) return 'topic';
    if (nodes.some((node) => node.kind === 'element' && partElements.has(node.name))) return 'parts';
    return nodes.some((node) => this.isBlock(node)) ? 'fragment' : 'phrase';
  }

  /** Runs work inside a file; a file that is open already would contain itself. */
  private inFile<T>(path: string, at: XmlNode, work: () => T): T {
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

  private keyForFile(file: ImportedFile, at: XmlNode): string {
    if (file.key === null) {
      const name = at.kind === 'entity' ? at.name : file.path;
      file.key = this.newKey(keyFromTitle(baseName(name)));
    }
    return file.key;
  }

  /** The component that a file became, made at its first use. */
  private componentOfFile(file: ImportedFile, at: XmlNode): string {
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

  private addSnippet(key: string, body: ContentNode, title: string): void {
    const filled =
      body.type === 'fragment' && childrenOf(body).length === 0
        ? makeNode('fragment', null, [makeNode('paragraph')])
        : body;
    this.components.set(key, { key, kind: 'snippet', title, revision: 1, body: filled });
  }

  /** The variable that a text entity became, made at its first use. */
  private variable(reference: XmlEntityReference): string {
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

  private valueNodes(reference: XmlEntityReference): readonly XmlNode[] | null {
    const known = this.parsedValues.get(reference.name);
    if (known) return known;
    const declaration = this.entities.declared(reference.name);
    if (!declaration || declaration.value === null) return null;
    const nodes = parseXml(declaration.value, declaration.file, { firstLine: declaration.line });
    this.parsedValues.set(reference.name, nodes);
    return nodes;
  }

  /** Refuses declarations that contain themselves or grow beyond measure, before anything is expanded. */
  private checkExpansion(): void {
    for (const name of this.entities.names) this.expandedSize(name, []);
  }

  private expandedSize(name: string, stack: readonly string[]): number {
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

  private countExpanded(size: number, at: XmlNode): void {
    this.expanded += size;
    if (this.expanded > entityLimits.expanded)
      throw new ImportFault('The source is larger than an import may be.', at.file, at.line);
  }

  /** An attribute with its entity references expanded to text. */
  private attribute(element: XmlElement, name: string): string | null {
    const raw = element.attrs[name];
    if (raw === undefined) return null;
    return splitReferences(raw)
      .map((part) => (part.entity ? this.entityText(part.text) : part.text))
      .join('');
  }

  private entityText(name: string): string {
    const nodes = this.valueNodes({ kind: 'entity', name, file: '', line: 1 });
    return nodes ? nodes.map((node) => this.expandedText(node)).join('') : (publicCharacter(name) ?? '');
  }

  private expandedText(node: XmlNode): string {
    if (node.kind === 'text') return node.text;
    return node.kind === 'entity'
      ? this.entityText(node.name)
      : node.children.map((child) => this.expandedText(child)).join('');
  }

  private titleText(element: XmlElement): string {
    const title = element.children.find((node) => isElement(node, 'title'));
    return title ? this.expandedText(title).replace(/\s+/g, ' ').trim() : '';
  }

  /** A title as the library lists it, variables by their default values. */
  private plainTitle(title: ContentNode): string {
    const byKey = new Map([...this.variables].map(([name, key]) => [key, name]));
    return textOf(title, (leaf) =>
      leaf.type === 'variable'
        ? this.entityText(byKey.get(textAttr(leaf, 'key') ?? '') ?? '') || `[${textAttr(leaf, 'key') ?? ''}]`
        : '',
    )
      .replace(/\s+/g, ' ')
      .trim();
  }

  // --- conditions, ids, profiles --------------------------------------------------------------------

  /** The condition that an element's effectivity attributes make, or null. */
  private conditionOn(element: XmlElement): string | null {
    const leaves: Condition[] = [];
    for (const axis of effectivityAttributes) {
      const values = (this.attribute(element, axis) ?? '')
        .split(';')
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

  private conditioned(nodes: readonly Flow[], when: string | null): readonly Flow[] {
    if (when === null) return nodes;
    return nodes.map((node) => ({
      ...node,
      attrs: { ...node.attrs, when: bothConditions(when, textAttr(node, 'when')) },
    }));
  }

  private withCondition(nodes: readonly ContentNode[], when: string | null): readonly ContentNode[] {
    if (when === null) return nodes;
    return nodes.map((node) => ({ ...node, marks: addMark(node.marks ?? [], conditionMark(when)) }));
  }

  private idAttr(element: XmlElement, context: Context): Record<string, unknown> {
    const id = idOf(element);
    if (id === null) return {};
    this.targets.set(id, { component: context.component, block: id });
    return { id };
  }

  private profiles(): readonly ImportedProfile[] {
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

  private profileValues(variables: Readonly<Record<string, string>>): VariableValues {
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

  private newKey(wanted: string): string {
    const key = freeKey(wanted, (each) => this.taken.has(each) || (this.options.isTaken?.(each) ?? false));
    this.taken.add(key);
    return key;
  }

  /** A component with references resolved, ids given and attributes in their shortest form. */
  private finished(component: Component): Component {
    if (component.kind === 'variable') {
      const body = component.body as VariableBody;
      const value = body.default ? tidyBody(this.resolved(body.default, component.key)) : null;
      return { ...component, body: { ...body, default: value } };
    }
    const body = this.resolved(component.body as ContentNode, component.key);
    return { ...component, body: tidyBody(assignIds(body, idsAfter(body))) };
  }

  private resolved(node: ContentNode, component: string): ContentNode {
    if (node.type === 'cross_reference') return this.resolvedReference(node, component);
    if (!node.content) return node;
    return { ...node, content: node.content.map((child) => this.resolved(child, component)) };
  }

  private resolvedReference(node: ContentNode, component: string): ContentNode {
    const linkend = textAttr(node, 'linkend') ?? '';
    const target = this.targets.get(linkend);
    if (!target) {
      this.noteAt(
        `A reference leads to “${linkend}”, which no element has as its id.`,
        textAttr(node, 'file') ?? '',
        Number(node.attrs?.['line'] ?? 1),
      );
    }
    const form = textAttr(node, 'form');
    const attrs = target
      ? {
          component: target.component === component && target.block !== null ? null : target.component,
          target: target.block,
          form,
          text: textAttr(node, 'text'),
        }
      : { component: null, target: linkend, form, text: textAttr(node, 'text') };
    return { type: node.type, attrs, ...(node.marks ? { marks: node.marks } : {}) };
  }

  private note(message: string, at: { readonly file: string; readonly line: number }): void {
    this.noteAt(message, at.file, at.line);
  }

  private noteAt(message: string, file: string, line: number): void {
    const key = `${file}:${line}:${message}`;
    if (this.noted.has(key)) return;
    this.noted.add(key);
    this.notes.push({ message, file, line });
  }
}

function overriddenNames(profiles: ProfilesFile | undefined): ReadonlySet<string> {
  return new Set((profiles?.profiles ?? []).flatMap((profile) => Object.keys(profile.variables ?? {})));
}

function conditionMark(when: string): ContentMark {
  return { type: 'condition', attrs: { when } };
}

function isElement(node: XmlNode, ...names: readonly string[]): boolean {
  return node.kind === 'element' && names.includes(node.name);
}

function soleElement(nodes: readonly XmlNode[]): XmlElement | null {
  const significant = nodes.filter((node) => node.kind !== 'text' || node.text.trim() !== '');
  const [only] = significant;
  return significant.length === 1 && only?.kind === 'element' ? only : null;
}

function withoutTitle(element: XmlElement): readonly XmlNode[] {
  return element.children.filter((node) => !isElement(node, 'title', 'titleabbrev', 'subtitle'));
}

function captionAsTitle(node: XmlNode): XmlNode {
  return node.kind === 'element' && node.name === 'caption'
    ? { ...node, name: 'title', children: node.children.flatMap(unwrapPara) }
    : node;
}

function unwrapPara(node: XmlNode): readonly XmlNode[] {
  return node.kind === 'element' && (node.name === 'para' || node.name === 'simpara') ? node.children : [node];
}

function idOf(element: XmlElement): string | null {
  return element.attrs['id'] ?? element.attrs['xml:id'] ?? null;
}

function nameOf(node: XmlElement | XmlEntityReference): string {
  return node.kind === 'entity' ? node.name : (node.attrs['href'] ?? '');
}

function baseName(path: string): string {
  return (path.split('/').at(-1) ?? path).replace(/\.[a-z0-9]{1,5}$/i, '');
}

function xmlText(node: XmlNode): string {
  return node.kind === 'text' ? node.text : node.kind === 'entity' ? '' : node.children.map(xmlText).join('');
}

function roleOf(element: XmlElement): NonNullable<OutlineEntry['role']> {
  if (element.name === 'part') return 'part';
  if (element.name === 'appendix') return 'appendix';
  if (['preface', 'dedication', 'acknowledgements', 'colophon'].includes(element.name)) return 'front';
  return 'auto';
}

function numeration(value: string | undefined): string | null {
  const styles: Readonly<Record<string, string>> = {
    loweralpha: 'lower-alpha',
    upperalpha: 'upper-alpha',
    lowerroman: 'lower-roman',
    upperroman: 'upper-roman',
  };
  return styles[value ?? ''] ?? null;
}

function splitReferences(raw: string): readonly { readonly text: string; readonly entity: boolean }[] {
  return raw
    .split(new RegExp(`${referenceStart}([^${referenceEnd}]*)${referenceEnd}`))
    .map((text, index) => ({ text, entity: index % 2 === 1 }))
    .filter((part) => part.text !== '');
}

function trimVerbatim(nodes: readonly ContentNode[]): readonly ContentNode[] {
  const result = [...nodes];
  const first = result[0];
  if (first?.text !== undefined) result[0] = { ...first, text: first.text.replace(/^[ \t]*\n/, '') };
  const last = result.at(-1);
  if (last?.text !== undefined) result[result.length - 1] = { ...last, text: last.text.replace(/\n[ \t]*$/, '') };
  return result.filter((node) => node.text !== '');
}

/** A variable's value: spaces folded, and none at edges that only end a line of the source. */
function normalizeValue(nodes: readonly ContentNode[]): readonly ContentNode[] {
  const first = nodes[0]?.text;
  const last = nodes.at(-1)?.text;
  const startsLine = first !== undefined && /^\s*\n/.test(first);
  const endsLine = last !== undefined && /\n\s*$/.test(last);
  return normalizeSpaces(nodes, { start: !startsLine, end: !endsLine });
}
