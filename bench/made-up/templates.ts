import { childrenOf, escapeHtml, textAttr, type Component, type ContentNode } from '@allomorph/core';

/** How one template engine writes conditions, values and includes. */
export interface Dialect {
  readonly open: (condition: number) => string;
  readonly close: string;
  readonly value: (key: string) => string;
  readonly include: (key: string) => string;
}

export const dialects = {
  handlebars: {
    open: (at) => `{{#if c.c${at}}}`,
    close: '{{/if}}',
    value: (key) => `{{v.${key.replace('-', '_')}}}`,
    include: (key) => `{{> ${key}}}`,
  },
  liquidjs: {
    open: (at) => `{% if c.c${at} %}`,
    close: '{% endif %}',
    value: (key) => `{{ v.${key.replace('-', '_')} }}`,
    include: (key) => `{% render '${key}', c: c, v: v %}`,
  },
  eta: {
    open: (at) => `<% if (it.c.c${at}) { %>`,
    close: '<% } %>',
    value: (key) => `<%= it.v.${key.replace('-', '_')} %>`,
    include: (key) => `<%~ include('@${key}', it) %>`,
  },
} satisfies Record<string, Dialect>;

/**
 * A component as a template that renders the HTML which the engine renders: markup and words stand in it
 * as they are, and only conditions, variables and placements are left to be decided.
 */
export function templateOf(component: Component, conditions: readonly string[], dialect: Dialect): string {
  const limited = (when: string | null, html: string): string =>
    when === null ? html : `${dialect.open(conditions.indexOf(when))}${html}${dialect.close}`;
  const inline = (nodes: readonly ContentNode[]): string =>
    nodes
      .map((node) => {
        if (node.type === 'variable') return dialect.value(textAttr(node, 'key') ?? '');
        const mark = node.marks?.find((each) => each.type === 'condition');
        return limited(mark ? textAttr(mark, 'when') : null, escapeHtml(node.text ?? ''));
      })
      .join('');
  const blocks = (nodes: readonly ContentNode[], level: number): string =>
    nodes.map((node) => limited(textAttr(node, 'when'), block(node, level))).join('');
  const block = (node: ContentNode, level: number): string => {
    const content = childrenOf(node);
    switch (node.type) {
      case 'title':
        return `<h${level}>${inline(content)}</h${level}>\n`;
      case 'paragraph':
        return `<p>${inline(content)}</p>\n`;
      case 'bullet_list':
        return `<ul>\n${blocks(content, level)}</ul>\n`;
      case 'list_item':
        return `<li>${inline(childrenOf(content[0] as ContentNode))}</li>\n`;
      case 'section':
        return `<section id="${textAttr(node, 'id') ?? ''}">\n${blocks(content, level + 1)}</section>\n`;
      case 'placement':
        return dialect.include(textAttr(node, 'component') ?? '');
      default:
        throw new Error(`No template is written for ${node.type}.`);
    }
  };
  return blocks(childrenOf(component.body as ContentNode), 1);
}
