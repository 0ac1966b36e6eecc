import { known } from '../model/known.js';
import { hrefExpression } from '../model/references.js';

/** Schemes that an address of a link may have. What has none is a way inside the deliverable. */
const allowedSchemes = new Set([
  'http:',
  'https:',
  'mailto:',
  'ftp:',
  'ftps:',
  'tel:',
  'sms:',
  'news:',
  'irc:',
  'ircs:',
  'xmpp:',
  'geo:',
]);

/** Stands in for the deliverable's own place when a relative address is read. */
const somewhere = 'https://deliverable.invalid/';

/**
 * Judges an address of a link, read as browsers read it (URL Standard, WHATWG): control signs and line breaks inside
 * do not hide a scheme.
 * @returns the address as it may stand in output, or null where it cannot be read or its scheme is not allowed
 */
export function safeAddress(address: string): string | null {
  if (!URL.canParse(address, somewhere)) return null;
  const { protocol } = new URL(address, somewhere);
  if (!allowedSchemes.has(protocol)) return null;
  // What the standard strips, a reader that is none might take otherwise: it is taken out. (4.4, “URL parsing”.)
  // eslint-disable-next-line no-control-regex
  return address.replace(/^[\u0000-\u0020]+|[\u0000-\u0020]+$|[\t\n\r]/g, '');
}

const unreservedOrReserved = /[A-Za-z0-9\-._~:/?#[\]@!$&'()*+,;=]|%[0-9A-Fa-f]{2}/y;

/** A value in reserved expansion: what an address may hold stays, everything else is percent-encoded (RFC 6570, 3.2.3). */
export function expandReserved(value: string): string {
  let expanded = '';
  for (let at = 0; at < value.length;) {
    unreservedOrReserved.lastIndex = at;
    const [kept] = unreservedOrReserved.exec(value) ?? [];
    if (kept !== undefined) {
      expanded += kept;
      at += kept.length;
      continue;
    }
    const sign = String.fromCodePoint(known(value.codePointAt(at)));
    expanded += encodeURIComponent(sign.isWellFormed() ? sign : '\uFFFD');
    at += sign.length;
  }
  return expanded;
}

/** Fills the expressions `{+key}` of an address. */
export function expandAddress(template: string, valueOf: (key: string) => string): string {
  return template.replace(hrefExpression, (_, key: string) => expandReserved(valueOf(key)));
}
