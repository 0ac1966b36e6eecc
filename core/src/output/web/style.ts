import type { Design } from '../../number/design.js';
import type { FontFile } from '../format.js';

/** The fonts of a site, under the paths that its style sheet uses. */
export const siteFonts: readonly FontFile[] = [
  { path: 'fonts/serif.woff2', font: 'serif' },
  { path: 'fonts/serif-italic.woff2', font: 'serif-italic' },
  { path: 'fonts/sans.woff2', font: 'sans' },
  { path: 'fonts/mono.woff2', font: 'mono' },
];

/** The style sheet of a site in a design. */
export function siteStyle(design: Design): string {
  const widths = Array.from({ length: 100 }, (_, index) => `col.w${index + 1}{width:${index + 1}%}`).join('');
  return `@font-face{font-family:"Site Serif";src:url(fonts/serif.woff2) format("woff2");font-weight:200 900}
@font-face{font-family:"Site Serif";src:url(fonts/serif-italic.woff2) format("woff2");font-weight:200 900;font-style:italic}
@font-face{font-family:"Site Sans";src:url(fonts/sans.woff2) format("woff2");font-weight:200 900}
@font-face{font-family:"Site Mono";src:url(fonts/mono.woff2) format("woff2");font-weight:100 800}
:root{color-scheme:light dark;--accent:${design.accent};--ink:#1d2326;--soft:#59636a;--line:#d9d4c8;--paper:#fdfcf9;--tint:#f3f0e8;--alarm:#8c1d13;--alarm-tint:#ffe2dd}
@media (prefers-color-scheme:dark){:root{--accent:color-mix(in srgb,${design.accent} 45%,#fff);--ink:#e8e5dd;--soft:#a9b1b4;--line:#3d4548;--paper:#171b1d;--tint:#22282b;--alarm:#ffb4a8;--alarm-tint:#4a1d18}img{background:#fdfcf9}}
.skip{position:absolute;left:-99rem;background:var(--paper);padding:.4rem .8rem}.skip:focus{left:.5rem;top:.5rem;z-index:2}
*{box-sizing:border-box}
body{margin:0;overflow-wrap:break-word;background:var(--paper);color:var(--ink);font:1.0625rem/1.6 "Site Serif",serif}
header{border-bottom:1px solid var(--line);padding:.7rem 2rem;font:600 .95rem/1.4 "Site Sans",sans-serif}
header a{color:var(--ink);text-decoration:none}
.variant{color:var(--soft);font-weight:400;font-family:"Site Sans",sans-serif}header .variant{margin-inline-start:.8rem}
.sheet{display:flex;align-items:flex-start;max-width:76rem;margin:0 auto}
.page{flex:1;min-width:0;padding:1.5rem 2.5rem 4rem;max-width:52rem}
.contents{flex:0 0 18rem;padding:1.5rem 1rem 2rem 2rem;font:.9rem/1.45 "Site Sans",sans-serif;position:sticky;top:0;max-height:100vh;overflow:auto}
.contents ul{list-style:none;margin:0;padding:0}
.contents ul ul{padding-left:1rem}
.contents a{display:block;padding:.22rem .5rem;color:var(--ink);text-decoration:none;border-left:3px solid transparent}
.contents a:hover{background:var(--tint)}
.contents a[aria-current]{border-left-color:var(--accent);font-weight:650}
.contents .number,.contents .more{color:var(--soft)}
.cover{padding-top:3rem}
.cover-title{font:600 2.4rem/1.15 "Site Serif",serif;margin:0 0 .6rem}.cover>.variant{margin:0 0 2rem;font-size:1.1rem}
.cover .contents{position:static;max-height:none;padding:0}
h1,h2,h3,h4,h5,h6,.heading{font-family:"Site Serif",serif;line-height:1.2;font-weight:620;margin:2.2em 0 .6em}
h1{font-size:2rem;margin-top:.4em}h2{font-size:1.45rem}h3{font-size:1.2rem}h4,h5,h6,.heading{font-size:1.05rem}
.number{color:var(--accent);font-weight:600}
a{color:var(--accent)}
code,kbd,pre{font-family:"Site Mono",monospace;font-size:.88em}
code.replaceable{font-style:italic}
pre{background:var(--tint);border-left:3px solid var(--line);padding:.8rem 1rem;overflow:auto;line-height:1.45}
pre code{font-size:1em}
kbd{border:1px solid var(--line);border-bottom-width:2px;border-radius:3px;padding:0 .35em}
.label{font-family:"Site Sans",sans-serif;font-weight:600}
.admonition{border-left:4px solid var(--accent);background:var(--tint);padding:.2rem 1.2rem .4rem;margin:1.4em 0}
.admonition .signal{font:700 .85rem/1.3 "Site Sans",sans-serif;letter-spacing:.04em;margin:.8em 0 .2em}
.admonition .title{font-weight:620;margin:.2em 0}
.notice{border-color:#2457a0}.caution{border-color:#b08900}.warning{border-color:#c65b00}.danger{border-color:#b3261e}
.table{overflow:auto;margin:1.4em 0}
table{border-collapse:collapse;min-width:60%}
th,td{border-bottom:1px solid var(--line);padding:.45rem .8rem;text-align:start;vertical-align:top}
thead th{border-bottom:2px solid var(--ink);font-family:"Site Sans",sans-serif;font-size:.92rem}
.center{text-align:center}.right{text-align:right}
caption{text-align:left;font-size:.95rem;padding-bottom:.5rem}
.formula{overflow:auto}div.formula{margin:1.4em 0;text-align:center}video{max-width:100%}audio{width:100%}figure{margin:1.6em 0}img{max-width:100%;height:auto}figcaption{font-size:.95rem;margin-top:.4em}
.example{margin:1.4em 0}.example>.title{font-weight:600;margin-bottom:.3em}
dt{font-weight:620;margin-top:.9em}dd{margin:.2em 0 .2em 1.6rem}
ol.steps{counter-reset:step;list-style:none;padding-left:1.8rem}ol.steps>li{counter-increment:step;margin:.6em 0;padding-left:.3rem;position:relative}ol.steps>li::before{content:counters(step,".") ".";position:absolute;right:100%;padding-right:.3rem;font-weight:700;color:var(--accent)}ol.steps ol.steps{padding-left:2.6rem}
ol.lower-alpha{list-style:lower-alpha}ol.upper-alpha{list-style:upper-alpha}ol.lower-roman{list-style:lower-roman}ol.upper-roman{list-style:upper-roman}
.footnotes{border-top:1px solid var(--line);margin-top:3rem;font-size:.92rem}
.footnote p:first-of-type{display:inline}
.missing{background:var(--alarm-tint);color:var(--alarm);font-family:"Site Sans",sans-serif;font-size:.9em;padding:0 .3em}
.contents .lists{border-top:1px solid var(--line);margin-top:.8rem;padding-top:.6rem}
.generated ul{list-style:none;padding-left:0}.generated ul ul{padding-left:1.4rem}.generated li{margin:.25rem 0}
.generated dd>p:first-child{margin-top:0}.generated .source{font:.88rem/1.4 "Site Sans",sans-serif;margin:.1rem 0 .6rem}
.letter h2{font:700 1.1rem/1.3 "Site Sans",sans-serif;color:var(--accent);border-bottom:1px solid var(--line);margin:1.6em 0 .4em}
.turn{display:flex;justify-content:space-between;gap:2rem;border-top:1px solid var(--line);margin-top:3rem;padding-top:1rem;font:.95rem/1.4 "Site Sans",sans-serif}
.turn span{display:block;color:var(--soft);font-size:.82rem}
.turn [rel=next]{margin-left:auto;text-align:right}
${widths}
@media (max-width:56rem){.sheet{display:block}.contents{position:static;max-height:16rem;padding:1rem 1.25rem}.page{padding:1rem 1.25rem 3rem}}
@media print{.contents,header,.turn{display:none}}
`;
}
