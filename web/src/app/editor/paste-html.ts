import { safeAddress } from '@allomorph/core';

/** Markup from somewhere else as this application reads it, and what of it was left out. */
export interface PastedHtml {
  readonly html: string;
  /** Such as “2 pictures”. */
  readonly leftOut: readonly string[];
}

/** What stands for nothing here but is no loss either. */
const silent =
  'script, style, meta, link, title, noscript, template, colgroup, hr, [hidden], [aria-hidden="true"]:not(img)';
/** What is left out and told. */
const lost: readonly (readonly [selector: string, one: string, several: string])[] = [
  ['img, picture, svg, canvas', 'a picture', 'pictures'],
  ['video, audio', 'a recording', 'recordings'],
  ['iframe, object, embed', 'an embedded page', 'embedded pages'],
  ['form input, form select, form textarea, button, input, select, textarea', 'a form field', 'form fields'],
  ['math', 'a formula', 'formulas'],
];
/** What only groups other blocks. */
const groups: ReadonlySet<string> = new Set([
  'DIV',
  'ARTICLE',
  'SECTION',
  'MAIN',
  'HEADER',
  'FOOTER',
  'NAV',
  'ASIDE',
  'CENTER',
  'FORM',
  'FIGURE',
  'DETAILS',
  'O:P',
]);
const blocks =
  'address, article, aside, blockquote, center, dd, details, div, dl, dt, fieldset, figure, footer, form, h1, h2, h3, h4, h5, h6, header, hr, li, main, nav, ol, p, pre, section, table, ul';

/** Whether markup was copied out of this application: it is read as it is. */
function isOwn(root: ParentNode): boolean {
  return root.querySelector('[data-pm-slice]') !== null;
}

/**
 * Makes of markup that browsers, word processors and spreadsheets put on the clipboard what pages here are made of: headings
 * become sections, emphasis by style becomes marks, lists that are only drawn as such become lists; the rest is left out and told.
 */
export function readPastedHtml(markup: string, taken: ReadonlyMap<string, string> = new Map()): PastedHtml {
  const { body } = new DOMParser().parseFromString(withoutConditionals(markup), 'text/html');
  if (isOwn(body)) return { html: markup, leftOut: [] };
  body.querySelectorAll(silent).forEach((each) => each.remove());
  removeComments(body);
  const pictures = [...body.querySelectorAll('img')].filter(({ src }) => taken.has(src));
  const leftOut = leaveOut(body, new Set<Element>(pictures));
  dropForeignData(body);
  figures(pictures, taken);
  drawnLists(body);
  marksFromStyle(body);
  body.querySelectorAll('a[href]').forEach((link) => {
    if (safeAddress(link.getAttribute('href') ?? '') === null) link.replaceWith(...link.childNodes);
  });
  definitionLists(body);
  body.querySelectorAll('table').forEach((table) => readTable(table));
  body.querySelectorAll('pre').forEach((code) => readCode(code));
  sections(body);
  return { html: body.innerHTML, leftOut };
}

/** Word processors hide parts from browsers in comments of their own; those that show their content are read. */
function withoutConditionals(markup: string): string {
  return markup.replace(/<!\[(?:if|endif)[^\]]*\]>/g, '');
}

function removeComments(root: HTMLElement): void {
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_COMMENT);
  const found: Node[] = [];
  while (walker.nextNode()) found.push(walker.currentNode);
  for (const each of found) each.parentNode?.removeChild(each);
}

function leaveOut(root: HTMLElement, kept: ReadonlySet<Element>): readonly string[] {
  return lost.flatMap(([selector, one, several]) => {
    const found = [...root.querySelectorAll(selector)].filter((each) => {
      const isKept =
        kept.has(each) || (each.tagName === 'PICTURE' && [...each.children].some((child) => kept.has(child)));
      return !isKept && (each.isConnected || root.contains(each));
    });
    // A picture inside a picture is one.
    const outermost = found.filter((each) => !found.some((other) => other !== each && other.contains(each)));
    for (const each of outermost) {
      // Its words stay where it had some.
      const words = each.getAttribute('alt')?.trim() || (each.tagName === 'BUTTON' ? each.textContent.trim() : '');
      each.replaceWith(...(words === '' || words.length > 200 ? [] : [document.createTextNode(words)]));
    }
    if (outermost.length === 0) return [];
    return [outermost.length === 1 ? one : `${outermost.length} ${several}`];
  });
}

/** The pictures that stand in markup as data, each once. */
export function picturesInHtml(markup: string): readonly { readonly address: string; readonly alt: string }[] {
  const { body } = new DOMParser().parseFromString(markup, 'text/html');
  if (isOwn(body)) return [];
  const found = [...body.querySelectorAll<HTMLImageElement>('img[src^="data:image/"]')];
  return [...new Map(found.map((image) => [image.src, { address: image.src, alt: image.alt.trim() }])).values()];
}

