import { decodeHTMLStrict } from 'entities';
import { ImportFault } from '../import-result.js';
import { isoCharacters } from './iso-characters.js';

/** A general entity as its declaration gives it. */
export interface EntityDeclaration {
  readonly name: string;
  /** The replacement text of an internal entity; null for an external one. */
  readonly value: string | null;
  /** The file of an external entity, or the file in which an internal one is declared. */
  readonly file: string;
  readonly line: number;
}

/**
 * Reads a file of the imported folder; undefined where there is none.
 * @param encoding the encoding of a file of text that says none itself
 * @throws ImportFault where the file is not in its encoding
 */
export type ReadFile = (path: string, encoding?: string) => string | undefined;

/** Limits that no honest manual comes near. */
export const entityLimits = {
  declarations: 20_000,
  depth: 40,
  characters: 20_000_000,
  /** Characters of all that is read or put in place of a reference. */
  expanded: 80_000_000,
  /** What putting in costs by itself, in characters: references that bring nothing multiply as well. */
  reference: 200,
} as const;

interface ParameterEntity {
  readonly value: string | null;
  readonly systemId: string;
  readonly publicId: string;
  readonly file: string;
}

/**
 * Gathers the entities that a document type declaration declares, in its internal subset and in the
 * external parameter entities that it includes from the imported folder (XML 1.0, 4.2 and 4.4). The
 * first declaration of a name counts. Nothing outside the folder is read: public sets of character
 * entities are known by their public identifier, the DTD itself is not needed.
 */
export class EntityTable {
  private readonly general = new Map<string, EntityDeclaration>();
  private readonly parameters = new Map<string, ParameterEntity>();
  private characters = 0;

  /** @param note is told what could not be read and is done without */
  constructor(
    private readonly read: ReadFile,
    private readonly note: (message: string, at: { readonly file: string; readonly line: number }) => void = () =>
      undefined,
  ) {}

  /** The declaration of a name; undefined where there is none. */
  declared(name: string): EntityDeclaration | undefined {
    return this.general.get(name);
  }

  get names(): Iterable<string> {
    return this.general.keys();
  }

  /** Adds a declaration unless the name has one. */
  declare(declaration: EntityDeclaration): void {
    if (this.general.has(declaration.name)) return;
    if (this.general.size >= entityLimits.declarations) {
      throw new ImportFault(
        `More than ${entityLimits.declarations} entities are declared.`,
        declaration.file,
        declaration.line,
      );
    }
    this.general.set(declaration.name, declaration);
  }

  /** Reads the declarations of a document type declaration's text (what stands between `<!DOCTYPE` and `>`). */
  readDoctype(doctype: string, file: string, line: number): void {
    const open = doctype.indexOf('[');
    const close = doctype.lastIndexOf(']');
    if (open < 0 || close < open) return;
    const before = doctype.slice(0, open).split('\n').length - 1;
    this.subset(doctype.slice(open + 1, close), file, line + before, 0);
  }

