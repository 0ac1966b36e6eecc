import { known } from '../model/known.js';

const special = /[&<>"]/;
const replacements: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** Text as HTML text or attribute value (in double quotes). */
export function escapeHtml(text: string): string {
  return special.test(text) ? text.replace(/[&<>"]/g, (sign) => known(replacements[sign])) : text;
}

/** Values of attributes; those that are undefined, null, false or empty classes are left out. */
export type Attributes = Readonly<Record<string, string | number | boolean | null | undefined>>;

/** A start tag. Names are the caller's; values are escaped, whatever they hold. */
export function startTag(name: string, attributes?: Attributes): string {
  if (!attributes) return `<${name}>`;
  let tag = `<${name}`;
  for (const attribute in attributes) {
    const value = attributes[attribute];
    if (value === undefined || value === null || value === false) continue;
    tag += value === true ? ` ${attribute}` : ` ${attribute}="${escapeHtml(String(value))}"`;
  }
  return `${tag}>`;
}

/** An element around markup that is complete. */
export function element(name: string, attributes: Attributes | undefined, markup: string): string {
  return `${startTag(name, attributes)}${markup}</${name}>`;
}
