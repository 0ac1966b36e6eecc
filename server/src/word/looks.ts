import { admonitionKinds, type PagedDocument, type PagedLook, type PagedStamp } from '@allomorph/core';
import {
  AlignmentType,
  BorderStyle,
  LevelFormat,
  UnderlineType,
  type ILevelsOptions,
  type IParagraphStylePropertiesOptions,
  type IRunOptions,
  type IStylesOptions,
} from 'docx';

/** The styles of a document, named by their job, and how its lists are numbered. */

const hex = (colour: string): string => colour.replace('#', '').toUpperCase();

export function looksOf({ look, language, region }: PagedDocument): IStylesOptions {
  const { type, colours } = look;
  const first = (families: readonly string[]): string => families[0] ?? 'serif';
  const [serif, sans, mono, headings] = [type.text, type.labels, type.code, type.headings].map(first);
  const colour = hex(colours.accent);
  const [soft, tint] = [hex(colours.soft), hex(colours.tint)];
  /** Half points, as word processors count. */
  const half = (points: number): number => Math.round(points * 2);
  const text = half(type.size);
  const small = Math.round(text * 0.9);
  /** @param level from 1 */
  const heading = (level: number, before: number) => ({
    run: {
      font: headings ?? 'serif',
      bold: type.weight > 400,
      size: half(type.levels[Math.min(level, type.levels.length) - 1] ?? type.size),
      color: colours.headings === 'accent' ? colour : hex(colours.ink),
      allCaps: type.capitals[level - 1] ?? false,
    },
    paragraph: { keepNext: true, spacing: { before, after: 120 } },
  });
  const line = Math.round(240 * (type.leading / 1.15));
  const paragraphs: IStylesOptions['paragraphStyles'] = [
    {
      id: 'BodyText',
      name: 'Body Text',
      basedOn: 'Normal',
      quickFormat: true,
      paragraph: {
        spacing: { after: 140, line },
        ...(type.justify ? { alignment: AlignmentType.JUSTIFIED } : {}),
      },
    },
    { id: 'Subtitle', name: 'Subtitle', basedOn: 'Normal', run: { font: sans, size: 28, color: soft } },
    { id: 'ContentsHeading', name: 'Contents Heading', basedOn: 'Normal', ...heading(1, 360) },
    ...[1, 2, 3].map((level) => ({
      id: `TOC${level}`,
      name: `toc ${level}`,
      basedOn: 'Normal',
      run: { bold: level === 1 },
      paragraph: { indent: { left: 300 * (level - 1) }, spacing: { before: level === 1 ? 100 : 0, after: 20 } },
    })),
    { id: 'ListedLine', name: 'Listed Line', basedOn: 'Normal' },
    {
      id: 'Caption',
      name: 'caption',
      basedOn: 'Normal',
      run: { size: small },
      paragraph: { keepNext: true, spacing: { before: 120, after: 80 } },
    },
    {
      id: 'Figure',
      name: 'Figure',
      basedOn: 'Normal',
      paragraph: { keepNext: true, spacing: { before: 160, after: 60 } },
    },
    {
      id: 'Code',
      name: 'Code',
      basedOn: 'Normal',
      quickFormat: true,
      run: { font: mono, size: Math.round(text * 0.82), noProof: true },
      paragraph: {
        spacing: { before: 80, after: 160 },
        ...(look.code === 'frame' ? { border: boxOf(hex(colours.line)) } : { shading: { fill: tint } }),
        ...(look.code === 'bar' ? { border: { left: barOf(hex(colours.line)) } } : {}),
      },
    },
    {
      id: 'Term',
      name: 'Term',
      basedOn: 'Normal',
      run: { bold: true },
      paragraph: { keepNext: true, spacing: { before: 100 } },
    },
    { id: 'Quote', name: 'Quote', basedOn: 'BodyText', run: { italics: true } },
    { id: 'ListParagraph', name: 'List Paragraph', basedOn: 'Normal', paragraph: { spacing: { after: 60 } } },
    { id: 'TableText', name: 'Table Text', basedOn: 'Normal', run: { size: small } },
    {
      id: 'TableHead',
      name: 'Table Head',
      basedOn: 'TableText',
      run: { font: sans, bold: true, ...(look.tableHead === 'accent' ? { color: 'FFFFFF' } : {}) },
    },
    {
      id: 'Source',
      name: 'Source',
      basedOn: 'Normal',
      run: { font: sans, size: small },
      paragraph: { indent: { left: 360 }, spacing: { after: 120 } },
    },
    // Carries nothing but the mark of a place.
    {
      id: 'Anchor',
      name: 'Anchor',
      basedOn: 'Normal',
      run: { size: 2 },
      paragraph: { keepNext: true, spacing: { before: 0, after: 0, line: 20 } },
    },
    {
      id: 'Header',
      name: 'header',
      basedOn: 'Normal',
      run: { font: sans, size: 17, color: soft },
      ...(look.heads.rule ? { paragraph: { border: { bottom: ruleOf(hex(colours.line)) } } } : {}),
    },
    {
      id: 'Footer',
      name: 'footer',
      basedOn: 'Normal',
      run: { font: sans, size: 17, color: soft },
    },
    {
      id: 'IndexLetter',
      name: 'Index Letter',
      basedOn: 'Normal',
      run: { font: sans, bold: true, color: colour },
      paragraph: { keepNext: true, spacing: { before: 200, after: 60 } },
    },
    ...[0, 1, 2].map((depth) => ({
      id: `Index${depth + 1}`,
      name: `index ${depth + 1}`,
      basedOn: 'Normal',
      paragraph: { indent: { left: 240 * depth + 240, hanging: 240 } },
    })),
    ...Object.entries(look.stamps).map(([key, stamp]) => ({
      id: stampId('Block', key),
      name: `${stamp.title} (block)`,
      basedOn: 'BodyText',
      quickFormat: true,
      run: stampRun(stamp),
      paragraph: stampFrame(look, stamp),
    })),
    ...admonitionKinds.map((kind) => ({
      id: `Admonition${kind}`,
      name: `Admonition ${kind}`,
      basedOn: 'Normal',
      quickFormat: true,
      paragraph: { spacing: { after: 60 }, ...frameOf(look, hex(look.admonitionColours[kind])) },
    })),
  ];
  return {
    default: {
      document: {
        run: {
          font: serif,
          size: text,
          color: hex(colours.ink),
          language: { value: region === null ? language : `${language}-${region}` },
        },
      },
      title: {
        run: { font: headings ?? 'serif', bold: type.weight > 400, size: 60, color: hex(colours.ink) },
        paragraph: { spacing: { before: 240, after: 240 } },
      },
      heading1: heading(1, 480),
      heading2: heading(2, 360),
      heading3: heading(3, 280),
      heading4: heading(4, 240),
      heading5: heading(5, 200),
      heading6: heading(6, 200),
      hyperlink: { run: { color: colour, underline: {} } },
      footnoteText: { run: { size: Math.round(text * 0.86) } },
    },
    paragraphStyles: paragraphs,
    characterStyles: [
      { id: 'CodeInLine', name: 'Code In Line', run: { font: mono, size: Math.round(text * 0.86), noProof: true } },
      { id: 'Reference', name: 'Reference', run: { color: colour } },
      ...Object.entries(look.stamps).map(([key, stamp]) => ({
        id: stampId('Phrase', key),
        name: `${stamp.title} (words)`,
        quickFormat: true,
        run: { ...stampRun(stamp), ...phraseFrame(look, stamp) },
      })),
      { id: 'Missing', name: 'Missing', run: { color: '8C1D13', font: sans } },
    ],
  };
}

