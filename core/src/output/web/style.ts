import type { Design } from '../../design/design.js';
import { codeRules } from '../looks/code-colours.js';
import { blockRules, kindColour, ownCss, stampRules, typeRules } from '../looks/tokens.js';
import { familyList } from '../looks/web-fonts.js';
import { formulaStyle } from '../write-formula.js';

const dark =
  '--ink:#e8e5dd;--soft:#a9b1b4;--line:#3d4548;--paper:#171b1d;--tint:#22282b;--alarm:#ffb4a8;--alarm-tint:#4a1d18;--code-word:#8fb8ff;--code-text:#a8d5a2;--code-number:#f0b37e';

/** The colours of a design, by the reader's system where the design does not say. */
function colourRules({ colours, web }: Design): string {
  const { accent, ink, soft, line, tint } = colours;
  const light = `:root{color-scheme:${web.appearance === 'both' ? 'light dark' : web.appearance};--accent:${accent};--ink:${ink};--soft:${soft};--line:${line};--paper:#fdfcf9;--tint:${tint};--alarm:#8c1d13;--alarm-tint:#ffe2dd;--code-word:#1d4f91;--code-text:#2f6128;--code-number:#8a3b12}`;
  const darkened = `:root{--accent:color-mix(in srgb,${accent} 45%,#fff);${dark}}img{background:#fdfcf9}`;
  if (web.appearance === 'light') return light;
  return `${light}\n${web.appearance === 'dark' ? darkened : `@media (prefers-color-scheme:dark){${darkened}}`}`;
}

/**
 * The style sheet of a site in a design.
 * @param fonts the rules that name the fonts
 */
