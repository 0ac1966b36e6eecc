import type { ReferenceForm } from '../../model/kinds.js';
import { addMark } from '../../model/marks.js';
import { childrenOf, makeNode, makeText, type ContentMark, type ContentNode } from '../../model/node.js';
import { conditionMark, isElement, xmlText, splitReferences } from './elements.js';
import { publicCharacter } from './entities.js';
import { ImportSession, type Context, type Flow } from './import-session.js';
import { openReference } from './named-places.js';
import { blockElements, markElements, transparentElements } from './vocabulary.js';
import type { XmlElement, XmlEntityReference, XmlNode } from './xml.js';

/** Converts what stands inside lines: marks, links, references, footnotes, variables. */
export abstract class InlineImporter extends ImportSession {
  protected abstract isBlockValue(reference: XmlEntityReference): boolean;
  protected abstract figure(element: XmlElement, context: Context): readonly Flow[];
  protected abstract onlyBlocks(nodes: readonly Flow[], at: XmlElement): readonly Flow[];

  protected inline(nodes: readonly XmlNode[], marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    return nodes.flatMap((node) => {
      if (node.kind === 'text') return node.text === '' ? [] : [makeText(node.text, marks)];
      if (node.kind === 'entity' || node.name === 'xi:include') return this.inlineReference(node, marks, context);
      return this.inlineElement(node, marks, context);
    });
  }