/** Names the styles of a stamp. */
const stampId = (on: 'Block' | 'Phrase', key: string): string => `Stamp${on}-${key}`;

/** How what bears a stamp is written; nothing where the design knows no such stamp. */
function stampRun({ bold, italic, capitals, coloured, colour }: PagedStamp): IRunOptions {
  return {
    ...(bold ? { bold } : {}),
    ...(italic ? { italics: true } : {}),
    ...(capitals ? { allCaps: true } : {}),
    ...(coloured ? { color: hex(colour) } : {}),
  };
}

/** How the word of a stamp is written. */
export function wordOfStamp({ stamps }: PagedLook, key: string): IRunOptions {
  const look = stamps[key];
  return { bold: true, ...(look ? { color: hex(look.colour) } : {}) };
}

/** The style of paragraphs that bear a stamp. */
export function stampedStyle({ stamps }: PagedLook, key: string): { readonly style?: string } {
  return stamps[key] ? { style: stampId('Block', key) } : {};
}

/** The style of words that bear a stamp, with what it says, as other styles of words may take its place. */
export function stampedPhrase({ stamps }: PagedLook, key: string): IRunOptions {
  const look = stamps[key];
  return look ? { ...stampRun(look), style: stampId('Phrase', key) } : {};
}

function stampFrame({ colours }: PagedLook, { frame, colour }: PagedStamp): IParagraphStylePropertiesOptions {
  const indent = { left: 200, right: 200 };
  if (frame === 'box') return { indent, border: boxOf(hex(colour)) };
  if (frame === 'tint') return { indent, shading: { fill: hex(colours.tint) } };
  return frame === 'bar' ? { indent, border: { left: barOf(hex(colour)) } } : {};
}

