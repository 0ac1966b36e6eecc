import { known } from '../../model/known.js';
import { makeNode, makeText, type ContentNode } from '../../model/node.js';
import { importedDesign } from '../../number/design.js';
import { keyFromTitle } from '../../model/component.js';
import type { OutlineEntry } from '../../model/publication.js';
import { ImportFault, type ImportResult } from '../import-result.js';
import { isElement, soleElement, withoutTitle, baseName, roleOf } from './elements.js';
import { BlockImporter } from './import-blocks.js';
import type { Context, DocbookImport, Flow, ImportedFile } from './import-session.js';
import { normalizeSpaces } from './spaces.js';
import { chapterElements, infoElements, sectionElements } from './vocabulary.js';
import { parseXml, type XmlElement, type XmlNode } from './xml.js';

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

class DocbookImporter extends BlockImporter {
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
      // An index stands where the book has a place for one.
      design: { ...importedDesign, lists: { ...importedDesign.lists, index: this.asksForIndex } },
    };
  }

  private asksForIndex = false;

  protected bookEntries(book: XmlElement, publicationKey: string): readonly OutlineEntry[] {
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
  protected entriesOf(nodes: readonly XmlNode[], within: 'part' | null): readonly OutlineEntry[] {
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
      } else if (node.name === 'index') this.asksForIndex = true;
      else if (!['toc', 'lot'].includes(node.name)) {
        this.note(`<${node.name}> between chapters became a topic of its own.`, node);
        entries.push(this.entryForElement(node));
      }
    }
    return entries;
  }

  protected entryForFile(file: ImportedFile, at: XmlNode): OutlineEntry {
    const root = known(soleElement(file.nodes) ?? undefined);
    const before = this.hoisted.get(file.path);
    const entries = before ?? this.inFile(file.path, at, () => this.topic(root, this.keyForFile(file, at), true));
    this.hoisted.set(file.path, entries);
    return {
      id: this.entryId(),
      topic: known(file.key ?? undefined),
      ...(file.when === null ? {} : { when: file.when }),
      role: roleOf(root),
      // A second entry of the same topic gets ids of its own below it, too.
      entries: before ? this.freshIds(entries) : entries,
    };
  }

  protected readonly hoisted = new Map<string, readonly OutlineEntry[]>();

  protected freshIds(entries: readonly OutlineEntry[]): readonly OutlineEntry[] {
    return entries.map((entry) => ({ ...entry, id: this.entryId(), entries: this.freshIds(entry.entries ?? []) }));
  }

  protected entryForElement(element: XmlElement): OutlineEntry {
    const title = this.titleText(element);
    const key = this.newKey(keyFromTitle(this.idOf(element) ?? (title || element.name)));
    const entries = this.topic(element, key, true);
    const when = this.conditionOn(element);
    return { id: this.entryId(), topic: key, ...(when === null ? {} : { when }), role: roleOf(element), entries };
  }

  protected entryId(): string {
    this.entryCount += 1;
    return `e${this.entryCount}`;
  }

  /**
   * Makes a topic of an element.
   * @param hoist whether section files that end the element become entries below it instead of placements
   * @returns the entries below it
   */
  protected topic(element: XmlElement, key: string, hoist: boolean): readonly OutlineEntry[] {
    const id = this.idOf(element);
    if (id !== null) this.name(id, { component: key, block: null }, element);
    this.nameParts(
      element.children.filter((node) => isElement(node, 'title')),
      { component: key, block: null },
    );
    const context: Context = { component: key, footnotes: [], anchors: [] };
    const title = this.topicTitle(element, context);
    const content = element.children.filter((node) => !isElement(node, 'title', 'subtitle', 'titleabbrev'));
    let entries: readonly OutlineEntry[] = [];
    let own: readonly XmlNode[] = content;
    if (hoist && (element.name === 'part' || element.name === 'reference')) {
      const first = content.findIndex((node) => this.isChapterLike(node));
      own = first < 0 ? content : content.slice(0, first);
      entries = this.entriesOf(content.slice(own.length), 'part');
    } else if (hoist) {
      let from = content.length;
      while (from > 0 && this.mayHoist(known(content[from - 1]))) from -= 1;
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

  /** The title of a topic; a reference page is called by its own title, or else by its first name. */
  protected topicTitle(element: XmlElement, context: Context): ContentNode {
    if (element.name !== 'refentry') return this.title(element, context);
    const find = (within: string, name: string): XmlNode | undefined =>
      element.children
        .filter((node): node is XmlElement => isElement(node, within))
        .flatMap((node) => node.children)
        .find((node) => isElement(node, name));
    const title = find('refmeta', 'refentrytitle') ?? find('refnamediv', 'refname');
    const inline = title?.kind === 'element' ? this.inline(title.children, [], context) : [];
    return makeNode('title', null, normalizeSpaces(inline));
  }

  protected isChapterLike(node: XmlNode): boolean {
    if (node.kind === 'element' && node.name !== 'xi:include') return chapterElements.has(node.name);
    return node.kind !== 'text' && this.fileOf(node)?.shape === 'topic';
  }

  protected mayHoist(node: XmlNode): boolean {
    if (node.kind === 'text') return node.text.trim() === '';
    if (node.kind === 'element' && node.name !== 'xi:include') return false;
    return this.fileOf(node)?.shape === 'topic';
  }

  protected frontTopic(book: XmlElement, publicationKey: string): OutlineEntry | null {
    const info = book.children.find((node) => this.isInfo(node));
    const file = info ? this.fileOf(info) : null;
    const element = file ? soleElement(file.nodes) : info?.kind === 'element' ? info : null;
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

  protected isInfo(node: XmlNode): boolean {
    if (node.kind === 'element' && node.name !== 'xi:include') return infoElements.has(node.name);
    return node.kind !== 'text' && this.fileOf(node)?.shape === 'info';
  }

  /** What a book says about itself, as content. */
  protected infoFlow(info: XmlElement, context: Context): readonly Flow[] {
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

  protected joined(nodes: readonly XmlNode[], separator: string, context: Context): readonly ContentNode[] {
    return nodes.flatMap((node, index) => [
      ...(index > 0 ? [makeText(separator)] : []),
      ...this.inline(node.kind === 'element' ? node.children : [node], [], context),
    ]);
  }
}
