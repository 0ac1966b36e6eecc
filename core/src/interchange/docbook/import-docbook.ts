import { assignIds, idsAfter, tidyBody } from '../../content/body.js';
import { makeNode, makeText } from '../../model/node.js';
import { keyFromTitle, type Component } from '../../model/component.js';
import type { StoredDesign } from '../../design/resolve.js';
import { importedDesign } from '../../design/shipped.js';
import { ImportFault, type ImportResult } from '../import-result.js';
import { flow, isBlock } from './blocks.js';
import { inline } from './inline.js';
import { bookEntries, entriesOf, topic } from './outline.js';
import { ImportSession, type DocbookImport } from './session.js';
import { numbersSections } from './style-sheets.js';
import { checkExpansion, importedProfiles } from './variables.js';
import { parseXml, type XmlElement } from './xml.js';

/**
 * Imports a DocBook 4 or 5 document with its reuse: every external entity file becomes one component
 * (a topic where it holds one chapter or section, a snippet otherwise), placed wherever it is referred
 * to; every text entity becomes one variable; effectivity attributes become conditions. What it does not
 * know is kept as text and noted.
 * @throws ImportFault where the source is malformed, hostile or points outside its folder
 */
export function importDocbook(options: DocbookImport): ImportResult {
  const { main, publication } = options;
  const session = new ImportSession(options, { flow, inline, isBlock, topic });
  const text = options.read(main);
  if (text === undefined) throw new ImportFault('The file does not exist.', main, 1);
  const nodes = parseXml(text, main, {
    onDoctype: (doctype, line) => session.entities.readDoctype(doctype, main, line),
  });
  checkExpansion(session);
  const root = nodes.find((node): node is XmlElement => node.kind === 'element');
  if (!root) throw new ImportFault('The document has no root element.', main, 1);

  const key = session.newKey(keyFromTitle(publication));
  const entries =
    root.name === 'book' || root.name === 'article' || root.name === 'set'
      ? bookEntries(session, root, key)
      : entriesOf(session, [root]);
  const named = importedProfiles(session);
  session.notes.sort((a, b) => a.file.localeCompare(b.file) || a.line - b.line);
  return {
    publication: { key, title: makeNode('phrase', null, [makeText(publication)]), values: {}, entries },
    components: [...session.components.values()].map((component) => finished(session, component)),
    images: [...session.images.values()],
    axes: [...session.axes].map(([axis, values]) => ({ key: axis, values: [...values] })),
    profiles: named,
    notes: session.notes,
    design: designOf(session),
  };
}

/** How the book counts. An index stands where it has a place for one; sections have numbers, unless its own style sheets give none. */
function designOf({ asksForIndex, options }: ImportSession): StoredDesign {
  const isNumbered = numbersSections(options.styleSheets ?? []) ?? true;
  return {
    ...importedDesign,
    ...(isNumbered ? {} : { title: 'As imported books without section numbers count' }),
    settings: {
      ...importedDesign.settings,
      ...(isNumbered ? {} : { 'numerals.section': 'none' }),
      ...(asksForIndex ? { 'lists.back': ['index'] } : {}),
    },
  };
}

/** A component with references resolved, ids given and attributes in their shortest form. */
function finished({ named }: ImportSession, component: Component): Component {
  if (component.kind === 'variable') {
    const { body } = component;
    const value = body.default ? tidyBody(named.resolved(body.default, component.key)) : null;
    return { ...component, body: { ...body, default: value } };
  }
  if (component.kind !== 'topic' && component.kind !== 'snippet') return component;
  const body = named.resolved(component.body, component.key);
  return { ...component, body: tidyBody(assignIds(body, idsAfter(body))) };
}
