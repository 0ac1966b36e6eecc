import { addMark } from '../../content/marks.js';
import { childrenOf, makeNode, makeText, textOf, type ContentNode } from '../../content/node.js';
import { isElement, withoutTitle, idOf, nameOf, xmlText, numeration, trimVerbatim } from './elements.js';
import type { Context, Flow } from './import-session.js';
import { TableImporter } from './import-tables.js';
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

  protected paragraph(content: readonly ContentNode[], when: string | null, context: Context): Flow {
    const [id, ...more] = context.anchors.splice(0);
    for (const alias of more) this.targets.set(alias, { component: context.component, block: id ?? null });
    if (id !== undefined) this.targets.set(id, { component: context.component, block: id });
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
        return this.flow(withoutTitle(element), context);
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
    const id = idOf(element);
    if (id !== null) context.anchors.push(id);
    const blocks = this.flow(element.children, context);
    // An id on an empty paragraph names whatever comes next.
    return blocks;
  }

  protected formalPara(element: XmlElement, context: Context): readonly Flow[] {
    const title = this.title(element, context);
    const lead = childrenOf(title).map((node) => ({ ...node, marks: addMark(node.marks ?? [], { type: 'strong' }) }));
    const [first, ...rest] = this.flow(withoutTitle(element), context);
    const period = /[.!?:]$/.test(textOf(title)) ? ' ' : '. ';
    const start = [...lead, makeText(period, [{ type: 'strong' }])];
    if (first?.type === 'paragraph') return [{ ...first, content: [...start, ...childrenOf(first)] }, ...rest];
    return [makeNode('paragraph', null, start), ...(first ? [first, ...rest] : [])];
  }

  protected section(element: XmlElement, context: Context): Flow {
    const attrs = this.idAttr(element, context);
    const title = this.title(element, context);
    const notes = context.footnotes.splice(0);
    const flow = this.flow(withoutTitle(element), context);
    const numbered = element.name === 'simplesect' ? false : null;
    return makeNode('section', { ...attrs, numbered }, [title, ...notes, ...flow]);
  }

  protected title(element: XmlElement, context: Context): ContentNode {
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

  protected nonEmpty(type: string, attrs: Record<string, unknown>, content: readonly ContentNode[]): Flow | null {
    return content.length > 0 ? makeNode(type, attrs, content) : null;
  }

  protected item(type: 'list_item' | 'step', part: XmlElement, context: Context): ContentNode {
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

  protected definition(part: XmlElement, context: Context): readonly ContentNode[] {
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
  protected inlineOnly(element: XmlElement, context: Context): readonly ContentNode[] {
    return element.children.flatMap((node) =>
      isElement(node, 'para', 'simpara')
        ? [...this.inline((node as XmlElement).children, [], context), makeText(' ')]
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
