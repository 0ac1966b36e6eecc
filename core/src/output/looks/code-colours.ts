import hljs from 'highlight.js/lib/core';
import bash from 'highlight.js/lib/languages/bash';
import c from 'highlight.js/lib/languages/c';
import cpp from 'highlight.js/lib/languages/cpp';
import csharp from 'highlight.js/lib/languages/csharp';
import css from 'highlight.js/lib/languages/css';
import diff from 'highlight.js/lib/languages/diff';
import go from 'highlight.js/lib/languages/go';
import ini from 'highlight.js/lib/languages/ini';
import java from 'highlight.js/lib/languages/java';
import javascript from 'highlight.js/lib/languages/javascript';
import json from 'highlight.js/lib/languages/json';
import python from 'highlight.js/lib/languages/python';
import rust from 'highlight.js/lib/languages/rust';
import sql from 'highlight.js/lib/languages/sql';
import typescript from 'highlight.js/lib/languages/typescript';
import xml from 'highlight.js/lib/languages/xml';
import yaml from 'highlight.js/lib/languages/yaml';

const languages = {
  bash,
  c,
  cpp,
  csharp,
  css,
  diff,
  go,
  ini,
  java,
  javascript,
  json,
  python,
  rust,
  sql,
  typescript,
  xml,
  yaml,
};
for (const [name, language] of Object.entries(languages)) hljs.registerLanguage(name, language);

/** Longer listings stay as they are. */
const mostColoured = 50_000;

/** A listing as HTML with the parts of its language told apart; null for a language that is not known. */
export function colouredCode(text: string, language: string): string | null {
  const name = language.trim().toLowerCase();
  if (text.length > mostColoured || !hljs.getLanguage(name)) return null;
  return hljs.highlight(text, { language: name, ignoreIllegals: true }).value;
}

/** How those parts look: words of the language, texts, numbers and remarks. */
export const codeRules = `.hljs-keyword,.hljs-built_in,.hljs-type,.hljs-tag,.hljs-name,.hljs-section,.hljs-selector-tag,.hljs-literal{color:var(--code-word);font-weight:600}
.hljs-string,.hljs-regexp,.hljs-addition,.hljs-attr,.hljs-attribute,.hljs-symbol{color:var(--code-text)}
.hljs-number,.hljs-variable,.hljs-template-variable,.hljs-meta,.hljs-deletion{color:var(--code-number)}
.hljs-comment,.hljs-quote,.hljs-doctag{color:var(--soft);font-style:italic}`;
