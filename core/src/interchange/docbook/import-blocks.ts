import type { NodeKind } from '../../model/kinds.js';
import { addMark } from '../../model/marks.js';
import { childrenOf, makeNode, makeText, textOf, type ContentNode } from '../../model/node.js';
import { elementsNamed, isElement, withoutTitle, nameOf, xmlText, numeration, trimVerbatim } from './elements.js';
import type { Context, Flow } from './import-session.js';
import { TableImporter } from './import-tables.js';
import { openReference } from './named-places.js';
import { normalizeSpaces } from './spaces.js';
import {
  admonitionElements,
  blockElements,
  chapterElements,
  infoElements,
  listElements,
  markElements,
  partElements,
  sectionElements,
  transparentElements,
  unnumberedSections,
  verbatimElements,
} from './vocabulary.js';
import type { XmlElement, XmlEntityReference, XmlNode } from './xml.js';

/** Converts what stands in a flow of blocks: paragraphs, lists, admonitions, sections, and placed files. */
export abstract class BlockImporter extends TableImporter {
  /** Converts nodes that stand in a flow of blocks; runs of text and inline elements become paragraphs. */
  protected flow(nodes: readonly XmlNode[], context: Context): readonly Flow[] {
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
      if (node.kind === 'text' || !this.isBlock(node)) {
        run.push(node);
        continue;
      }
      flush();
      blocks.push(...this.block(node, context), ...context.footnotes.splice(0));
    }
    flush();
    return blocks;
  }

  protected paragraph(content: readonly ContentNode[], when: string | null, context: Context): Flow {
    const [id, ...more] = context.anchors.splice(0);
    const target = { component: context.component, block: id ?? null };
    for (const each of id === undefined ? [] : [id, ...more]) this.named.lead(each, target);
    return makeNode('paragraph', { id, when }, content);
  }

  protected isBlock(node: XmlNode): boolean {
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
  protected holdsBlocks(element: XmlElement): boolean {
    if (element.name === 'footnote' || element.name === 'inlinemediaobject' || element.name === 'indexterm')
      return false;
    return element.children.some((child) => this.isBlock(child));
  }

  protected isBlockValue(reference: XmlEntityReference): boolean {
    const nodes = this.valueNodes(reference);
    return nodes?.some((node) => this.isBlock(node)) ?? false;
  }

  protected block(node: XmlElement | XmlEntityReference, context: Context): readonly Flow[] {
    if (node.kind === 'entity' || node.name === 'xi:include') return this.blockReference(node, context);
    return this.conditioned(this.element(node, context), this.conditionOn(node));
  }

  protected blockReference(node: XmlElement | XmlEntityReference, context: Context): readonly Flow[] {
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

  protected element(element: XmlElement, context: Context): readonly Flow[] {
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
      case 'partintro':
        return this.flow(withoutTitle(element), context);
      case 'refnamediv':
        return [this.nameAndPurpose(element, context)];
      case 'cmdsynopsis':
        return [this.commandSynopsis(element, context)];
      case 'funcsynopsis':
        return this.functionSynopsis(element, context);
      case 'biblioentry':
      case 'bibliomixed':
        return [this.bibliographyEntry(element, context)];
      case 'equation':
      case 'informalequation':
        return [
          ...this.strongTitle(element, context),
          makeNode('display_formula', { ...this.idAttr(element, context), source: this.formulaSource(element) }),
        ];
      default:
        return this.unknownBlock(element, context);
    }
  }

  protected unknownBlock(element: XmlElement, context: Context): readonly Flow[] {
    if (infoElements.has(element.name)) {
      this.note(`<${element.name}> was left out.`, element);
      return [];
    }
    if (!transparentElements.has(element.name) && !(element.name in markElements)) {
      this.note(`<${element.name}> is not known here; its text was kept.`, element);
    }
    return this.flow(element.children, context);
  }

  protected para(element: XmlElement, context: Context): readonly Flow[] {
    const id = this.idOf(element);
    if (id !== null) {
      this.named.claim(id, element);
      // In an empty paragraph it names whatever comes next.
      context.anchors.push(id);
      this.named.label(id, this.attribute(element, 'xreflabel'));
    }
    return this.flow(element.children, context);
  }

  protected formalPara(element: XmlElement, context: Context): readonly Flow[] {
    const title = this.title(element, context);
    const lead = strong(childrenOf(title));
    const [first, ...rest] = this.flow(withoutTitle(element), context);
    const period = /[.!?:]$/.test(textOf(title)) ? ' ' : '. ';
    const start = [...lead, makeText(period, [{ type: 'strong' }])];
    if (first?.type === 'paragraph') return [{ ...first, content: [...start, ...childrenOf(first)] }, ...rest];
    return [makeNode('paragraph', null, start), ...(first ? [first, ...rest] : [])];
  }

  protected section(element: XmlElement, context: Context): Flow {
    const attrs = this.idAttr(element, context);
    const title = this.sectionTitle(element, context);
    const notes = context.footnotes.splice(0);
    const flow = this.flow(withoutTitle(element), context);
    const numbered = unnumberedSections.has(element.name) ? false : null;
    const target = { component: context.component, block: textIn(attrs['id']) };
    if (target.block !== null) this.nameParts(titlesOf(element), target);
    return makeNode('section', { ...attrs, numbered }, [title, ...notes, ...flow]);
  }

  /** The title of a section; a synopsis has one by default (DocBook XSL, “RefSynopsisDiv”). */
  protected sectionTitle(element: XmlElement, context: Context): ContentNode {
    const title = this.title(element, context);
    return element.name === 'refsynopsisdiv' && !title.content
      ? makeNode('title', null, [makeText('Synopsis')])
      : title;
  }

  /** A title as a paragraph of its own, where the kind that an element becomes has none. */
  protected strongTitle(element: XmlElement, context: Context): readonly Flow[] {
    if (!element.children.some((node) => isElement(node, 'title'))) return [];
    return [makeNode('paragraph', null, strong(childrenOf(this.title(element, context))))];
  }

  /** The names of a reference page and what they are for, in one line. */
  protected nameAndPurpose(element: XmlElement, context: Context): Flow {
    const id = this.idOf(element);
    if (id !== null) context.anchors.push(id);
    const names = element.children.filter((node) => isElement(node, 'refname'));
    const purpose = element.children.filter((node) => isElement(node, 'refpurpose'));
    const inline = [
      ...this.joinedInline(names, ', ', context),
      ...(purpose.length > 0 ? [makeText(' — ')] : []),
      ...this.joinedInline(purpose, ' ', context),
    ];
    return this.paragraph(normalizeSpaces(inline), null, context);
  }

  private joinedInline(nodes: readonly XmlNode[], separator: string, context: Context): readonly ContentNode[] {
    return nodes.flatMap((node, at) => [
      ...(at > 0 ? [makeText(separator)] : []),
      ...normalizeSpaces(this.inline(node.kind === 'element' ? node.children : [node], [], context)),
    ]);
  }

  /** A command with its arguments; the parts stand apart by a space (DocBook 5.1, `cmdsynopsis`, attribute `sepchar`). */
  protected commandSynopsis(element: XmlElement, context: Context): Flow {
    const parts = element.children.filter((node) => node.kind !== 'text' || node.text.trim() !== '');
    const space = element.attrs['sepchar'] ?? ' ';
    const inline = parts.flatMap((part, at) => [
      ...(at > 0 ? [makeText(space)] : []),
      ...(part.kind === 'element' && part.name === 'synopfragment'
        ? [{ type: 'line_break' } as const, ...this.inline(part.children, [], context)]
        : this.inline([part], [], context)),
    ]);
    return makeNode('code_block', this.idAttr(element, context), normalizeSpaces(inline));
  }

  /** Prototypes of functions: the definition, and the parameters in brackets. */
  protected functionSynopsis(element: XmlElement, context: Context): readonly Flow[] {
    return element.children.flatMap((node): readonly Flow[] => {
      if (node.kind !== 'element') return [];
      if (node.name === 'funcsynopsisinfo') return [this.verbatim(node, context)];
      if (node.name !== 'funcprototype') return [];
      const parameters = elementsNamed(node.children, 'paramdef', 'void', 'varargs');
      const inline = [
        ...this.joinedInline(
          node.children.filter((each) => isElement(each, 'funcdef')),
          ' ',
          context,
        ),
        makeText('('),
        ...parameters.flatMap((each, at) => [
          ...(at > 0 ? [makeText(', ')] : []),
          ...(each.name === 'void'
            ? [makeText('void')]
            : each.name === 'varargs'
              ? [makeText('...')]
              : this.inline(each.children, [], context)),
        ]),
        makeText(');'),
      ];
      return [makeNode('code_block', this.idAttr(node, context), normalizeSpaces(inline))];
    });
  }

  /** An entry of a bibliography as one paragraph, its abbreviation in brackets first. */
  protected bibliographyEntry(element: XmlElement, context: Context): Flow {
    const id = this.idOf(element);
    if (id !== null) {
      this.name(id, { component: context.component, block: id }, element);
      if (this.named.labelOf(id) === undefined) {
        const abbreviation = element.children.find((node) => isElement(node, 'abbrev'));
        const text = abbreviation ? this.expandedText(abbreviation).trim() : id;
        this.named.label(id, `[${text}]`);
      }
    }
    const parts = element.children.filter((node) => node.kind !== 'text' || element.name === 'bibliomixed');
    const inline =
      element.name === 'bibliomixed'
        ? this.inline(parts, [], context)
        : [
            ...(id === null ? [] : [makeText(`${this.named.labelOf(id) ?? ''} `)]),
            ...parts
              .filter((node) => !isElement(node, 'abbrev'))
              .flatMap((part) => [...this.inline([part], [], context), makeText('. ')]),
          ];
    return makeNode('paragraph', { id }, normalizeSpaces(inline));
  }

  protected title(element: XmlElement, context: Context): ContentNode {
    const inInfo = element.children.filter(
      (node): node is XmlElement => node.kind === 'element' && infoElements.has(node.name),
    );
    const titles = elementsNamed([...element.children, ...inInfo.flatMap((info) => info.children)], 'title');
    const inline = titles.flatMap((title) =>
      this.withCondition(this.inline(title.children, [], context), this.conditionOn(title)),
    );
    return makeNode('title', null, normalizeSpaces(inline));
  }

  protected verbatim(element: XmlElement, context: Context): Flow {
    const inline = this.inline(element.children, [], context);
    // A line break right after the start tag and before the end tag is layout of the source.
    const content = trimVerbatim(inline);
    return makeNode(
      'code_block',
      { ...this.idAttr(element, context), language: element.attrs['language'] ?? null },
      content,
    );
  }

  protected list(element: XmlElement, context: Context): readonly Flow[] {
    const before = element.children.filter(
      (node) => node.kind === 'element' && !partElements.has(node.name) && this.isBlock(node),
    );
    const lead = this.flow(before, context);
    const title = this.strongTitle(element, context);
    const attrs = this.idAttr(element, context);
    const parts = this.parts(element.children);
    const made = ((): Flow | null => {
      switch (element.name) {
        case 'segmentedlist':
          return this.segments(element, attrs, context);
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
        case 'calloutlist': {
          this.calloutCount = 0;
          const start = this.startOf(element, parts.length);
          return this.nonEmpty(
            'ordered_list',
            { ...attrs, style: numeration(element.attrs['numeration']), start: start === 1 ? null : start },
            parts.map((part) => this.item('list_item', part, context)),
          );
        }
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

  /** A list of segments as the table that it stands for (DocBook 5.1, `segmentedlist`). */
  protected segments(element: XmlElement, attrs: Record<string, unknown>, context: Context): Flow | null {
    const children = (within: XmlElement, name: string): readonly XmlElement[] =>
      within.children.filter((node): node is XmlElement => isElement(node, name));
    const cell = (kind: 'table_header' | 'table_cell', node: XmlElement): ContentNode =>
      makeNode(kind, null, [makeNode('paragraph', null, normalizeSpaces(this.inline(node.children, [], context)))]);
    const heads = children(element, 'segtitle').map((node) => cell('table_header', node));
    const rows = children(element, 'seglistitem').map((item) =>
      makeNode(
        'table_row',
        { when: this.conditionOn(item) },
        children(item, 'seg').map((node) => cell('table_cell', node)),
      ),
    );
    const head = heads.length > 0 ? [makeNode('table_row', { header: true }, heads)] : [];
    return rows.length > 0 ? makeNode('table', attrs, [makeNode('table_grid', null, [...head, ...rows])]) : null;
  }

  private lastNumber = 0;

  /** Where a list begins to count: at a number of its own, or where the list before it ended. */
  private startOf(element: XmlElement, count: number): number {
    const own = Number(element.attrs['startingnumber'] ?? Number.NaN);
    const start = Number.isInteger(own) ? own : element.attrs['continuation'] === 'continues' ? this.lastNumber + 1 : 1;
    this.lastNumber = start + count - 1;
    return Math.max(0, start);
  }

  /** The parts of a list or table, entities that hold parts expanded. */
  protected parts(nodes: readonly XmlNode[]): readonly XmlElement[] {
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

  protected nonEmpty(type: NodeKind, attrs: Record<string, unknown>, content: readonly ContentNode[]): Flow | null {
    return content.length > 0 ? makeNode(type, attrs, content) : null;
  }

  protected item(type: 'list_item' | 'step', part: XmlElement, context: Context): ContentNode {
    const title = this.strongTitle(part, context);
    const attrs = { ...this.idAttr(part, context), when: this.conditionOn(part) };
    const content = [...title, ...this.onlyBlocks(this.flow(withoutTitle(part), context), part)];
    return makeNode(type, attrs, content.length > 0 ? content : [makeNode('paragraph')]);
  }

  protected definition(part: XmlElement, context: Context): readonly ContentNode[] {
    const terms = elementsNamed(part.children, 'term', 'glossterm', 'question');
    const below = elementsNamed(part.children, 'listitem', 'glossdef', 'answer', 'glosssee', 'glossseealso');
    const attrs: Record<string, unknown> = { ...this.idAttr(part, context), when: this.conditionOn(part) };
    const named = terms.map((term) => this.idOf(term)).find((id) => id !== null);
    // A term that has an id names the definition.
    const id = textIn(attrs['id']) ?? named ?? null;
    if (id !== null) {
      this.nameParts(terms, { component: context.component, block: id });
      if (terms[0]) this.named.reads(id, this.expandedText(terms[0]));
    }
    const termNodes = terms.map((term) => {
      const when = this.conditionOn(term);
      return makeNode('term', { when }, normalizeSpaces(this.inlineOnly(term, context)));
    });
    const notes = context.footnotes.splice(0);
    const blocks = below.flatMap((node) => this.conditioned(this.glossaryFlow(node, context), this.conditionOn(node)));
    const content = [...notes, ...this.onlyBlocks(blocks, part)];
    return [
      makeNode('definition', { ...attrs, id }, [
        ...(termNodes.length > 0 ? termNodes : [makeNode('term')]),
        makeNode('description', null, content.length > 0 ? content : [makeNode('paragraph')]),
      ]),
    ];
  }

  /** What defines a term; a reference to another entry says so in words (DocBook XSL, “gentext”, English). */
  private glossaryFlow(node: XmlElement, context: Context): readonly Flow[] {
    if (node.name !== 'glosssee' && node.name !== 'glossseealso') return this.flow(node.children, context);
    const other = this.attribute(node, 'otherterm');
    const word = node.name === 'glosssee' ? 'See ' : 'See also ';
    // The entry may come later: what it is called is known when everything is read.
    const text =
      other === null
        ? this.inline(node.children, [], context)
        : [openReference(node, { linkend: other, form: 'title', text: null, endterm: other })];
    return [makeNode('paragraph', null, [makeText(word), ...normalizeSpaces(text), makeText('.')])];
  }

  /** The inline content of an element that may hold paragraphs, joined by spaces. */
  protected inlineOnly(element: XmlElement, context: Context): readonly ContentNode[] {
    return element.children.flatMap((node) =>
      node.kind === 'element' && (node.name === 'para' || node.name === 'simpara')
        ? [...this.inline(node.children, [], context), makeText(' ')]
        : this.inline([node], [], context),
    );
  }

  protected titledSection(element: XmlElement, fallback: string, context: Context): Flow {
    const own = element.children.find((node) => isElement(node, 'title'));
    const title = own ? this.title(element, context) : makeNode('title', null, [makeText(fallback)]);
    return makeNode('section', { numbered: false, when: this.conditionOn(element) }, [
      title,
      ...this.flow(withoutTitle(element), context),
    ]);
  }
}

function strong(nodes: readonly ContentNode[]): readonly ContentNode[] {
  return nodes.map((node) => ({ ...node, marks: addMark(node.marks ?? [], { type: 'strong' }) }));
}

function titlesOf(element: XmlElement): readonly XmlNode[] {
  return element.children.filter((node) => isElement(node, 'title'));
}

function textIn(value: unknown): string | null {
  return typeof value === 'string' ? value : null;
}
