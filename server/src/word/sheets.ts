import type { PagedDocument, PagedHeads, PagedLineOfPage } from '@allomorph/core';
import {
  convertMillimetersToTwip,
  Footer,
  Header,
  NumberFormat,
  PageNumber,
  PageOrientation,
  Paragraph,
  SectionType,
  SimpleField,
  TabStopType,
  TextRun,
  type IHeaderOptions,
  type ISectionOptions,
  type ParagraphChild,
} from 'docx';

/** The sheets of a document: their size and margins, and what stands at their heads and feet. */

type Properties = NonNullable<ISectionOptions['properties']>;

/** The width of the text, in twentieths of a point. */
export function textWidth({ look: { paper } }: PagedDocument): number {
  return convertMillimetersToTwip(paper.width - paper.inner - paper.outer);
}

function sheet({ look: { paper } }: PagedDocument): NonNullable<Properties['page']> {
  const isLandscape = paper.width > paper.height;
  const [short, long] = [Math.min(paper.width, paper.height), Math.max(paper.width, paper.height)];
  return {
    // The library turns the sides of landscape paper itself.
    size: {
      width: convertMillimetersToTwip(short),
      height: convertMillimetersToTwip(long),
      orientation: isLandscape ? PageOrientation.LANDSCAPE : PageOrientation.PORTRAIT,
    },
    margin: {
      top: convertMillimetersToTwip(paper.top),
      bottom: convertMillimetersToTwip(paper.bottom),
      left: convertMillimetersToTwip(paper.inner),
      right: convertMillimetersToTwip(paper.outer),
      header: convertMillimetersToTwip(paper.top / 2),
      footer: convertMillimetersToTwip(paper.bottom / 2),
    },
  };
}

/** A section without heads and feet: a cover. */
export function coverSection(source: PagedDocument): Pick<ISectionOptions, 'properties'> {
  return { properties: { type: SectionType.NEXT_PAGE, page: sheet(source) } };
}

/**
 * The beginning of front matter or of the body, or of a chapter of theirs.
 * @param isFirst whether numbers of pages begin anew
 */
export function textSection(
  source: PagedDocument,
  { isFront, isFirst }: { readonly isFront: boolean; readonly isFirst: boolean },
): Omit<ISectionOptions, 'children'> {
  const { heads, paper } = source.look;
  const startsRight = paper.rightStart || (isFirst && paper.twoSided);
  return {
    properties: {
      type: startsRight ? SectionType.ODD_PAGE : SectionType.NEXT_PAGE,
      titlePage: heads.firstDiffers,
      page: {
        ...sheet(source),
        pageNumbers: {
          formatType: isFront ? NumberFormat.LOWER_ROMAN : NumberFormat.DECIMAL,
          ...(isFirst ? { start: 1 } : {}),
        },
      },
    },
    headers: around(source, (part) => new Header(lineOf(source, part.head, 'Header'))),
    footers: around(source, (part) => new Footer(lineOf(source, part.foot, 'Footer'))),
  };
}

function around<Made>(
  { look: { heads, paper } }: PagedDocument,
  make: (part: PagedHeads) => Made,
): { default: Made; first?: Made; even?: Made } {
  return {
    default: make(heads.right),
    ...(heads.firstDiffers ? { first: make(heads.first) } : {}),
    ...(paper.twoSided ? { even: make(heads.left) } : {}),
  };
}

function lineOf(source: PagedDocument, parts: PagedLineOfPage, style: string): IHeaderOptions {
  const width = textWidth(source);
  const children = parts.flatMap((part, at): ParagraphChild[] => [
    ...(at > 0 ? [new TextRun({ text: '\t' })] : []),
    ...part.map((each) => (typeof each === 'string' ? new TextRun(each) : fields[each.f]())),
  ]);
  const tabStops = [
    { type: TabStopType.CENTER, position: Math.round(width / 2) },
    { type: TabStopType.RIGHT, position: width },
  ];
  const isEmpty = parts.every((part) => part.length === 0);
  return { children: [new Paragraph({ style, tabStops, children: isEmpty ? [] : children })] };
}

/** What word processors fill in themselves (ISO/IEC 29500-1, 17.16.5). */
const fields = {
  page: () => new TextRun({ children: [PageNumber.CURRENT] }),
  pages: () => new TextRun({ children: [PageNumber.TOTAL_PAGES] }),
  chapter: () => new SimpleField('STYLEREF "heading 1"'),
  section: () => new SimpleField('STYLEREF "heading 2"'),
} as const;