  private subset(text: string, file: string, firstLine: number, depth: number): void {
    if (depth > entityLimits.depth) throw new ImportFault('Parameter entities nest too deep.', file, firstLine);
    this.characters += text.length;
    if (this.characters > entityLimits.characters) {
      throw new ImportFault('The declarations expand to more text than any manual needs.', file, firstLine);
    }
    const pattern =
      /<!--[\s\S]*?-->|<\?[\s\S]*?\?>|%([^\s;%]+);|<!ENTITY\s+(%\s+)?(\S+)\s+((?:PUBLIC\s+("[^"]*"|'[^']*')\s+|SYSTEM\s+)?("[^"]*"|'[^']*'))\s*(NDATA\s+\S+\s*)?>|<!\[\s*([^[\s]+)\s*\[|\]\]>|<!(?:ELEMENT|ATTLIST|NOTATION)(?:"[^"]*"|'[^']*'|[^>"'])*>|(\S)/g;
    let ignoring = 0;
    for (let match = pattern.exec(text); match; match = pattern.exec(text)) {
      const line = () => firstLine + text.slice(0, match.index).split('\n').length - 1;
      const [whole, parameter, isParameter, name, definition, publicId, literal, unparsed, section, stray] = match;
      if (section !== undefined) {
        const keyword = section
          .replace(/%([^\s;%]+);/g, (_, key: string) => this.parameters.get(key)?.value ?? '')
          .trim();
        if (ignoring > 0 || keyword === 'IGNORE') ignoring += 1;
        continue;
      }
      if (whole === ']]>') {
        if (ignoring > 0) ignoring -= 1;
        continue;
      }
      if (ignoring > 0) continue;
      if (stray !== undefined)
        throw new ImportFault('The document type declaration cannot be read here.', file, line());
      if (parameter !== undefined) this.include(parameter, file, line(), depth);
      else if (name !== undefined && literal !== undefined && definition !== undefined && unparsed === undefined) {
        const external = /^(PUBLIC|SYSTEM)/.test(definition);
        this.declaration(name, literal.slice(1, -1), {
          external,
          parameter: isParameter !== undefined,
          publicId: publicId?.slice(1, -1) ?? '',
          file,
          line: line(),
        });
      }
    }
  }

  private declaration(
    name: string,
    literal: string,
    about: { external: boolean; parameter: boolean; publicId: string; file: string; line: number },
  ): void {
    const value = about.external ? null : expandLiteral(literal, (key) => this.parameters.get(key)?.value ?? '');
    if (about.parameter) {
      if (!this.parameters.has(name)) {
        this.parameters.set(name, { value, systemId: literal, publicId: about.publicId, file: about.file });
      }
      return;
    }
    // A file that is never referred to may point anywhere: the path is judged when it is used.
    const file = about.external ? entityPath(about.file, literal) : about.file;
    this.declare({ name, value, file, line: about.line });
  }

  private include(name: string, file: string, line: number, depth: number): void {
    const parameter = this.parameters.get(name);
    if (!parameter) return;
    if (parameter.value !== null) {
      this.subset(parameter.value, file, line, depth + 1);
      return;
    }
    if (/\/\/ENTITIES\b/.test(parameter.publicId)) return;
    const path = insideFolder(entityPath(parameter.file, parameter.systemId), file, line);
    const text = this.read(path);
    if (text === undefined) {
      this.note(`The file “${path}” with declarations is missing.`, { file, line });
      return;
    }
    this.subset(text.replace(/^\uFEFF?<\?xml[^>]*\?>/, ''), path, 1, depth + 1);
  }
}

/** Character references and parameter entities in an entity's literal are replaced when it is declared (XML 1.0, 4.5). */
function expandLiteral(literal: string, parameter: (name: string) => string): string {
  return literal.replace(/&#(x[0-9a-fA-F]+|[0-9]+);|%([^\s;%]+);/g, (_, code?: string, name?: string) =>
    code !== undefined ? characterOf(code) : parameter(name ?? ''),
  );
}

function characterOf(code: string): string {
  const point = code.startsWith('x') ? parseInt(code.slice(1), 16) : parseInt(code, 10);
  return point > 0 && point <= 0x10ffff ? String.fromCodePoint(point) : '\uFFFD';
}

/** The character that a public character entity set gives a name, for example `mdash`; undefined for other names. */
export function publicCharacter(name: string): string | undefined {
  if (Object.hasOwn(isoCharacters, name)) return isoCharacters[name];
  const decoded = decodeHTMLStrict(`&${name};`);
  return decoded === `&${name};` ? undefined : decoded;
}

/** A system identifier relative to the file that holds it. Absolute ones keep a leading slash. */
function entityPath(base: string, systemId: string): string {
  const plain = systemId.replace(/^file:\/\//, '');
  if (/^[a-z][a-z0-9+.-]*:/i.test(plain)) return `/${plain}`;
  if (plain.startsWith('/')) return plain;
  const parts = base.split('/').slice(0, -1);
  for (const part of plain.split('/')) {
    if (part === '' || part === '.') continue;
    if (part === '..' && parts.length > 0 && parts.at(-1) !== '..') parts.pop();
    else parts.push(part);
  }
  return parts.join('/');
}

/** The path of a file beside another one; throws where it leaves the imported folder. */
export function pathBeside(base: string, relative: string, line: number): string {
  return insideFolder(entityPath(base, relative), base, line);
}

/** The same path; throws where it leads out of the imported folder. */
export function insideFolder(path: string, file: string, line: number): string {
  if (path.startsWith('/') || path.startsWith('..')) {
    throw new ImportFault(
      `An entity points outside the imported folder: “${path.replace(/^\/(?=[a-z]+:)/, '')}”.`,
      file,
      line,
    );
  }
  return path;
}