/** Pictures of the library where pictures stood: in figures, out of the lines that they were in. */
function figures(pictures: readonly HTMLImageElement[], taken: ReadonlyMap<string, string>): void {
  const made = new Map<Element, HTMLElement>();
  for (const picture of pictures) {
    const around = picture.closest('figure') ?? picture.closest('p, h1, h2, h3, h4, h5, h6') ?? picture;
    const known = around.tagName === 'FIGURE' ? made.get(around) : undefined;
    const figure = known ?? own('figure', 'figure');
    const shown = own('div', 'picture');
    shown.dataset['component'] = JSON.stringify(taken.get(picture.src));
    figure.append(shown);
    if (!known) (made.get(around) ?? around).after(figure);
    made.set(around, figure);
    if (around !== picture) picture.remove();
  }
  for (const [around, figure] of made) {
    const words = around.tagName === 'FIGURE' ? around.querySelector('figcaption')?.textContent.trim() : '';
    if (words) {
      const caption = own('figcaption', 'caption');
      caption.textContent = words;
      figure.append(caption);
    }
    if (around.tagName === 'FIGURE' || around.tagName === 'IMG' || around.textContent.trim() === '') around.remove();
  }
}

/** A page that imitates our attributes is read like any other. */
function dropForeignData(root: HTMLElement): void {
  root.querySelectorAll<HTMLElement>('*').forEach((each) => {
    for (const name of each.getAttributeNames()) if (name.startsWith('data-')) each.removeAttribute(name);
  });
}

