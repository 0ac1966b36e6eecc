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

// What stands in tags is escaped, so that tags of our own end at the first `>`.
const voidTag = /<(br|img|col|meta|link|hr)((?: [^<>]*)?)>/g;
const switchedOn = /<[a-z][^<>]*? (?:hidden|controls)(?=[ >])[^<>]*>/g;
/** What XML 1.0 has no place for (2.2, “Characters”). */
// eslint-disable-next-line no-control-regex
const noCharacter = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g;

/**
 * Markup of our own in the syntax of XML: empty elements end in themselves, attributes that are switched on have a value, and
 * signs that XML cannot hold are left out. (HTML, section 14, “The XML syntax”.)
 */
export function xmlSyntax(html: string): string {
  return xmlCharacters(html)
    .replace(voidTag, '<$1$2/>')
    .replace(switchedOn, (tag) => tag.replace(/ (hidden|controls)(?=[ >])/g, ' $1="$1"'));
}

/** Text without signs that XML cannot hold. */
export function xmlCharacters(text: string): string {
  return text.replace(noCharacter, '');
}
