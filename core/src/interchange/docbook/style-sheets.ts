import { ImportFault } from '../import-result.js';
import { parseXml, type XmlElement, type XmlNode } from './xml.js';

/** A style sheet that lies with a book: XSLT, or DSSSL where its name ends with `.dsl`. */
export interface StyleSheet {
  readonly path: string;
  readonly text: string;
}

/**
 * Whether a book's own processing numbers its sections, as far as its style sheets say: they set `section.autolabel` of
 * the DocBook XSL stylesheets (0 where they only import these) or `%section-autolabel%` of the DSSSL ones.
 * @returns null where they say nothing
 */
export function numbersSections(sheets: readonly StyleSheet[]): boolean | null {
  const said = sheets.map(({ path, text }) => (/\.dsl$/i.test(path) ? saidByDsssl(text) : saidByXslt(path, text)));
  // What one of several outputs numbers is numbered.
  if (said.includes('numbers')) return true;
  return said.some((each) => each !== null) ? false : null;
}

type Said = 'numbers' | 'does not' | null;

function saidByDsssl(text: string): Said {
  const found = /^[^;\n]*\(define\s+%section-autolabel%\s+#(t|f)/m.exec(text);
  return found && (found[1] === 't' ? 'numbers' : 'does not');
}

function saidByXslt(path: string, text: string): Said {
  let said: Said = null;
  const visit = (node: XmlNode): void => {
    if (node.kind !== 'element') return;
    if (node.name === 'param' && node.attrs['name'] === 'section.autolabel')
      said = /^['"]?(0|no|)['"]?$/.test(valueOf(node)) ? 'does not' : 'numbers';
    if (node.name === 'import' && isDocbookXsl(node.attrs['href'] ?? '')) said ??= 'does not';
    node.children.forEach(visit);
  };
  try {
    parseXml(text, path).forEach(visit);
  } catch (error) {
    if (!(error instanceof ImportFault)) throw error;
  }
  return said;
}

function valueOf({ attrs, children }: XmlElement): string {
  return (attrs['select'] ?? children.map((child) => (child.kind === 'text' ? child.text : '')).join('')).trim();
}

/** Whether an address is one under which the stylesheets are published, or installed. */
function isDocbookXsl(href: string): boolean {
  return /docbook[^/]*\/(release\/)?xsl|docbook-xsl|xsl-stylesheets|\/(x?html\d?|fo)\/(docbook|chunk)\.xsl$/i.test(
    href,
  );
}