/** Paragraphs that a word processor draws as points of a list, by the level that their style says. */
function drawnLists(root: HTMLElement): void {
  const levelOf = (element: Element): number =>
    Number(/mso-list:[^;]*\blevel(\d)/.exec(element.getAttribute('style') ?? '')?.[1] ?? 0);
  const points = [...root.querySelectorAll('p, h1, h2, h3, h4, h5, h6')].filter((each) => levelOf(each) > 0);
  let open: { readonly level: number; readonly list: HTMLElement }[] = [];
  let last: Element | null = null;
  for (const point of points) {
    const level = levelOf(point);
    const sign = [...point.querySelectorAll('[style*="mso-list"]')].find((each) =>
      /mso-list:\s*ignore/i.test(each.getAttribute('style') ?? ''),
    );
    const mark = sign?.textContent.trim() ?? '';
    sign?.remove();
    const previous = last;
    const follows: boolean = previous !== null && point.previousElementSibling === open[0]?.list;
    if (!follows) open = [];
    open = open.filter((each) => each.level <= level);
    let list = open.at(-1)?.list;
    if (!list || (open.at(-1)?.level ?? 0) < level) {
      const made = document.createElement(/^\(?[0-9a-z]{1,4}[.)]/i.test(mark) ? 'ol' : 'ul');
      const start = /^\(?(\d+)/.exec(mark)?.[1];
      if (start !== undefined && start !== '1') made.setAttribute('start', start);
      const within = list?.lastElementChild;
      if (within) within.append(made);
      else point.before(made);
      open.push({ level, list: made });
      list = made;
    }
    const item = document.createElement('li');
    const text = document.createElement('p');
    text.append(...point.childNodes);
    item.append(text);
    list.append(item);
    point.remove();
    last = item;
  }
}

/** Emphasis that stands in styles; what is bold or leaning in name only is not. */
function marksFromStyle(root: HTMLElement): void {
  root.querySelectorAll<HTMLElement>('b, strong').forEach((each) => {
    if (/^(normal|[1-4]00)$/.test(each.style.fontWeight)) each.replaceWith(...each.childNodes);
  });
  root.querySelectorAll<HTMLElement>('i, em').forEach((each) => {
    if (each.style.fontStyle === 'normal') each.replaceWith(...each.childNodes);
  });
  root.querySelectorAll<HTMLElement>('span, font').forEach((each) => {
    // Headings are strong by themselves.
    const isHeading = each.closest('h1, h2, h3, h4, h5, h6, th') !== null;
    const { fontWeight, fontStyle, verticalAlign, fontFamily } = each.style;
    const names = [
      ...(!isHeading && /^(bold|bolder|[6-9]00)$/.test(fontWeight) ? ['strong'] : []),
      ...(fontStyle === 'italic' || fontStyle === 'oblique' ? ['em'] : []),
      ...(verticalAlign === 'super' ? ['sup'] : verticalAlign === 'sub' ? ['sub'] : []),
      ...(/\b(monospace|courier|consolas|menlo)\b/i.test(fontFamily) && !each.closest('pre, code') ? ['code'] : []),
    ];
    const inner = names.reduce<readonly Node[]>(
      (content, name) => {
        const mark = document.createElement(name);
        mark.append(...content);
        return [mark];
      },
      [...each.childNodes],
    );
    each.replaceWith(...inner);
  });
}

/** Terms and what they mean, entry by entry. */
function definitionLists(root: HTMLElement): void {
  root.querySelectorAll('dl').forEach((list) => {
    const children = [...list.children].flatMap((child) => (child.tagName === 'DIV' ? [...child.children] : [child]));
    const made = own('dl', 'definition_list');
    let entry: HTMLElement | null = null;
    for (const child of children) {
      if (child.tagName === 'DT') {
        // Several terms in a row have one description.
        if (!entry || entry.lastElementChild?.tagName === 'DD') made.append((entry = own('div', 'definition')));
        const term = own('dt', 'term');
        term.append(...child.childNodes);
        entry.append(term);
      } else if (child.tagName === 'DD') {
        if (!entry) made.append((entry = own('div', 'definition')));
        if (!entry.querySelector('dt')) entry.append(own('dt', 'term'));
        const before = [...entry.children].find(({ tagName }) => tagName === 'DD');
        const meaning = before ?? own('dd', 'description');
        meaning.append(...inBlocks(child));
        if (!before) entry.append(meaning);
      }
    }
    made.querySelectorAll('[data-node=definition]').forEach((each) => {
      if (!each.querySelector('dd')) each.append(own('dd', 'description'));
    });
    if (made.childElementCount > 0) list.replaceWith(made);
    else list.replaceWith(...list.childNodes);
  });
}

/** What an element holds, words that stand in no block of their own in paragraphs. */
function inBlocks(element: Element): readonly Node[] {
  const made: Node[] = [];
  let open: HTMLElement | null = null;
  for (const node of [...element.childNodes]) {
    if (node instanceof Element && node.matches(blocks)) {
      made.push(node);
      open = null;
    } else if (open || node.textContent?.trim()) {
      if (!open) made.push((open = document.createElement('p')));
      open.append(node);
    }
  }
  return made;
}

function readTable(table: HTMLTableElement): void {
  const grid = own('table', 'table_grid');
  for (const row of [...table.rows]) {
    if (row.cells.length === 0) continue;
    const isHead = row.closest('thead') !== null || [...row.cells].every(({ tagName }) => tagName === 'TH');
    const made = own('tr', 'table_row');
    if (isHead) made.dataset['header'] = 'true';
    for (const cell of [...row.cells]) {
      const isHeader = isHead || cell.tagName === 'TH';
      const copy = own(isHeader ? 'th' : 'td', isHeader ? 'table_header' : 'table_cell');
      for (const name of ['colspan', 'rowspan'] as const) {
        const span = Number(cell.getAttribute(name));
        if (Number.isInteger(span) && span > 1) copy.dataset[name] = String(span);
      }
      const align = cell.style.textAlign || cell.getAttribute('align') || '';
      if (align === 'center' || align === 'right') copy.dataset['align'] = JSON.stringify(align);
      copy.append(...inBlocks(cell));
      made.append(copy);
    }
    grid.append(made);
  }
  const made = own('div', 'table');
  const words = table.caption?.textContent.trim();
  if (table.caption && words) {
    const caption = own('figcaption', 'caption');
    caption.append(...table.caption.childNodes);
    made.append(caption);
  }
  if (grid.childElementCount === 0) table.remove();
  else {
    made.append(grid);
    table.replaceWith(made);
  }
}

function readCode(code: Element): void {
  const named = [code, ...code.querySelectorAll('code')].map((each) => each.className).join(' ');
  const language = /\b(?:language|lang|brush|highlight-source)[-:]([\w+#-]{1,40})/.exec(named)?.[1];
  const made = own('pre', 'code_block');
  if (language !== undefined) made.dataset['language'] = JSON.stringify(language);
  code.querySelectorAll('br').forEach((each) => each.replaceWith('\n'));
  made.textContent = code.textContent.replace(/\n$/, '');
  code.replaceWith(made);
}

/** Headings with what follows them, as far as the next one of their level. */
function sections(root: HTMLElement): void {
  if (!root.querySelector('h1, h2, h3, h4, h5, h6')) return;
  const flat = flatten(root);
  const made = document.createDocumentFragment();
  let open: { readonly level: number; readonly section: HTMLElement }[] = [];
  for (const node of flat) {
    const level = node instanceof Element ? Number(/^H([1-6])$/.exec(node.tagName)?.[1] ?? 0) : 0;
    if (level === 0 || !(node instanceof Element)) {
      (open.at(-1)?.section ?? made).appendChild(node);
      continue;
    }
    if (node.textContent.trim() === '') continue;
    open = open.filter((each) => each.level < level);
    const section = own('section', 'section');
    const title = own('h2', 'title');
    title.append(...node.childNodes);
    section.append(title);
    (open.at(-1)?.section ?? made).appendChild(section);
    open.push({ level, section });
  }
  root.replaceChildren(made);
}

/** The blocks of a page without what only groups them, where headings stand in it. */
function flatten(element: Element): readonly Node[] {
  return [...element.childNodes].flatMap((node) => {
    const holdsHeadings = node instanceof Element && node.querySelector('h1, h2, h3, h4, h5, h6') !== null;
    // Only what groups; the cells of a table keep what they hold.
    const isGroup =
      node instanceof Element && (groups.has(node.tagName) || node.tagName === 'B' || node.tagName === 'SPAN');
    return holdsHeadings && isGroup ? flatten(node) : [node];
  });
}

function own(tag: string, kind: string): HTMLElement {
  const element = document.createElement(tag);
  element.dataset['node'] = kind;
  return element;
}
