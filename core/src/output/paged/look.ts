import { admonitionKinds, type AdmonitionKind } from '../../model/kinds.js';
import { bulletLevels, type Design, type MatterPart, type HeadAndFoot, type LineOfPage } from '../../design/design.js';
import type { ResolvedText } from '../../design/fields.js';
import { signPaths } from '../../design/signs.js';
import type { NumberedPublication } from '../../number/numbered.js';
import { imageFileName } from '../file-names.js';
import { coverTexts, lookText, type CoverTexts } from '../looks/cover.js';
import { colourOf } from '../looks/tokens.js';
import { familyName, shippedFamilies } from '../looks/web-fonts.js';
import type { PagedBlock } from './paged-document.js';

/** How paper looks, with lengths in millimetres and type in points. */
export interface PagedLook {
  readonly paper: {
    readonly width: number;
    readonly height: number;
    readonly twoSided: boolean;
    readonly top: number;
    readonly bottom: number;
    readonly inner: number;
    readonly outer: number;
    /** Whether chapters begin on right-hand pages. */
    readonly rightStart: boolean;
    readonly indexColumns: number;
  };
  readonly type: {
    /** Families by name, the wanted one first: the others have characters that it may lack. */
    readonly text: readonly string[];
    readonly headings: readonly string[];
    readonly labels: readonly string[];
    readonly code: readonly string[];
    readonly size: number;
    readonly leading: number;
    /** Sizes of headings, by level; the last one is for all that follow. */
    readonly levels: readonly number[];
    readonly capitals: readonly boolean[];
    readonly weight: number;
    readonly justify: boolean;
    readonly hyphenate: boolean;
  };
  readonly colours: Design['colours'];
  /** Null: none. */
  readonly cover:
    | (CoverTexts & {
        readonly arrangement: string;
        readonly picture: PagedPicture | null;
        readonly blocks: readonly PagedBlock[];
      })
    | null;
  readonly back: { readonly text: string; readonly blocks: readonly PagedBlock[] } | null;
  readonly heads: {
    readonly rule: boolean;
    readonly firstDiffers: boolean;
    readonly right: PagedHeads;
    readonly left: PagedHeads;
    readonly first: PagedHeads;
  };
  readonly admonition: string;
  readonly admonitionColours: Readonly<Record<AdmonitionKind, string>>;
  /** Drawings as SVG; null: none. */
  readonly signs: Readonly<Record<AdmonitionKind, string | null>>;
  /** Those of the stamps, by their keys. */
  readonly stamps: Readonly<Record<string, PagedStamp>>;
  readonly tableRules: string;
  readonly tableStripes: boolean;
  readonly tableHead: string;
  readonly code: string;
  readonly bullets: readonly string[];
  readonly numbersInAccent: boolean;
  /** The generated lists before and after the text. */
  readonly front: readonly MatterPart[];
  readonly end: readonly MatterPart[];
}

export interface PagedStamp {
  readonly title: string;
  readonly frame: string;
  readonly colour: string;
  /** Whether letters have its colour. */
  readonly coloured: boolean;
  readonly bold: boolean;
  readonly italic: boolean;
  readonly capitals: boolean;
}

export interface PagedPicture {
  readonly path: string;
  readonly alt: string;
}

/** Left, middle, right. */
export type PagedLineOfPage = readonly ResolvedText[];
export interface PagedHeads {
  readonly head: PagedLineOfPage;
  readonly foot: PagedLineOfPage;
}

/** Width and height of sizes of paper, in millimetres (ISO 216; ANSI/ASME Y14.1). */
const sheets = { a4: [210, 297], a5: [148, 210], letter: [215.9, 279.4] } as const;

function sheetOf({ paper }: Design): readonly [number, number] {
  const [width, height] = paper.size === 'own' ? [paper.width, paper.height] : sheets[paper.size];
  const [short, long] = [Math.min(width, height), Math.max(width, height)];
  if (paper.size === 'own' && !paper.landscape) return [width, height];
  return paper.landscape ? [long, short] : [short, long];
}

const weights = { regular: 400, semibold: 600, bold: 700 } as const;

/**
 * How the paper of a publication looks.
 * @param write writes the blocks of a snippet
 */
