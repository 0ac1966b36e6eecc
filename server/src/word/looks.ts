import type { PagedDocument } from '@allomorph/core';
import { AlignmentType, BorderStyle, LevelFormat, type ILevelsOptions, type IStylesOptions } from 'docx';

/** The styles of a document, named by their job, and how its lists are numbered. */

const serif = 'Source Serif 4';
const sans = 'Source Sans 3';
const mono = 'JetBrains Mono';

const accents = {
  note: null,
  tip: null,
  important: null,
  notice: '2457A0',
  caution: '8A6A00',
  warning: 'A84D00',
  danger: 'B3261E',
} as const;

export function looksOf({ accent, language, region }: PagedDocument): IStylesOptions {
  const colour = accent.replace('#', '').toUpperCase();
  const heading = (size: number, before: number) => ({
    run: { font: serif, bold: true, size, color: '1D2326' },
    paragraph: { keepNext: true, spacing: { before, after: 120 } },
  });
  const paragraphs: IStylesOptions['paragraphStyles'] = [
    {
      id: 'BodyText',
      name: 'Body Text',
      basedOn: 'Normal',
      quickFormat: true,
      paragraph: { spacing: { after: 140, line: 288 } },
    },
    { id: 'Subtitle', name: 'Subtitle', basedOn: 'Normal', run: { font: sans, size: 28, color: '59636A' } },
    { id: 'ContentsHeading', name: 'Contents Heading', basedOn: 'Normal', ...heading(36, 360) },
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
      run: { size: 19 },
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
      run: { font: mono, size: 17, noProof: true },
      paragraph: { spacing: { before: 80, after: 160 }, shading: { fill: 'F3F0E8' } },
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
    { id: 'TableText', name: 'Table Text', basedOn: 'Normal', run: { size: 19 } },
    { id: 'TableHead', name: 'Table Head', basedOn: 'TableText', run: { font: sans, bold: true } },
    {
      id: 'Source',
      name: 'Source',
      basedOn: 'Normal',
      run: { font: sans, size: 18 },
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
      run: { font: sans, size: 17, color: '59636A' },
    },
    {
      id: 'Footer',
      name: 'footer',
      basedOn: 'Normal',
      run: { font: sans, size: 17, color: '59636A' },
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
    ...Object.entries(accents).map(([kind, own]) => ({
      id: `Admonition${kind}`,
      name: `Admonition ${kind}`,
      basedOn: 'Normal',
      quickFormat: true,
      paragraph: {
        spacing: { after: 60 },
        indent: { left: 200, right: 200 },
        shading: { fill: 'F3F0E8' },
        border: { left: { style: BorderStyle.SINGLE, size: 24, space: 8, color: own ?? colour } },
      },
    })),
  ];
  return {
    default: {
      document: {
        run: {
          font: serif,
          size: 21,
          color: '1D2326',
          language: { value: region === null ? language : `${language}-${region}` },
        },
      },
      title: { run: { font: serif, bold: true, size: 60 }, paragraph: { spacing: { before: 3600, after: 240 } } },
      heading1: heading(38, 480),
      heading2: heading(29, 360),
      heading3: heading(25, 280),
      heading4: heading(22, 240),
      heading5: heading(21, 200),
      heading6: heading(21, 200),
      hyperlink: { run: { color: colour, underline: {} } },
      footnoteText: { run: { size: 18 } },
    },
    paragraphStyles: paragraphs,
    characterStyles: [
      { id: 'CodeInLine', name: 'Code In Line', run: { font: mono, size: 18, noProof: true } },
      { id: 'Reference', name: 'Reference', run: { color: colour } },
      { id: 'Missing', name: 'Missing', run: { color: '8C1D13', font: sans } },
    ],
  };
}

const indents = (level: number) => ({ paragraph: { indent: { left: 720 * (level + 1), hanging: 360 } } });
const levels = Array.from({ length: 9 }, (_, level) => level);

export const bulletList = {
  reference: 'bullets',
  levels: levels.map((level): ILevelsOptions => ({
    level,
    format: LevelFormat.BULLET,
    text: ['•', '–', '·'][level % 3] ?? '•',
    alignment: AlignmentType.LEFT,
    style: indents(level),
  })),
};

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