  protected inlineReference(
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
      this.noteOnce(`The entity “${node.name}” is not declared; its name was kept.`, node);
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

  protected inlineElement(
    element: XmlElement,
    outer: readonly ContentMark[],
    context: Context,
  ): readonly ContentNode[] {
    const when = this.conditionOn(element);
    const marks = when === null ? outer : addMark(outer, conditionMark(when));
    const id = this.idOf(element);
    if (id !== null && element.name !== 'footnote') {
      context.anchors.push(id);
      this.named.label(id, this.attribute(element, 'xreflabel'));
      this.named.reads(id, this.expandedText(element));
    }
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
        const address = this.expandedText(element).trim();
        const linked = addMark(marks, { type: 'link', attrs: { href: `mailto:${encodeURI(address)}` } });
        return [makeText('<', marks), ...this.inline(element.children, linked, context), makeText('>', marks)];
      }
      case 'keycombo':
        return this.interleaved(element, '+', marks, context);
      case 'menuchoice':
        return [...this.interleaved(element, ' → ', marks, context), ...this.shortcut(element, marks, context)];
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
      case 'optional':
        return [makeText('[', marks), ...this.inline(element.children, marks, context), makeText(']', marks)];
      case 'arg':
      case 'group':
      case 'sbr':
      case 'synopfragmentref':
        return this.synopsisPart(element, marks, context);
      case 'co':
        return [makeText(`(${this.calloutNumber(element)})`, marks)];
      case 'coref':
        return [makeText(`(${this.callouts.get(this.attribute(element, 'linkend') ?? '') ?? '?'})`, marks)];
      case 'inlineequation':
        return [{ type: 'formula', attrs: { source: this.formulaSource(element) } }];
      case 'simplelist':
        return this.joinedMembers(element, marks, context);
      case 'funcsynopsisinfo':
        return this.inline(element.children, marks, context);
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

  protected link(element: XmlElement, marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
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
  protected template(raw: string, at: XmlElement): string {
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

  protected crossReference(element: XmlElement, marks: readonly ContentMark[], text: string | null): ContentNode {
    const linkend = this.attribute(element, 'linkend') ?? (element.attrs['xlink:href'] ?? '').replace(/^#/, '');
    const form = text === null ? xrefForm(element.attrs['xrefstyle']) : 'text';
    const attrs = { linkend, form, text, endterm: this.attribute(element, 'endterm') };
    return { ...openReference(element, attrs), ...(marks.length > 0 ? { marks } : {}) };
  }

  protected interleaved(
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

  protected manualPage(element: XmlElement, marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    const title = element.children.find((node) => isElement(node, 'refentrytitle'));
    const volume = element.children.find((node) => isElement(node, 'manvolnum'));
    const name =
      title?.kind === 'element'
        ? this.inline(title.children, addMark(marks, { type: 'code', attrs: { kind: 'command' } }), context)
        : [];
    return [...name, ...(volume ? [makeText(`(${xmlText(volume).trim()})`, marks)] : [])];
  }

  protected footnote(element: XmlElement, marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    this.footnoteCount += 1;
    const id = this.idOf(element) ?? `fn${this.footnoteCount}`;
    this.name(id, { component: context.component, block: id }, element);
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

  protected footnoteCount = 0;

  protected indexMarker(element: XmlElement): readonly ContentNode[] {
    const text = (name: string): string | null => {
      const part = element.children.find((node) => isElement(node, name));
      return part ? this.expandedText(part).replace(/\s+/g, ' ').trim().slice(0, 500) || null : null;
    };
    const primary = text('primary');
    if (!primary) return [];
    return [
      makeNode('index_marker', {
        primary,
        secondary: text('secondary'),
        tertiary: text('tertiary'),
        see: text('see'),
        seeAlso: text('seealso'),
      }),
    ];
  }

  /** The keys of a menu choice, in brackets behind it. */
  protected shortcut(element: XmlElement, marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    const keys = element.children.find((node): node is XmlElement => isElement(node, 'shortcut'));
    if (!keys) return [];
    return [makeText(' (', marks), ...this.interleaved(keys, '+', marks, context), makeText(')', marks)];
  }

  protected readonly callouts = new Map<string, number>();
  protected calloutCount = 0;

  /** Callouts count through a listing; a list of callouts begins anew. */
  protected calloutNumber(element: XmlElement): number {
    this.calloutCount += 1;
    const id = this.idOf(element);
    if (id !== null) this.callouts.set(id, this.calloutCount);
    return this.calloutCount;
  }

  /** TeX or the plain text of an equation. */
  protected formulaSource(element: XmlElement): string {
    const find = (node: XmlNode, ...names: readonly string[]): XmlElement | null => {
      if (node.kind !== 'element') return null;
      if (names.includes(node.name)) return node;
      for (const child of node.children) {
        const found = find(child, ...names);
        if (found) return found;
      }
      return null;
    };
    const written = find(element, 'alt') ?? find(element, 'mathphrase') ?? element;
    return this.expandedText(written).trim().slice(0, 4000);
  }

  /** The members of a list in a line, with commas between them (DocBook 5.1, `simplelist`, type “inline”). */
  protected joinedMembers(
    element: XmlElement,
    marks: readonly ContentMark[],
    context: Context,
  ): readonly ContentNode[] {
    const members = element.children.filter((node): node is XmlElement => isElement(node, 'member'));
    return members.flatMap((member, at) => [
      ...(at > 0 ? [makeText(', ', marks)] : []),
      ...this.inline(member.children, marks, context),
    ]);
  }

  /**
   * A part of a command synopsis with its brackets (DocBook 5.1, `arg` and `group`: what is optional stands in square ones,
   * what is required among others in braces, alternatives are divided by bars, three dots follow what repeats).
   */
  protected synopsisPart(element: XmlElement, marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    if (element.name === 'sbr') return [{ type: 'line_break' }];
    if (element.name === 'synopfragmentref') {
      return [makeText('(', marks), ...this.inline(element.children, marks, context), makeText(')', marks)];
    }
    const choice = element.attrs['choice'] ?? 'opt';
    const [open, close] = choice === 'opt' ? ['[', ']'] : choice === 'req' ? ['{', '}'] : ['', ''];
    const parts =
      element.name === 'group'
        ? this.alternatives(element, marks, context)
        : this.inline(element.children, marks, context);
    const repeats = element.attrs['rep'] === 'repeat' ? '...' : '';
    return [
      ...(open ? [makeText(open, marks)] : []),
      ...parts,
      ...(close || repeats ? [makeText(`${close}${repeats}`, marks)] : []),
    ];
  }

  private alternatives(group: XmlElement, marks: readonly ContentMark[], context: Context): readonly ContentNode[] {
    const parts = group.children.filter((node) => node.kind !== 'text' || node.text.trim() !== '');
    return parts.flatMap((part, at) => {
      // Alternatives need no brackets of their own.
      const plain =
        part.kind === 'element' && part.name === 'arg' ? { ...part, attrs: { ...part.attrs, choice: 'plain' } } : part;
      return [...(at > 0 ? [makeText(' | ', marks)] : []), ...this.inline([plain], marks, context)];
    });
  }
}

/** How a reference reads by its `xrefstyle` (DocBook XSL: “select:” with the words that it knows). */
function xrefForm(style: string | undefined): ReferenceForm {
  const selected = /^\s*select:\s*(.*)$/.exec(style ?? '')?.[1]?.split(/\s+/) ?? [];
  const label = selected.some((each) => /^label/i.test(each));
  const title = selected.some((each) => /title$/i.test(each));
  if (label && !title) return 'number';
  if (title && !label) return 'title';
  return selected.some((each) => /^page/i.test(each)) && !label ? 'page' : 'number-title';
}
