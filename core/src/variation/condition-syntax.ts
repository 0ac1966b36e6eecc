import { known } from '../model/known.js';

/**
 * The expression and its text form, which people type and read:
 *
 *     product is dunlin-4, dunlin-4x and not (audience is observer or market is europe)
 *
 * Grammar (EBNF); `not` binds tightest, then `and`, then `or`:
 *
 *     any  = all, { "or", all } ;
 *     all  = unary, { "and", unary } ;
 *     unary = "not", unary | "(", any, ")" | leaf ;
 *     leaf = key, "is", key, { ",", key } ;
 *     key  = bare word | quoted string ;
 */
export type Condition =
  | { readonly all: readonly Condition[] }
  | { readonly any: readonly Condition[] }
  | { readonly not: Condition }
  | { readonly axis: string; readonly values: readonly string[] };

export type ConditionLeaf = Extract<Condition, { readonly axis: string }>;

/** Every leaf of a condition, in the order in which its text has them. */
export function leavesIn(condition: Condition): readonly ConditionLeaf[] {
  if ('axis' in condition) return [condition];
  if ('not' in condition) return leavesIn(condition.not);
  return ('all' in condition ? condition.all : condition.any).flatMap(leavesIn);
}

export type ParsedCondition =
  | { readonly ok: true; readonly condition: Condition }
  | {
      readonly ok: false;
      /** One sentence, without the position. */
      readonly message: string;
      /** Where in the text, counted in UTF-16 units from 0. */
      readonly start: number;
      readonly end: number;
    };

interface Token {
  readonly kind: 'word' | 'quoted' | '(' | ')' | ',' | 'end';
  readonly text: string;
  readonly start: number;
  readonly end: number;
}

