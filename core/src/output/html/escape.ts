const special = /[&<>"]/;
const replacements: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** Text as HTML text or attribute value (in double quotes). */
export function escapeHtml(text: string): string {
  return special.test(text) ? text.replace(/[&<>"]/g, (sign) => replacements[sign] as string) : text;
}

/** An address that may stand in `href`: web, mail and relative ones; others lead nowhere. */
export function safeHref(href: string): string {
  const scheme = /^\s*([a-z][a-z0-9+.-]*):/i.exec(href)?.[1]?.toLowerCase();
  return scheme === undefined || ['http', 'https', 'mailto', 'ftp', 'tel'].includes(scheme) ? href.trim() : '#';
}