function phraseFrame({ colours }: PagedLook, { frame, colour }: PagedStamp): IRunOptions {
  if (frame === 'box') return { border: { ...ruleOf(hex(colour)), space: 1 } };
  if (frame === 'tint') return { shading: { fill: hex(colours.tint) } };
  return frame === 'bar' ? { underline: { type: UnderlineType.SINGLE, color: hex(colour) } } : {};
}

const ruleOf = (color: string) => ({ style: BorderStyle.SINGLE, size: 4, space: 4, color });
const barOf = (color: string) => ({ style: BorderStyle.SINGLE, size: 24, space: 8, color });
const boxOf = (color: string) => ({
  top: ruleOf(color),
  bottom: ruleOf(color),
  left: ruleOf(color),
  right: ruleOf(color),
});

/** How an admonition stands out: by a bar, a box, or the colour of its word only. */
function frameOf({ admonition, colours }: PagedLook, colour: string): IParagraphStylePropertiesOptions {
  const indent = { left: 200, right: 200 };
  if (admonition === 'box') return { indent, border: boxOf(colour) };
  if (admonition === 'plain') return {};
  return { indent, shading: { fill: hex(colours.tint) }, border: { left: barOf(colour) } };
}

const indents = (level: number) => ({ paragraph: { indent: { left: 720 * (level + 1), hanging: 360 } } });
const levels = Array.from({ length: 9 }, (_, level) => level);

/** The list without numbers; its signs are those of the design. */
export function bulletList({ bullets }: PagedLook): { readonly reference: string; readonly levels: ILevelsOptions[] } {
  return {
    reference: bulletReference,
    levels: levels.map((level): ILevelsOptions => ({
      level,
      format: LevelFormat.BULLET,
      text: bullets[level % bullets.length] ?? '•',
      alignment: AlignmentType.LEFT,
      style: indents(level),
    })),
  };
}
export const bulletReference = 'bullets';

const formats: Readonly<Record<string, (typeof LevelFormat)[keyof typeof LevelFormat]>> = {
  'lower-alpha': LevelFormat.LOWER_LETTER,
  'upper-alpha': LevelFormat.UPPER_LETTER,
  'lower-roman': LevelFormat.LOWER_ROMAN,
  'upper-roman': LevelFormat.UPPER_ROMAN,
};

/** One numbered list, which counts on its own. */
export function numberedList(
  at: number,
  { start, numerals }: { readonly start: number; readonly numerals: string },
): { readonly reference: string; readonly levels: ILevelsOptions[] } {
  return {
    reference: `numbers-${at}`,
    levels: levels.map((level): ILevelsOptions => ({
      level,
      format: formats[numerals] ?? LevelFormat.DECIMAL,
      text: `%${level + 1}.`,
      start,
      alignment: AlignmentType.LEFT,
      style: indents(level),
    })),
  };
}