const keywords = new Set(['and', 'or', 'not', 'is']);
const bareWord = /[\p{L}\p{N}_.:/+#@*-]+/uy;
const wholeBareWord = /^[\p{L}\p{N}_.:/+#@*-]+$/u;
const maximumDepth = 100;

class SyntaxFault extends Error {
  constructor(
    message: string,
    readonly start: number,
    readonly end: number,
  ) {
    super(message);
  }
}

/** Reads the text form of a condition. Never throws: a fault is returned with its position. */
export function parseCondition(text: string): ParsedCondition {
  let parsed = remembered.get(text);
  if (!parsed) {
    parsed = parse(text);
    if (remembered.size >= mostRemembered) remembered.clear();
    remembered.set(text, parsed);
  }
  return parsed;
}

/** The same few texts are asked for again and again. */
const remembered = new Map<string, ParsedCondition>();
const mostRemembered = 10_000;

function parse(text: string): ParsedCondition {
  try {
    return { ok: true, condition: new Parser(tokenize(text)).whole() };
  } catch (fault) {
    if (fault instanceof SyntaxFault) {
      return { ok: false, message: fault.message, start: fault.start, end: fault.end };
    }
    throw fault;
  }
}

function tokenize(text: string): readonly Token[] {
  const tokens: Token[] = [];
  let at = 0;
  while (at < text.length) {
    const char = text[at] ?? '';
    if (/\s/.test(char)) at += 1;
    else if (char === '(' || char === ')' || char === ',') {
      tokens.push({ kind: char, text: char, start: at, end: at + 1 });
      at += 1;
    } else if (char === '"') {
      let end = at + 1;
      let value = '';
      while (end < text.length && text[end] !== '"') {
        if (text[end] === '\\' && end + 1 < text.length) end += 1;
        value += text[end];
        end += 1;
      }
      if (end >= text.length) throw new SyntaxFault('The quotation mark is never closed.', at, text.length);
      tokens.push({ kind: 'quoted', text: value, start: at, end: end + 1 });
      at = end + 1;
    } else {
      bareWord.lastIndex = at;
      const match = bareWord.exec(text);
      if (!match) throw new SyntaxFault(`“${char}” cannot stand here; put keys with such signs in quotes.`, at, at + 1);
      tokens.push({ kind: 'word', text: match[0], start: at, end: at + match[0].length });
      at += match[0].length;
    }
  }
  tokens.push({ kind: 'end', text: '', start: text.length, end: text.length });
  return tokens;
}

class Parser {
  private at = 0;
  private depth = 0;

  constructor(private readonly tokens: readonly Token[]) {}

  whole(): Condition {
    const condition = this.any();
    const rest = this.peek();
    if (rest.kind === ')') throw new SyntaxFault('This bracket closes nothing.', rest.start, rest.end);
    if (rest.kind !== 'end') {
      throw new SyntaxFault(`Expected “and”, “or” or the end, not “${rest.text}”.`, rest.start, rest.end);
    }
    return condition;
  }

  private any(): Condition {
    return this.joined(
      'or',
      () => this.all(),
      (any) => ({ any }),
    );
  }

  private all(): Condition {
    return this.joined(
      'and',
      () => this.unary(),
      (all) => ({ all }),
    );
  }

  private joined(
    word: string,
    operand: () => Condition,
    join: (operands: readonly Condition[]) => Condition,
  ): Condition {
    const first = operand();
    const operands = [first];
    while (this.isKeyword(word)) {
      this.at += 1;
      operands.push(operand());
    }
    return operands.length === 1 ? first : join(operands);
  }

  private unary(): Condition {
    const token = this.peek();
    if (this.depth > maximumDepth) {
      throw new SyntaxFault(`Conditions nest at most ${maximumDepth} deep.`, token.start, token.end);
    }
    this.depth += 1;
    try {
      if (this.isKeyword('not')) {
        this.at += 1;
        return { not: this.unary() };
      }
      if (token.kind === '(') {
        this.at += 1;
        const inner = this.any();
        const close = this.peek();
        if (close.kind !== ')') throw new SyntaxFault('The bracket is never closed.', token.start, token.end);
        this.at += 1;
        return inner;
      }
      return this.leaf();
    } finally {
      this.depth -= 1;
    }
  }

  private leaf(): Condition {
    const axis = this.key('the key of an axis');
    const is = this.peek();
    if (!this.isKeyword('is')) throw new SyntaxFault(`Expected “is” after “${axis}”.`, is.start, is.end);
    this.at += 1;
    const values = [this.key('a value')];
    while (this.peek().kind === ',') {
      this.at += 1;
      values.push(this.key('a value'));
    }
    return { axis, values: [...new Set(values)] };
  }

  private key(what: string): string {
    const token = this.peek();
    if (token.kind === 'quoted' || (token.kind === 'word' && !keywords.has(token.text))) {
      this.at += 1;
      return token.text;
    }
    const found = token.kind === 'end' ? 'the end' : `“${token.text}”`;
    throw new SyntaxFault(`Expected ${what}, not ${found}.`, token.start, token.end);
  }

  private isKeyword(word: string): boolean {
    const token = this.peek();
    return token.kind === 'word' && token.text === word;
  }

  private peek(): Token {
    return known(this.tokens[this.at]);
  }
}

/** The text form of a condition. Parsing it gives an equal expression, up to brackets around one operand. */
export function printCondition(condition: Condition): string {
  return print(condition, 0);
}

function print(condition: Condition, level: number): string {
  if ('axis' in condition) return `${printKey(condition.axis)} is ${condition.values.map(printKey).join(', ')}`;
  if ('not' in condition) return `not ${print(condition.not, 2)}`;
  const [operands, word, own] =
    'any' in condition ? ([condition.any, 'or', 0] as const) : ([condition.all, 'and', 1] as const);
  if (operands.length === 1) return print(known(operands[0]), level);
  const text = operands.map((operand) => print(operand, own + 1)).join(` ${word} `);
  return own < level ? `(${text})` : text;
}

/** A key as it stands in the text form: quoted where it is a keyword or holds other than word signs. */
export function printKey(key: string): string {
  return wholeBareWord.test(key) && !keywords.has(key) ? key : `"${key.replace(/["\\]/g, '\\$&')}"`;
}

/**
 * Both conditions together, as text; null stands for “always”.
 * @returns null when both are null
 */
export function bothConditions(a: string | null, b: string | null): string | null {
  if (!a || !b || a === b) return a || b || null;
  const [left, right] = [parseCondition(a), parseCondition(b)];
  if (!left.ok || !right.ok) return `(${a}) and (${b})`;
  const parts = [left.condition, right.condition].flatMap((each) => ('all' in each ? each.all : [each]));
  return printCondition({ all: parts });
}
