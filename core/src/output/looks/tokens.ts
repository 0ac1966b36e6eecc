import { admonitionKinds, tableRules } from '../../model/kinds.js';
import { bulletLevels, type AdmonitionLook, type Design } from '../../design/design.js';
import { signPaths } from '../../design/signs.js';
import { familyList } from './web-fonts.js';

/** What the style sheets of all formats for screens take from a design, as rules of CSS. */

/** The colour of a kind of admonition, or of a stamp. */
export function colourOf({ colours }: Design, { colour }: Pick<AdmonitionLook, 'colour'>): string {
  return colour === 'accent' ? colours.accent : colour;
}

const weights = { regular: 400, semibold: 620, bold: 700 } as const;

export function headingWeight({ type }: Design): number {
  return weights[type.headingWeight];
}

/** Families, sizes and letters of headings. */
export function typeRules(design: Design): string {
  const { type, letters, colours } = design;
  const size = (level: number): string => `${Math.round((level / type.size) * 100) / 100}em`;
  const capitals = (['level1', 'level2', 'level3'] as const)
    .flatMap((level, at) => (letters[level] === 'capitals' ? [`h${at + 1}`] : []))
    .join();
  return [
    `body{font-family:${familyList(design, type.text)};line-height:${lineHeight(design)}}`,
    `h1,h2,h3,h4,h5,h6,.heading,.cover-title{font-family:${familyList(design, type.headings)};font-weight:${headingWeight(design)}}`,
    ...(colours.headings === 'accent' ? ['h1,h2,h3,h4,h5,h6,.heading,.cover-title{color:var(--accent)}'] : []),
    `h1{font-size:${size(type.level1)}}h2{font-size:${size(type.level2)}}h3{font-size:${size(type.level3)}}h4,h5,h6,.heading{font-size:${size(type.level4)}}`,
    ...(capitals === '' ? [] : [`${capitals}{text-transform:uppercase}`]),
    `code,kbd,pre{font-family:${familyList(design, type.code)};font-size:.88em}`,
    `.label,.signal,thead th,.missing{font-family:${familyList(design, type.labels)}}`,
    `${type.justify ? 'p{text-align:justify}th p,td p,figcaption p{text-align:start}' : ''}${type.hyphenate ? 'p,li,dd{hyphens:auto}' : ''}code,kbd,pre,h1,h2,h3,h4,h5,h6{hyphens:manual}`,
  ].join('\n');
}

function lineHeight({ type }: Design): number {
  // Screens are read from further away than paper: lines stand further apart there.
  return Math.round(type.leading * 1.18 * 100) / 100;
}

/** Frames of admonitions, tables and listings, and bullets. The colours are in variables. */
export function blockRules(design: Design): string {
  const { blocks } = design;
  const frame = {
    bar: '.admonition{border-inline-start:4px solid var(--kind);background:var(--tint);padding:.2rem 1.2rem .4rem}',
    box: '.admonition{border:1.5px solid var(--kind);border-radius:4px;padding:.2rem 1.1rem .4rem}.admonition .signal{color:var(--kind)}',
    plain: '.admonition{padding:0}.admonition .signal{color:var(--kind)}',
  };
  const kinds = admonitionKinds.flatMap((kind) => {
    const { colour, sign } = blocks.admonitions[kind];
    return [
      ...(colour === 'accent' ? [] : [`.${kind}{--kind:${kindColour(colour)}}`]),
      ...(sign === 'none' ? [] : [`.${kind}>.signal::before{content:"";clip-path:path(evenodd,"${signPaths[sign]}")}`]),
    ];
  });
  const rules = {
    rows: 'th,td{border-bottom:1px solid var(--line)}',
    grid: 'th,td{border:1px solid var(--line)}',
    none: '',
  };
  const heads = {
    line: 'thead th{border-bottom:2px solid var(--ink)}',
    tint: 'thead th{background:var(--tint)}',
    accent: 'thead th{background:var(--accent);color:var(--paper)}thead th a{color:inherit}',
  };
  const code = {
    tint: 'pre{background:var(--tint)}',
    bar: 'pre{background:var(--tint);border-inline-start:3px solid var(--line)}',
    frame: 'pre{border:1px solid var(--line)}',
  };
  const bullets = bulletLevels[blocks.bullets];
  return [
    '.admonition{--kind:var(--accent);margin:1.4em 0}',
    frame[blocks.admonition],
    '.admonition .signal::before{display:inline-block;width:20px;height:20px;background:var(--kind);vertical-align:-5px;margin-inline-end:.5em}',
    ...kinds,
    rules[blocks.tableRules],
    ...(blocks.tableStripes ? ['tbody tr:nth-child(even){background:var(--tint)}'] : []),
    heads[blocks.tableHead],
    ownTableLines('var(--line)', blocks.tableHead === 'line' ? 'var(--ink)' : null),
    code[blocks.code],
    ...(blocks.bullets === 'dots'
      ? []
      : [
          `:is(main,article) ul{list-style:"${bullets[0]}  "}:is(main,article) ul ul{list-style:"${bullets[1]}  "}:is(main,article) ul ul ul{list-style:"${bullets[2]}  "}`,
        ]),
    `:is(h1,h2,h3,h4,h5,h6,.heading)>.number{font-weight:inherit}.number{font-weight:600${blocks.numbersInAccent ? ';color:var(--accent)' : ''}}`,
  ].join('\n');
}

