import type { Design } from '../../number/design.js';

/** The style sheet of a book. Reading devices choose sizes, margins and colours of paper themselves. */
export function bookStyle(design: Design): string {
  const widths = Array.from({ length: 100 }, (_, index) => `col.w${index + 1}{width:${index + 1}%}`).join('');
  return `@font-face{font-family:"Book Serif";src:url(fonts/serif.woff2);font-weight:200 900}
@font-face{font-family:"Book Serif";src:url(fonts/serif-italic.woff2);font-weight:200 900;font-style:italic}
@font-face{font-family:"Book Sans";src:url(fonts/sans.woff2);font-weight:200 900}
@font-face{font-family:"Book Mono";src:url(fonts/mono.woff2);font-weight:100 800}
body{font-family:"Book Serif",serif;line-height:1.5}
h1,h2,h3,h4,h5,h6,.heading{line-height:1.2;font-weight:600;margin:1.6em 0 .5em;break-after:avoid;hyphens:none}
h1{font-size:1.7em;margin-top:.5em}h2{font-size:1.35em}h3{font-size:1.15em}h4,h5,h6,.heading{font-size:1em}
.cover-title{font-size:2.2em;margin-top:30%}
.variant{font-family:"Book Sans",sans-serif}
.number{color:${design.accent}}
a{color:${design.accent}}
code,kbd,pre{font-family:"Book Mono",monospace;font-size:.88em}
code.replaceable{font-style:italic}
pre{border-left:3px solid #999;padding:.5em .8em;white-space:pre-wrap;overflow-wrap:anywhere}
kbd{border:1px solid;border-radius:.2em;padding:0 .3em}
.label{font-family:"Book Sans",sans-serif;font-weight:600}
.admonition{border-left:.3em solid ${design.accent};padding:.1em 1em;margin:1.2em 0;break-inside:avoid}
.admonition .signal{font:700 .85em/1.3 "Book Sans",sans-serif;margin:.6em 0 .2em}
.admonition .title{font-weight:600;margin:.2em 0}
.notice{border-color:#2457a0}.caution{border-color:#b08900}.warning{border-color:#c65b00}.danger{border-color:#b3261e}
.table{overflow:auto;margin:1.2em 0}
table{border-collapse:collapse}
th,td{border-bottom:1px solid #999;padding:.35em .6em;text-align:left;vertical-align:top}
thead th{border-bottom:2px solid;font-family:"Book Sans",sans-serif}
.center{text-align:center}.right{text-align:right}
caption,figcaption{text-align:left;font-size:.92em;margin:.4em 0}
figure{margin:1.2em 0;break-inside:avoid}img{max-width:100%;height:auto}
.example>.title{font-weight:600}
dt{font-weight:600;margin-top:.8em}dd{margin:.2em 0 .2em 1.4em}
ol.lower-alpha{list-style:lower-alpha}ol.upper-alpha{list-style:upper-alpha}ol.lower-roman{list-style:lower-roman}ol.upper-roman{list-style:upper-roman}
.footnotes{border-top:1px solid #999;margin-top:2.5em;font-size:.92em}
.footnote p:first-of-type{display:inline}
.missing{font-family:"Book Sans",sans-serif;font-style:italic}
.generated ul{list-style:none;padding-left:0}.generated ul ul{padding-left:1.2em}
nav ol{list-style:none;padding-left:0}nav ol ol{padding-left:1.2em}
${widths}
`;
}
