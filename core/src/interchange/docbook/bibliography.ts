import { makeNode, makeText } from '../../model/node.js';
import { isElement } from './elements.js';
import type { Context, Flow, ImportSession } from './session.js';
import { normalizeSpaces } from './spaces.js';
import type { XmlElement } from './xml.js';

/** An entry of a bibliography as one paragraph, its abbreviation in brackets first. */
export function bibliographyEntry(session: ImportSession, element: XmlElement, context: Context): Flow {
  const id = session.idOf(element);
  if (id !== null) {
    session.name(id, { component: context.component, block: id }, element);
    if (session.named.labelOf(id) === undefined) {
      const abbreviation = element.children.find((node) => isElement(node, 'abbrev'));
      const text = abbreviation ? session.expandedText(abbreviation).trim() : id;
      session.named.label(id, `[${text}]`);
    }
  }
  const parts = element.children.filter((node) => node.kind !== 'text' || element.name === 'bibliomixed');
  const inline =
    element.name === 'bibliomixed'
      ? session.inline(parts, [], context)
      : [
          ...(id === null ? [] : [makeText(`${session.named.labelOf(id) ?? ''} `)]),
          ...parts
            .filter((node) => !isElement(node, 'abbrev'))
            .flatMap((part) => [...session.inline([part], [], context), makeText('. ')]),
        ];
  return makeNode('paragraph', { id }, normalizeSpaces(inline));
}
