/** What an attribute of a node or mark may be. */
export interface AttributeSpec {
  readonly default: unknown;
  /** Whether a value may stand there. */
  readonly allows: (value: unknown) => boolean;
  /** What may stand there, as it is told: “a number from 1 to 100”. */
  readonly wanted: string;
}

const longText = 4000;

function spec(standard: unknown, wanted: string, allows: (value: unknown) => boolean): AttributeSpec {
  return { default: standard, wanted, allows };
}

function orNull({ wanted, allows }: AttributeSpec): AttributeSpec {
  return spec(null, `${wanted}, or nothing`, (value) => value === null || allows(value));
}

/** Well-formed text without NUL, which no database and no XML takes. */
function isText(value: unknown, most: number): value is string {
  return typeof value === 'string' && value.length <= most && !value.includes('\0') && value.isWellFormed();
}

/** A text; the empty one by default. */
export const text = (most = longText): AttributeSpec =>
  spec('', `text of at most ${most} signs`, (value) => isText(value, most));

/** A text or nothing; nothing by default. */
export const optionalText = (most = longText): AttributeSpec => orNull(text(most));

/** One of some words; the first by default. */
export const oneOf = (...words: readonly string[]): AttributeSpec =>
  spec(words[0], `one of ${words.map((word) => `“${word}”`).join(', ')}`, (value) =>
    words.some((word) => word === value),
  );

/** One of some words or nothing; nothing by default. */
export const optionalOneOf = (...words: readonly string[]): AttributeSpec => orNull(oneOf(...words));

/** A whole number within bounds. */
export const wholeNumber = (standard: number, least: number, most: number): AttributeSpec =>
  spec(
    standard,
    `a whole number from ${least} to ${most}`,
    (value) => typeof value === 'number' && Number.isInteger(value) && value >= least && value <= most,
  );

/** A whole number or nothing; nothing by default. */
export const optionalWholeNumber = (least: number, most: number): AttributeSpec =>
  orNull(wholeNumber(least, least, most));

export const flag = (standard: boolean): AttributeSpec =>
  spec(standard, 'true or false', (value) => typeof value === 'boolean');

/** The digest of stored bytes (SHA-256 in hexadecimal), or nothing; nothing by default. */
export const digest: AttributeSpec = orNull(
  spec('', 'the digest of a stored file', (value) => typeof value === 'string' && /^[0-9a-f]{64}$/.test(value)),
);

/** The stable name of a block within its component: anything without white space. */
export const id: AttributeSpec = orNull(
  spec('', 'a name without spaces, of at most 200 signs', (value) => isText(value, 200) && /^\S+$/u.test(value)),
);

/** The text form of a condition; that it can be parsed is checked where faults are told with their position. */
export const when: AttributeSpec = optionalText();

/** Columns of a table: shares of the width in percent, and conditions. */
export const columns: AttributeSpec = orNull(
  spec(
    null,
    'a list of at most 200 columns, each with a width from 0 to 100 and a condition',
    (value) => Array.isArray(value) && value.length <= 200 && value.every(isColumn),
  ),
);

function isColumn(value: unknown): boolean {
  if (typeof value !== 'object' || value === null) return false;
  const { width = null, when: condition = null } = value as { width?: unknown; when?: unknown };
  return (
    (width === null || (typeof width === 'number' && width >= 0 && width <= 100)) &&
    (condition === null || isText(condition, longText))
  );
}

/** Widths of the columns that a cell covers, in pixels, as an editor keeps them. */
export const columnWidths: AttributeSpec = orNull(
  spec(
    null,
    'a list of widths',
    (value) =>
      Array.isArray(value) && value.length <= 200 && value.every((each) => each === null || typeof each === 'number'),
  ),
);
