import { SaxesParser, type SaxesTagPlain } from 'saxes';

/** How many parts a drawing may come to when everything that it uses again is counted. */
const mostParts = 100_000;

/** Elements that hold other documents, or what runs. */
const refused: ReadonlySet<string> = new Set([
  'script',
  'foreignobject',
  'iframe',
  'object',
  'embed',
  'audio',
  'video',
  'canvas',
  'handler',
]);
const embeddedPicture = /^data:image\/(?:png|jpeg|gif|webp);/i;

/** What is counted of an element that can be used again. */
interface Part {
  elements: number;
  readonly uses: string[];
}

/**
 * A drawing that refers to nothing outside of itself: for whatever draws it with more rights than its author has, and hands on
 * what it sees. Elements and attributes that lead outside or could run are taken out.
 * @param svg an SVG document (Scalable Vector Graphics 2)
 * @throws Error where it is no XML, or would be drawn from too many parts
 */
export function closedDrawing(svg: string): string {
  const parser = new SaxesParser();
  const root: Part = { elements: 0, uses: [] };
  const parts = new Map<string, Part>();
  const open: (Part | null)[] = [];
  const around: Part[] = [root];
  let out = '';
  let skipped = 0;
  let isStyle = false;
  parser.on('error', (error) => {
    throw new Error(`The drawing is no XML: ${error.message}`);
  });
  parser.on('opentag', (tag) => {
    if (skipped > 0 || refused.has(localName(tag.name))) {
      skipped += 1;
      return;
    }
    const id = tag.attributes['id'];
    const part: Part | null = id === undefined ? null : { elements: 0, uses: [] };
    if (part && id !== undefined) {
      parts.set(id, part);
      around.push(part);
    }
    open.push(part);
    for (const each of around) each.elements += 1;
    const target = targetOf(tag);
    if (target !== null) for (const each of around) each.uses.push(target);
    isStyle = localName(tag.name) === 'style';
    out += `<${tag.name}${attributesOf(tag)}>`;
  });
  parser.on('closetag', (tag) => {
    if (skipped > 0) {
      skipped -= 1;
      return;
    }
    if (open.pop()) around.pop();
    isStyle = false;
    out += `</${tag.name}>`;
  });
  const text = (value: string): void => {
    if (skipped === 0) out += escaped(isStyle ? closedStyle(value) : value);
  };
  parser.on('text', text);
  parser.on('cdata', text);
  parser.write(svg.replace(/^\uFEFF/, '')).close();
  refuseLarge(root, parts);
  return out;
}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1).toLowerCase();

function isReference(name: string): boolean {
  return localName(name) === 'href' || localName(name) === 'src';
}

/** What an element draws again. */
function targetOf({ name, attributes }: SaxesTagPlain): string | null {
  if (localName(name) !== 'use') return null;
  const [, value] = Object.entries(attributes).find(([attribute]) => isReference(attribute)) ?? [];
  return value?.startsWith('#') ? value.slice(1) : null;
}

function attributesOf({ attributes }: SaxesTagPlain): string {
  return Object.entries(attributes)
    .filter(([name, value]) => {
      if (/^on/i.test(localName(name))) return false;
      if (isReference(name)) return value.startsWith('#') || embeddedPicture.test(value);
      return closedStyle(value) === value || name.startsWith('xmlns');
    })
    .map(([name, value]) => ` ${name}="${escaped(value)}"`)
    .join('');
}

/** A style without what leads outside. Escapes could hide it: what has any is taken out whole (CSS Syntax 3, section 4.3.7). */
function closedStyle(style: string): string {
  if (!/url\(|@import|image\(|image-set\(|src\(|\\/i.test(style)) return style;
  if (/\\|@import|image\(|image-set\(|src\(/i.test(style)) return '';
  return style.replace(/url\(\s*(?!["']?\s*#)[^)]*\)?/gi, 'none');
}

function escaped(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}

/** A few elements that use each other again and again come to millions. */
function refuseLarge(root: Part, parts: ReadonlyMap<string, Part>): void {
  const known = new Map<string, number>();
  const sizeOf = (part: Part): number => {
    let size = part.elements;
    for (const id of part.uses) {
      size += sizeOfNamed(id);
      if (size > mostParts) throw new Error(`The drawing would be drawn from more than ${mostParts} parts.`);
    }
    return size;
  };
  const sizeOfNamed = (id: string): number => {
    let size = known.get(id);
    if (size === undefined) {
      // What uses itself is drawn by nobody.
      known.set(id, 0);
      const part = parts.get(id);
      size = part ? sizeOf(part) : 0;
      known.set(id, size);
    }
    return size;
  };
  sizeOf(root);
}
