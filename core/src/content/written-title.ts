import { makeText, textAttr, type ContentNode } from '../model/node.js';
import { plainText } from '../number/plain-text.js';

/** What a component is called as it is written: a topic by its title, in which variables stand by their keys. */
export function writtenTitle(body: ContentNode, title: string): string {
  if (body.type !== 'topic') return title.trim();
  const inline = body.content?.[0]?.content ?? [];
  const named = inline.map((node) => (node.type === 'variable' ? makeText(`[${textAttr(node, 'key') ?? ''}]`) : node));
  return plainText(named);
}
