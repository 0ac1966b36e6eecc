import { admonitionKinds } from '../../model/kinds.js';
import type { Design } from '../../design/design.js';
import { ownTableLines, colourOf, headingWeight, stampRules } from '../looks/tokens.js';
import { familyList } from '../looks/web-fonts.js';
import { formulaStyle } from '../write-formula.js';

/**
 * The style sheet of a book. Reading devices choose sizes, margins and colours of paper themselves.
 * @param fonts the rules that name the fonts
 */
export function bookStyle(design: Design, fonts: string): string {
  const { type, colours, letters, blocks } = design;
  const [text, headings, labels, code] = [type.text, type.headings, type.labels, type.code].map((key) =>
    familyList(design, key),
  );
  const size = (level: number): string => `${Math.round((level / type.size) * 85) / 100}em`;
  const capitals = (['level1', 'level2', 'level3'] as const)
    .flatMap((level, at) => (letters[level] === 'capitals' ? [`h${at + 1}`] : []))
    .join();
  const kinds = admonitionKinds
    .map((kind) => `.${kind}{border-color:${colourOf(design, blocks.admonitions[kind])}}`)
    .join('');
  const widths = Array.from({ length: 100 }, (_, index) => `col.w${index + 1}{width:${index + 1}%}`).join('');
  return `${fonts}body{font-family:${text};line-height:${Math.round(type.leading * 110) / 100}}
h1,h2,h3,h4,h5,h6,.heading{font-family:${headings};line-height:1.2;font-weight:${headingWeight(design)};margin:1.6em 0 .5em;break-after:avoid;hyphens:none}
h1{font-size:${size(type.level1)};margin-top:.5em}h2{font-size:${size(type.level2)}}h3{font-size:${size(type.level3)}}h4,h5,h6,.heading{font-size:1em}
.cover-title{font-size:2.2em;margin-top:30%}
.variant{font-family:${labels}}
${capitals === '' ? '' : `${capitals}{text-transform:uppercase}`}
${blocks.numbersInAccent ? `.number{color:${colours.accent}}` : ''}
a{color:${colours.accent}}
code,kbd,pre{font-family:${code};font-size:.88em}
code.replaceable{font-style:italic}
pre{border-left:3px solid #999;padding:.5em .8em;white-space:pre-wrap;overflow-wrap:anywhere}
kbd{border:1px solid;border-radius:.2em;padding:0 .3em}
${formulaStyle}div.formula{margin:1.2em 0;text-align:center;overflow:auto}
.label{font-family:${labels};font-weight:600}
.admonition{border-left:.3em solid ${colours.accent};padding:.1em 1em;margin:1.2em 0;break-inside:avoid}
.admonition .signal{font:700 .85em/1.3 ${labels};margin:.6em 0 .2em}
.admonition .title{font-weight:600;margin:.2em 0}
${kinds}
.table{overflow:auto;margin:1.2em 0}
table{border-collapse:collapse}
th,td{${{ rows: 'border-bottom', grid: 'border', none: '--none' }[blocks.tableRules]}:1px solid #999;padding:.35em .6em;text-align:left;vertical-align:top}
thead th{border-bottom:2px solid;font-family:${labels}}
${ownTableLines('#999', 'currentcolor')}
.center{text-align:center}.right{text-align:right}
caption,figcaption{text-align:left;font-size:.92em;margin:.4em 0}
figure{margin:1.2em 0;break-inside:avoid}img{max-width:100%;height:auto}
.example>.title{font-weight:600}
dt{font-weight:600;margin-top:.8em}dd{margin:.2em 0 .2em 1.4em}
ol.lower-alpha{list-style:lower-alpha}ol.upper-alpha{list-style:upper-alpha}ol.lower-roman{list-style:lower-roman}ol.upper-roman{list-style:upper-roman}
.footnotes{border-top:1px solid #999;margin-top:2.5em;font-size:.92em}
.footnote p:first-of-type{display:inline}
.missing{font-family:${labels};font-style:italic}
.generated ul{list-style:none;padding-left:0}.generated ul ul{padding-left:1.2em}
${stampRules(design, (own) => own)
  .replaceAll('var(--accent)', colours.accent)
  .replaceAll('var(--tint)', colours.tint)}
nav ol{list-style:none;padding-left:0}nav ol ol{padding-left:1.2em}
${widths}
`;
}
