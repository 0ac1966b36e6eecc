import type { ReferenceForm } from '../../model/kinds.js';
import { textAttr, type ContentNode } from '../../model/node.js';
import type { ImportNoteKind } from '../import-result.js';
import type { XmlElement } from './xml.js';

/** What an XML id names: a component, or a block of it. */
export interface Target {
  readonly component: string;
  readonly block: string | null;
}

/** A place in the source. */
interface SourcePlace {
  readonly file: string;
  readonly line: number;
}

/**
 * A reference to an id, to be resolved when everything is read.
 * @param to.endterm the id of what it reads; null: its target decides
 */
export function openReference(
  at: SourcePlace,
  to: {
    readonly linkend: string;
    readonly form: ReferenceForm;
    readonly text: string | null;
    readonly endterm: string | null;
  },
): ContentNode {
  return { type: 'cross_reference', attrs: { ...to, file: at.file, line: at.line } };
}

/** What the ids of a source name, and what references to them read. References are resolved when everything is read. */
export class NamedPlaces {
  private readonly holders = new Map<string, XmlElement>();
  private readonly targets = new Map<string, Target>();
  /** What references read that lead to an element with a label of its own (`xreflabel`). */
  private readonly labels = new Map<string, string>();
  /** The texts of titles and terms that have ids: `endterm` names them. */
  private readonly texts = new Map<string, string>();

  constructor(private readonly note: (kind: ImportNoteKind, message: string, at: SourcePlace) => void) {}

  /** The element that has an id; a second one is noted. */
  claim(id: string, at: XmlElement): void {
    const known = this.holders.get(id);
    if (!known) this.holders.set(id, at);
    else if (known !== at)
      this.note('repeated id', `The id “${id}” is used more than once; references lead to the first place.`, at);
  }

  /** Lets an id lead to a target; the first one counts. */
  lead(id: string, target: Target): void {
    if (!this.targets.has(id)) this.targets.set(id, target);
  }

  /** Whether an id leads anywhere yet. */
  leads(id: string): boolean {
    return this.targets.has(id);
  }

  /** Gives references to an id their words; null changes nothing. */
  label(id: string, label: string | null): void {
    if (label !== null) this.labels.set(id, label);
  }

  labelOf(id: string): string | undefined {
    return this.labels.get(id);
  }

  /** Takes down what a title or term with an id reads. */
  reads(id: string, text: string): void {
    this.texts.set(id, text.replace(/\s+/g, ' ').trim());
  }

  /** A node with the references in it led to their targets, from a component. */
  resolved(node: ContentNode, component: string): ContentNode {
    if (node.type === 'cross_reference') return this.resolvedReference(node, component);
    if (!node.content) return node;
    return { ...node, content: node.content.map((child) => this.resolved(child, component)) };
  }

  private resolvedReference(node: ContentNode, component: string): ContentNode {
    const linkend = textAttr(node, 'linkend') ?? '';
    const target = this.targets.get(linkend);
    if (!target) {
      const at = { file: textAttr(node, 'file') ?? '', line: Number(node.attrs?.['line'] ?? 1) };
      this.note('lost reference', `A reference leads to “${linkend}”, which no element has as its id.`, at);
    }
    const endterm = textAttr(node, 'endterm');
    const given = textAttr(node, 'text') ?? (endterm === null ? undefined : this.texts.get(endterm)) ?? null;
    const text = given ?? this.labels.get(linkend) ?? null;
    const form = text === null ? textAttr(node, 'form') : 'text';
    const attrs = target
      ? {
          component: target.component === component && target.block !== null ? null : target.component,
          target: target.block,
          form,
          text,
        }
      : { component: null, target: linkend, form, text };
    return { type: node.type, attrs, ...(node.marks ? { marks: node.marks } : {}) };
  }
}