export function pagedLook(
  publication: NumberedPublication,
  write: (snippet: string) => readonly PagedBlock[],
): PagedLook {
  const { design, look } = publication;
  const { paper, type, letters, colours, cover, heads, blocks, lists } = design;
  const [width, height] = sheetOf(design);
  const all = [type.text, type.headings, type.labels, type.code, ...Object.keys(shippedFamilies)];
  const families = (key: string): readonly string[] => [
    ...new Set([key, ...all].flatMap((each) => familyName(design, each) ?? [])),
  ];
  const picture = look.pictures.get('cover.picture');
  const line = (path: string): PagedLineOfPage =>
    (['left', 'middle', 'right'] satisfies (keyof LineOfPage)[]).map((at) => look.texts.get(`${path}.${at}`) ?? []);
  const around = (side: 'right' | 'left' | 'first'): PagedHeads => ({
    head: line(`heads.${side}.head` satisfies `heads.${string}.${keyof HeadAndFoot}`),
    foot: line(`heads.${side}.foot`),
  });
  const perKind = <Value>(valueOf: (kind: AdmonitionKind) => Value): Record<AdmonitionKind, Value> => {
    const entries = admonitionKinds.map((kind) => [kind, valueOf(kind)] as const);
    // Every kind has an entry.
    // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
    return Object.fromEntries(entries) as Record<AdmonitionKind, Value>;
  };
  return {
    paper: {
      width,
      height,
      twoSided: paper.sides === 'two',
      top: paper.top,
      bottom: paper.bottom,
      inner: paper.inner,
      outer: paper.outer,
      rightStart: paper.chapterStart === 'right-page',
      indexColumns: paper.indexColumns,
    },
    type: {
      text: families(type.text),
      headings: families(type.headings),
      labels: families(type.labels),
      code: families(type.code),
      size: type.size,
      leading: type.leading,
      levels: [type.level1, type.level2, type.level3, type.level4],
      capitals: [letters.level1, letters.level2, letters.level3].map((each) => each === 'capitals'),
      weight: weights[type.headingWeight],
      justify: type.justify,
      hyphenate: type.hyphenate,
    },
    colours,
    cover: cover.on
      ? {
          ...coverTexts(publication),
          arrangement: cover.arrangement,
          picture: picture ? { path: imageFileName(picture.file), alt: picture.alt } : null,
          blocks: write('cover.snippet'),
        }
      : null,
    back: cover.backOn ? { text: lookText(publication, 'cover.back'), blocks: write('cover.backSnippet') } : null,
    heads: {
      rule: heads.rule,
      firstDiffers: heads.firstDiffers,
      right: around('right'),
      left: around('left'),
      first: around('first'),
    },
    admonition: blocks.admonition,
    admonitionColours: perKind((kind) => colourOf(design, blocks.admonitions[kind])),
    signs: perKind((kind) => {
      const { sign } = blocks.admonitions[kind];
      return sign === 'none' ? null : drawing(signPaths[sign], colourOf(design, blocks.admonitions[kind]));
    }),
    stamps: Object.fromEntries(
      Object.entries(design.stamps).map(([key, stamp]): [string, PagedStamp] => [
        key,
        {
          title: stamp.title,
          frame: stamp.frame,
          colour: colourOf(design, stamp),
          coloured: stamp.letters === 'colour',
          bold: stamp.weight === 'bold',
          italic: stamp.slant === 'italic',
          capitals: stamp.capitals,
        },
      ]),
    ),
    tableRules: blocks.tableRules,
    tableStripes: blocks.tableStripes,
    tableHead: blocks.tableHead,
    code: blocks.code,
    bullets: bulletLevels[blocks.bullets],
    numbersInAccent: blocks.numbersInAccent,
    // Topics always have a place: next to the text, where the design names none.
    front: lists.front.includes('topics') ? lists.front : [...lists.front, 'topics'],
    end: lists.back.includes('topics') ? lists.back : ['topics', ...lists.back],
  };
}

function drawing(path: string, colour: string): string {
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 20"><path fill-rule="evenodd" fill="${colour}" d="${path}"/></svg>`;
}