/**
 * What tables say of their own lines, and not of those in their cells.
 * @param head the colour of the line below the header; null: there is none
 */
export function ownTableLines(line: string, head: string | null): string {
  return tableRules
    .map((own) => {
      const drawn = own === 'none' ? '' : `;border${own === 'rows' ? '-bottom' : ''}:1px solid ${line}`;
      const below =
        own === 'none' || head === null ? '' : `.lines-${own}>table>thead>tr>th{border-bottom:2px solid ${head}}`;
      return `.lines-${own}>table>*>tr>*{border:0${drawn}}${below}`;
    })
    .join('\n');
}

/** What bears the team's stamps: blocks in their frames, phrases, rows of tables. @param colour writes a colour of its own */
export function stampRules({ stamps, type, ...rest }: Design, colour: (own: string) => string): string {
  const looks = Object.entries(stamps);
  if (looks.length === 0) return '';
  const rules = looks.flatMap(([key, look]) => {
    const name = `.${cssName(`stamp-${key}`)}`;
    const own = look.colour === 'accent' ? 'var(--accent)' : colour(look.colour);
    const letters = [
      look.letters === 'colour' ? `color:${own}` : '',
      look.weight === 'bold' ? 'font-weight:650' : '',
      look.slant === 'italic' ? 'font-style:italic' : '',
      look.capitals ? 'text-transform:uppercase' : '',
    ].filter((each) => each !== '');
    const frames = {
      none: '',
      bar: `${name}:not(span,tr){border-inline-start:3px solid ${own};padding-inline-start:1rem}span${name}{border-bottom:1.5px solid ${own}}tr${name}>:first-child{border-inline-start:3px solid ${own}}`,
      box: `${name}:not(span,tr){border:1.5px solid ${own};border-radius:4px;padding:.55rem 1rem}span${name}{border:1px solid ${own};border-radius:3px;padding:0 .25em}tr${name}{outline:1.5px solid ${own}}`,
      tint: `${name}:not(span,tr){background:var(--tint);padding:.55rem 1rem}span${name}{background:var(--tint);padding:0 .2em}tr${name}{background:var(--tint)}`,
    };
    return [
      ...(letters.length > 0 ? [`${name}{${letters.join(';')}}`] : []),
      ...(look.word === '' ? [] : [`${name}>.stamp-word{color:${own}}`]),
      frames[look.frame],
    ];
  });
  const labels = familyList({ stamps, type, ...rest }, type.labels);
  return [
    `.stamp:not(span,tr,li,section){margin:1em 0}.stamp>:first-child:not(span){margin-top:0}.stamp>:last-child:not(span){margin-bottom:0}.stamp>.stamp-word+*{margin-top:0}`,
    `.stamp-word{font:650 .82em/1.4 ${labels};margin:0 0 .3em}`,
    ...rules,
  ]
    .filter((each) => each !== '')
    .join('\n');
}

/** A name as it stands in a style sheet (CSS Syntax 3, 4.3.11; CSSOM, “serialize an identifier”). */
function cssName(name: string): string {
  return name.replace(/[^\w\u0080-\uffff-]/g, (sign) => `\\${sign}`);
}

/** Lighter where the page is dark. */
export function kindColour(colour: string): string {
  return `light-dark(${colour},color-mix(in srgb,${colour} 45%,#fff))`;
}

/** An own style sheet as it stands in ours: what would end the element around it is written otherwise. */
export function ownCss({ web }: Design): string {
  return web.css.replaceAll('<', '\\3c ');
}
