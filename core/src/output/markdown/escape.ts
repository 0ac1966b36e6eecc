const special = /[\\`*_{}[\]<>#+!|~&$^="']/g;

/**
 * Text as CommonMark text: every sign that could be markup is escaped (CommonMark 0.31.2, 2.4), and what would begin a
 * block at the start of a line is, too.
 */
export function escapeMarkdown(text: string): string {
  return text.replace(/\s+/g, ' ').replace(special, (sign) => `\\${sign}`);
}

/** Escapes what would make a block of a line that begins with it: lists, headings, rules. */
export function escapeLineStart(line: string): string {
  return line.replace(/^(\s*)([-+=~:])/, '$1\\$2').replace(/^(\s*\d{1,9})([.)])/, '$1\\$2');
}

/** An address as a link destination (CommonMark 0.31.2, 6.3). */
export function destination(address: string): string {
  return `<${address.replace(/[<>\\]/g, (sign) => encodeURIComponent(sign)).replace(/\n/g, '')}>`;
}

/** Text as inline code: in more backticks than it holds in a row (CommonMark 0.31.2, 6.1). */
export function inlineCode(text: string): string {
  const plain = text.replace(/\s+/g, ' ');
  if (plain.trim() === '') return escapeMarkdown(plain);
  const longest = Math.max(0, ...(plain.match(/`+/g) ?? []).map((run) => run.length));
  const fence = '`'.repeat(longest + 1);
  const pad = plain.startsWith('`') || plain.endsWith('`') || (plain.startsWith(' ') && plain.endsWith(' ')) ? ' ' : '';
  return `${fence}${pad}${plain}${pad}${fence}`;
}

/**
 * A formula in a line, as Markdown with mathematics has it (GitHub Flavored Markdown, “Writing mathematical expressions”, the
 * form that keeps signs of Markdown apart): other readers show its source as code.
 */
export function inlineFormula(source: string): string {
  return source.trim() === '' ? '' : `$${inlineCode(source)}$`;
}

/** Text as a fenced code block (CommonMark 0.31.2, 4.5). */
export function codeFence(text: string, language: string): string {
  const longest = Math.max(2, ...(text.match(/`+/g) ?? []).map((run) => run.length));
  const fence = '`'.repeat(longest + 1);
  return `${fence}${language.replace(/[`\s]/g, '')}\n${text}${text.endsWith('\n') ? '' : '\n'}${fence}`;
}