export function siteStyle(design: Design, fonts: string): string {
  const widths = Array.from({ length: 100 }, (_, index) => `col.w${index + 1}{width:${index + 1}%}`).join('');
  const labels = familyList(design, design.type.labels);
  return `${fonts}${colourRules(design)}
.skip{position:absolute;left:-99rem;background:var(--paper);padding:.4rem .8rem}.skip:focus{left:.5rem;top:.5rem;z-index:2}
*{box-sizing:border-box}
body{margin:0;overflow-wrap:break-word;background:var(--paper);color:var(--ink);font-size:1.0625rem}
header{display:flex;flex-wrap:wrap;align-items:center;gap:.3rem .2rem;border-bottom:1px solid var(--line);padding:.6rem 2rem;font:600 .95rem/1.4 ${labels}}
header a{color:var(--ink);text-decoration:none}.logo{height:28px;width:auto;vertical-align:middle;margin-inline-end:.8rem;background:none}.beside{color:var(--soft);font-weight:400;margin-inline-start:.8rem}
.site-foot{border-top:1px solid var(--line);padding:1rem 2rem 2rem;color:var(--soft);font:.88rem/1.5 ${labels}}.over{color:var(--soft);font-family:${labels};margin:0 0 .6rem}.cover-picture{max-height:22rem;margin:0 0 1.5rem}
.variant{color:var(--soft);font-weight:400;font-family:${labels}}header .variant{margin-inline-start:.8rem}
.sheet{display:flex;align-items:flex-start;max-width:${design.web.width + 38}rem;margin:0 auto}
.page{flex:1;min-width:0;padding:1.5rem 2.5rem 4rem;max-width:${design.web.width}rem}
.contents{flex:0 0 18rem;padding:1.5rem 1rem 2rem 2rem;font:.9rem/1.45 ${labels};position:sticky;top:0;max-height:100vh;overflow:auto}
.contents ul{list-style:none;margin:0;padding:0}
.contents ul ul{padding-left:1rem}
.contents a{display:block;padding:.22rem .5rem;color:var(--ink);text-decoration:none;border-left:3px solid transparent}
.contents a:hover{background:var(--tint)}
.contents a[aria-current]{border-left-color:var(--accent);font-weight:650}
.contents .number,.contents .more{color:var(--soft)}
.cover{padding-top:3rem}
.cover-title{font-size:2.4rem;line-height:1.15;margin:0 0 .6rem}.cover>.variant{margin:0 0 2rem;font-size:1.1rem}
.cover .contents{position:static;max-height:none;padding:0}
h1,h2,h3,h4,h5,h6,.heading{line-height:1.2;margin:2.2em 0 .6em}h1{margin-top:.4em}
a{color:var(--accent)}
code.replaceable{font-style:italic}
pre{padding:.8rem 1rem;overflow:auto;line-height:1.45}
pre code{font-size:1em}
kbd{border:1px solid var(--line);border-bottom-width:2px;border-radius:3px;padding:0 .35em}
.label{font-weight:600}.admonition .signal{font-weight:700;font-size:.85rem;line-height:1.3;letter-spacing:.04em;margin:.8em 0 .2em}
.admonition .title{font-weight:620;margin:.2em 0}
.table{overflow:auto;margin:1.4em 0}
table{border-collapse:collapse;min-width:60%}
th,td{padding:.45rem .8rem;text-align:start;vertical-align:top}
thead th{font-size:.92rem}
.center{text-align:center}.right{text-align:right}
caption{text-align:left;font-size:.95rem;padding-bottom:.5rem}
${formulaStyle}div.formula{margin:1.4em 0;padding:.2em 0;text-align:center;overflow-x:auto;overflow-y:hidden}video{max-width:100%}audio{width:100%}figure{margin:1.6em 0}img{max-width:100%;height:auto}figcaption{font-size:.95rem;margin-top:.4em}
.example{margin:1.4em 0}.example>.title{font-weight:600;margin-bottom:.3em}
dt{font-weight:620;margin-top:.9em}dd{margin:.2em 0 .2em 1.6rem}
ol.steps{counter-reset:step;list-style:none;padding-left:1.8rem}ol.steps>li{counter-increment:step;margin:.6em 0;padding-left:.3rem;position:relative}ol.steps>li::before{content:counters(step,".") ".";position:absolute;right:100%;padding-right:.3rem;font-weight:700;color:var(--accent)}ol.steps ol.steps{padding-left:2.6rem}
ol.lower-alpha{list-style:lower-alpha}ol.upper-alpha{list-style:upper-alpha}ol.lower-roman{list-style:lower-roman}ol.upper-roman{list-style:upper-roman}
.footnotes{border-top:1px solid var(--line);margin-top:3rem;font-size:.92rem}
.footnote p:first-of-type{display:inline}
.missing{background:var(--alarm-tint);color:var(--alarm);font-size:.9em;padding:0 .3em}
.contents .lists{border-top:1px solid var(--line);margin-top:.8rem;padding-top:.6rem}
.generated ul{list-style:none;padding-left:0}.generated ul ul{padding-left:1.4rem}.generated li{margin:.25rem 0}
.generated dd>p:first-child{margin-top:0}.generated .source{font:.88rem/1.4 ${labels};margin:.1rem 0 .6rem}
.letter h2{font:700 1.1rem/1.3 ${labels};color:var(--accent);border-bottom:1px solid var(--line);margin:1.6em 0 .4em}
.turn{display:flex;justify-content:space-between;gap:2rem;border-top:1px solid var(--line);margin-top:3rem;padding-top:1rem;font:.95rem/1.4 ${labels}}
.turn span{display:block;color:var(--soft);font-size:.82rem}
.turn [rel=next]{margin-left:auto;text-align:right}
.search{position:relative;margin-inline-start:auto}.search input{width:15rem;max-width:100%;padding:.35rem .7rem;border:1px solid var(--line);border-radius:4px;background:var(--paper);color:var(--ink);font:inherit;font-weight:400}
.results{position:absolute;inset-inline-end:0;top:calc(100% + .4rem);z-index:5;width:min(34rem,92vw);max-height:70vh;overflow:auto;padding:.4rem;border:1px solid var(--line);border-radius:4px;background:var(--paper);box-shadow:0 6px 24px #0003;font-weight:400}
.results ul{list-style:none;margin:0;padding:0}.results p{margin:.4rem .6rem}.results a{display:block;padding:.45rem .6rem;border-radius:3px}.results a:is(:hover,:focus){background:var(--tint)}.results small{color:var(--soft);margin-inline-start:.6rem}.results span{display:block;color:var(--soft);font-size:.9rem}
mark{background:#ffe28a;color:#1d2326;padding:0 .1em;border-radius:2px}
.crumbs{font:.88rem/1.4 ${labels};color:var(--soft);margin-bottom:.2rem}.crumbs a{color:inherit}.crumbs .number{color:inherit}
.on-page{flex:0 0 14rem;position:sticky;top:0;max-height:100vh;overflow:auto;padding:1.8rem 1rem 2rem 0;font:.86rem/1.4 ${labels}}.on-page ul{list-style:none;margin:0;padding:0;border-inline-start:1px solid var(--line)}.on-page .name{margin:0 0 .4rem;font-weight:600;padding-inline-start:.8rem}.on-page a{display:block;padding:.18rem .8rem;color:var(--ink);text-decoration:none}.on-page a:hover{color:var(--accent)}.on-page .deeper a{padding-inline-start:1.7rem;color:var(--soft)}.on-page .number{color:var(--soft);font-weight:400}
.unfold{display:none;width:100%;border:1px solid var(--line);border-radius:4px;background:var(--tint);color:var(--ink);font:600 .95rem/1 ${labels};padding:.7rem;text-align:start;cursor:pointer}.fold{float:inline-end;width:1.7rem;height:1.7rem;border:0;background:none;color:var(--soft);cursor:pointer;padding:0}.fold::before{content:"›";display:inline-block;font:700 1.1rem/1 ${labels};transition:transform .12s}.fold[aria-expanded=true]::before{transform:rotate(90deg)}
time{color:var(--soft);font-weight:400;font-size:.88rem;margin-inline-start:.6rem}
.here{opacity:0;color:var(--soft);text-decoration:none;font-weight:400;font-size:.85em}:is(h1,h2,h3,h4,h5,h6,.heading):hover>.here,.here:focus{opacity:1}
.listing{position:relative}.copy{position:absolute;top:.4rem;inset-inline-end:.4rem;border:1px solid var(--line);border-radius:3px;background:var(--paper);color:var(--ink);font:.8rem/1 ${labels};padding:.35rem .6rem;opacity:0;cursor:pointer}.listing:hover .copy,.copy:focus{opacity:1}
.bubble{position:absolute;z-index:4;max-width:min(26rem,92vw);padding:.5rem .8rem;border:1px solid var(--line);border-radius:4px;background:var(--paper);box-shadow:0 4px 16px #0003;font-size:.92rem}.bubble p{margin:.2rem 0}.others{position:relative;margin-inline-start:.6rem;font-size:.9rem}.others summary{cursor:pointer}.others ul{position:absolute;z-index:4;min-width:16rem;max-width:92vw;margin:.4rem 0 0;padding:.5rem .9rem;list-style:none;border:1px solid var(--line);border-radius:4px;background:var(--paper);box-shadow:0 4px 16px #0003}.others li{margin:.35rem 0}.others small{color:var(--soft)}.term{border-bottom:1px dotted currentColor;cursor:help}.term:hover,.term:focus{border-bottom-style:solid}
.enlarge{display:block;border:0;padding:0;background:none;cursor:zoom-in;max-width:100%;text-align:inherit}
.large{border:0;padding:1rem;max-width:96vw;max-height:96vh;background:#fdfcf9}.large img{display:block;width:92vw;height:86vh;object-fit:contain;cursor:zoom-out}.large button{float:inline-end;font:inherit;padding:.2rem .8rem}.large::backdrop{background:#000b}
.off{position:fixed;left:-99rem}
${codeRules}
${widths}
${typeRules(design)}
${blockRules(design)}
${stampRules(design, kindColour)}
@media (max-width:82rem){.on-page{display:none}}
@media (max-width:56rem){.search{flex:1 1 100%;margin:.2rem 0 0}.search input{width:100%}header{padding:.6rem 1.25rem}.contents.folded>:not(.unfold){display:none}.sheet{display:block}.unfold{display:block}.contents{position:static;max-height:60vh;padding:1rem 1.25rem}.page{padding:1rem 1.25rem 3rem}}
@media print{.term{border:0}.others,.contents,header,.turn,.site-foot,.on-page,.crumbs,.copy,.here{display:none}}
${ownCss(design)}`;
}
