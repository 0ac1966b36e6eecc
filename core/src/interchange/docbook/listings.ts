import { makeNode, makeText, type ContentMark, type ContentNode } from '../../model/node.js';
import { elementsNamed, isElement, trimVerbatim } from './elements.js';
import { conditioned } from './parts.js';
import type { Context, Flow, ImportSession } from './session.js';
import { normalizeSpaces } from './spaces.js';
import { joinedInline } from './titles.js';
import type { XmlElement } from './xml.js';

export function verbatimBlock(session: ImportSession, element: XmlElement, context: Context): Flow {
  const inline = session.inline(element.children, [], context);
  // A line break right after the start tag and before the end tag is layout of the source.
  const content = trimVerbatim(inline);
  return makeNode(
    'code_block',
    { ...session.idAttr(element, context), language: element.attrs['language'] ?? null },
    content,
  );
}

/** A command with its arguments; the parts stand apart by a space (DocBook 5.1, `cmdsynopsis`, attribute `sepchar`). */
export function commandSynopsis(session: ImportSession, element: XmlElement, context: Context): Flow {
  const parts = element.children.filter((node) => node.kind !== 'text' || node.text.trim() !== '');
  const space = element.attrs['sepchar'] ?? ' ';
  const inline = parts.flatMap((part, at) => [
    ...(at > 0 ? [makeText(space)] : []),
    ...(part.kind === 'element' && part.name === 'synopfragment'
      ? [{ type: 'line_break' } as const, ...session.inline(part.children, [], context)]
      : session.inline([part], [], context)),
  ]);
  return makeNode('code_block', session.idAttr(element, context), normalizeSpaces(inline));
}

/** Prototypes of functions: the definition, and the parameters in brackets. */
export function functionSynopsis(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  return element.children.flatMap((node): readonly Flow[] => {
    if (node.kind !== 'element') return [];
    if (node.name === 'funcsynopsisinfo') return [verbatimBlock(session, node, context)];
    if (node.name !== 'funcprototype') return [];
    const parameters = elementsNamed(node.children, 'paramdef', 'void', 'varargs');
    const inline = [
      ...joinedInline(
        session,
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
            : session.inline(each.children, [], context)),
      ]),
      makeText(');'),
    ];
    const block = makeNode('code_block', session.idAttr(node, context), normalizeSpaces(inline));
    return conditioned([block], session.conditionOn(node));
  });
}

/**
 * A part of a command synopsis with its brackets (DocBook 5.1, `arg` and `group`: what is optional stands in square ones,
 * what is required among others in braces, alternatives are divided by bars, three dots follow what repeats).
 */
export function synopsisPart(
  session: ImportSession,
  element: XmlElement,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  if (element.name === 'sbr') return [{ type: 'line_break' }];
  if (element.name === 'synopfragmentref') {
    return [makeText('(', marks), ...session.inline(element.children, marks, context), makeText(')', marks)];
  }
  const choice = element.attrs['choice'] ?? 'opt';
  const [open, close] = choice === 'opt' ? ['[', ']'] : choice === 'req' ? ['{', '}'] : ['', ''];
  const parts =
    element.name === 'group'
      ? alternatives(session, element, marks, context)
      : session.inline(element.children, marks, context);
  const repeats = element.attrs['rep'] === 'repeat' ? '...' : '';
  return [
    ...(open ? [makeText(open, marks)] : []),
    ...parts,
    ...(close || repeats ? [makeText(`${close}${repeats}`, marks)] : []),
  ];
}

export function alternatives(
  session: ImportSession,
  group: XmlElement,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  const parts = group.children.filter((node) => node.kind !== 'text' || node.text.trim() !== '');
  return parts.flatMap((part, at) => {
    // Alternatives need no brackets of their own.
    const plain =
      part.kind === 'element' && part.name === 'arg' ? { ...part, attrs: { ...part.attrs, choice: 'plain' } } : part;
    return [...(at > 0 ? [makeText(' | ', marks)] : []), ...session.inline([plain], marks, context)];
  });
}
