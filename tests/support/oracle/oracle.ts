import { contentBody, type Component } from '../../../core/src/model/component.js';
import type { OutlineEntry, Publication, Recipe, VariableValues } from '../../../core/src/model/publication.js';
import type { Source } from '../../../core/src/model/source.js';
import { isIn, leavesOf, readCondition, wayDown, type Condition } from './conditions.js';
import { mend, readLine, withMarker } from './line.js';
import { copy, gap, lineKinds, missing, placedNode, textNode, type Entry, type Node } from './nodes.js';
import { Numbers, type OraclePage } from './numbers.js';

/** Where content stands. */
interface Place {
  readonly component: Component | null;
  readonly around: readonly string[];
  readonly evaluating: readonly string[];
  readonly topic: string | null;
  readonly values: readonly VariableValues[];
}

/** What a publication reads in one variant. */
export interface OracleAnswer {
  readonly title: string;
  readonly pages: readonly OraclePage[];
  /** The codes and places of problems of assembly and references, sorted. */
  readonly problems: readonly string[];
}

/**
 * What a publication reads in one variant, worked out in the plainest way from the rules of the product: one step after
 * the other, nothing remembered, nothing shared. It is slow, and shares no code with the engine.
 */
export function askOracle(source: Source, recipe: Recipe): OracleAnswer {
  return new Oracle(source, recipe).answer();
}

const goesWhenEmpty = new Set([
  'bullet_list',
  'ordered_list',
  'list_item',
  'steps',
  'step',
  'definition_list',
  'description',
  'admonition',
  'quotation',
  'example',
  'figure',
  'footnote',
]);
const headings = new Set(['title', 'caption', 'term']);

class Oracle {
  private readonly problems = new Set<string>();

  constructor(
    private readonly source: Source,
    private readonly recipe: Recipe,
  ) {}

  answer(): OracleAnswer {
    const { publication, values } = this.recipe;
    const root = [values, publication.values];
    const place: Place = { component: null, around: [], evaluating: [], topic: null, values: root };
    const title = this.line(copy(publication.title), place);
    const entries = this.entries(publication.entries, root, '', [publication.key]);
    const pages = new Numbers(this.recipe, this.source, entries, (problem) => this.problems.add(problem)).pages();
    return {
      title: readLine(withMarker(title, ['image', 'cross_reference', 'variable']), () => ''),
      pages,
      problems: [...this.problems].sort(),
    };
  }

  // Conditions: a leaf holds when one of its values is in; a value is in as its nearest mark says.

  private holds(when: unknown): boolean {
    if (typeof when !== 'string' || when === '') return true;
    const condition = readCondition(when);
    return condition !== null && this.decide(condition);
  }

  private decide(condition: Condition): boolean {
    if ('axis' in condition) {
      const axis = this.source.axes.find(({ key }) => key === condition.axis);
      return axis !== undefined && condition.values.some((value) => isIn(axis, this.recipe.profile, value));
    }
    if ('not' in condition) return !this.decide(condition.not);
    if ('all' in condition) return condition.all.every((each) => this.decide(each));
    return condition.any.some((each) => this.decide(each));
  }

  /** Whether the conditions on something hold: its own, and those of its stamp and of all that this derives from. */
  private stands({ attrs }: Pick<Node, 'attrs'>): boolean {
    if (!this.holds(attrs['when'])) return false;
    return this.standing(attrs['stamp']).every((when) => this.holds(when));
  }

  private standing(key: unknown): readonly (string | null)[] {
    const stamp = this.source.stamps.find((each) => each.key === key);
    return stamp ? [stamp.when, ...this.standing(stamp.from)] : [];
  }

  // The outline.

  private entries(
    list: readonly OutlineEntry[],
    outer: readonly VariableValues[],
    prefix: string,
    path: readonly string[],
  ): Entry[] {
    return list.flatMap((entry): Entry[] => {
      if (!this.holds(entry.when)) return [];
      const shown = entry.publication === undefined ? this.source.library.component(entry.topic ?? '') : undefined;
      const written = shown && contentBody(shown);
      if (written && !this.stands(copy(written))) return [];
      const id = prefix + entry.id;
      const values = entry.values ? [entry.values, ...outer] : outer;
      const below: Entry[] = [];
      let nested: Publication | undefined;
      if (entry.publication !== undefined) {
        nested = this.source.publications.get(entry.publication);
        if (!nested) this.problem('missing-component', null, null);
        else if (path.includes(nested.key)) this.problem('placement-cycle', null, null);
        else below.push(...this.entries(nested.entries, [...values, nested.values], `${id}.`, [...path, nested.key]));
      }
      below.push(...this.entries(entry.entries ?? [], values, prefix, path));
      const place: Place = { component: null, around: [], evaluating: [], topic: entry.topic ?? null, values };
      const own = entry.title ? [textNode(entry.title)] : null;
      let title: Node[];
      let blocks: Node[] = [];
      if (entry.topic !== undefined && entry.publication === undefined) {
        const topic = this.source.library.component(entry.topic);
        if (topic?.kind !== 'topic') {
          this.problem(topic ? 'wrong-kind' : 'missing-component', null, null);
          return below;
        }
        const inside = { ...place, component: topic, around: [topic.key] };
        const [heading, ...flow] = copy(topic.body).content;
        const written = heading ? this.line(heading, inside) : [];
        title = own ?? written;
        blocks = this.blocks(flow, inside, null);
      } else if (entry.link !== undefined && entry.publication === undefined) {
        const link = this.find(
          { type: 'external_link', attrs: { component: entry.link }, content: [], marks: [] },
          ['link'],
          place,
          null,
        );
        if (link?.kind !== 'link') return below;
        const href = this.address(link.body.href, place, null);
        title = own ?? [textNode(link.body.label || href)];
        const content: Node[] = [{ ...textNode(href), marks: [{ type: 'link', attrs: { href } }] }];
        blocks = [{ type: 'paragraph', attrs: {}, content, marks: [] }];
      } else if (own) title = own;
      else if (nested && entry.role && entry.role !== 'auto') title = this.line(copy(nested.title), place);
      else return below;
      if (blocks.length === 0 && below.length === 0) {
        this.problem('empty-topic', entry.publication === undefined ? (entry.topic ?? null) : null, null);
        if (this.recipe.leaveOutEmpty) return [];
      }
      const topic = entry.publication === undefined ? (entry.topic ?? null) : null;
      return [{ id, topic, role: entry.role ?? 'auto', title, blocks, below }];
    });
  }

  private problem(code: string, component: string | null, block: unknown): void {
    this.problems.add(`${code} ${component ?? '-'} ${typeof block === 'string' ? block : '-'}`);
  }

  private report(code: string, place: Place, block: unknown): void {
    if (place.component || place.evaluating.length === 0) this.problem(code, place.component?.key ?? null, block);
    else this.problems.add(`${code} use`);
  }

  // Blocks.

  private blocks(nodes: readonly Node[], place: Place, around: unknown): Node[] {
    return nodes.flatMap((node) => (this.stands(node) ? this.block(node, place, around) : []));
  }

  private block(node: Node, place: Place, around: unknown): Node[] {
    const at = node.attrs['id'] ?? around;
    if (lineKinds.has(node.type)) {
      const content = this.line(node, place, at);
      if (content.length === 0 && node.content.length > 0 && !headings.has(node.type)) return [];
      return [{ ...node, content }];
    }
    switch (node.type) {
      case 'choice': {
        const taken = node.content.find((branch) => this.holds(branch.attrs['when']));
        return taken ? this.blocks(taken.content, place, at) : [];
      }
      case 'copied':
        return this.blocks(node.content, place, at);
      case 'placement':
        return this.placement(node, place, at);
      case 'display_formula':
        return node.attrs['source'] === ''
          ? [{ type: 'paragraph', attrs: {}, content: [missing()], marks: [] }]
          : [node];
      case 'slot':
        return this.slot(node, place, at);
      case 'picture':
        return [this.picture(node, place, at)];
      case 'table_grid':
        return this.grid(node, place, at);
      case 'section': {
        const content = this.blocks(node.content, place, at);
        if (content.every(({ type }) => type === 'title')) {
          this.report('empty-section', place, at);
          if (this.recipe.leaveOutEmpty) return [];
        }
        return [{ ...node, content }];
      }
      default: {
        const content = this.blocks(node.content, place, at);
        const has = (...kinds: string[]): boolean => content.some(({ type }) => kinds.includes(type));
        if (node.type === 'table' && !has('table_grid')) return [];
        if (node.type === 'definition' && !(has('term') && has('description'))) return [];
        if (goesWhenEmpty.has(node.type) && content.every(({ type }) => headings.has(type))) return [];
        return [{ ...node, content }];
      }
    }
  }

  /** Cells by the squares that they cover, of which some may be covered twice; what is out is struck off square by square. */
  private grid(node: Node, place: Place, at: unknown): Node[] {
    const squares: Node[][][] = node.content.map(() => []);
    const square = (y: number, x: number): Node[] => ((squares[y] as Node[][])[x] ??= []);
    node.content.forEach((row, top) => {
      let left = 0;
      for (const cell of row.content) {
        while (square(top, left).length > 0) left += 1;
        const [wide, tall] = [Number(cell.attrs['colspan'] ?? 1), Number(cell.attrs['rowspan'] ?? 1)];
        for (let y = top; y < Math.min(top + tall, node.content.length); y += 1) {
          for (let x = left; x < left + wide; x += 1) square(y, x).push(cell);
        }
        left += wide;
      }
    });
    const columns = (node.attrs['columns'] ?? []) as { when?: string | null }[];
    const rowsIn = node.content.map((row) => this.stands(row));
    const width = Math.max(0, ...squares.map((row) => row.length));
    const columnsIn = Array.from({ length: width }, (_, x) => this.holds(columns[x]?.when));
    const begun = new Set<Node>();
    const rows = node.content.map((row, y) => {
      const cells: Node[] = [];
      for (let x = 0; x < width && rowsIn[y]; x += 1) {
        for (const cell of squares[y]?.[x] ?? []) {
          if (!columnsIn[x] || begun.has(cell)) continue;
          begun.add(cell);
          cells.push(cell);
        }
      }
      return { row, cells, y };
    });
    const kept = rows.filter(({ cells }) => cells.length > 0);
    const isHeader = ({ row }: (typeof rows)[number]): boolean => row.attrs['header'] === true;
    if (kept.length === 0 || (rows.some((each) => !isHeader(each)) && kept.every(isHeader))) return [];
    const isWhole = kept.length === rows.length && columnsIn.every((each) => each);
    const shown = new Set(kept.map(({ y }) => y));
    const content = kept.map(({ row, cells }) => ({
      ...row,
      content: cells.map((cell) => {
        const covered = squares.flatMap((line, y) =>
          shown.has(y) ? [line.filter((each, x) => each?.includes(cell) && columnsIn[x]).length] : [],
        );
        const rowspan = covered.filter((count) => count > 0).length;
        const attrs = isWhole ? cell.attrs : { ...cell.attrs, colspan: Math.max(...covered), rowspan };
        return { ...cell, attrs, content: this.blocks(cell.content, place, at) };
      }),
    }));
    return [{ ...node, content }];
  }

  private picture(node: Node, place: Place, at: unknown): Node {
    const image = this.find(node, ['image'], place, at, 'missing-image');
    if (image?.kind !== 'image') return missing();
    const version = image.body.versions.find(({ when }) => this.holds(when));
    const file = version?.file ?? image.body.file;
    return { ...node, attrs: { ...node.attrs, file: file.digest, alt: node.attrs['alt'] ?? image.body.alt } };
  }

  private find(
    node: Node,
    kinds: readonly string[],
    place: Place,
    at: unknown,
    code = 'missing-component',
  ): Component | undefined {
    const key = String(node.attrs['component'] ?? '');
    const { library } = this.source;
    const held = node.attrs['mode'] === 'held' ? Number(node.attrs['revision'] ?? 0) : 0;
    const found = held > 0 ? library.revision(key, held) : library.component(key);
    if (!found) this.report(held > 0 && library.component(key) ? 'missing-revision' : code, place, at);
    else if (!kinds.includes(found.kind)) this.report('wrong-kind', place, at);
    else return found;
    return undefined;
  }

  private placement(node: Node, place: Place, at: unknown): Node[] {
    const component = this.find(node, ['topic', 'snippet'], place, at);
    if (!component) return [{ type: 'paragraph', attrs: {}, content: [missing()], marks: [] }];
    const section = node.attrs['section'];
    const content = this.placed(
      component,
      typeof section === 'string' ? section : null,
      node.attrs['withTitle'] === true,
      place,
      at,
    );
    return content.length === 0 ? [] : [placedNode(component, String(node.attrs['id'] ?? component.key), content)];
  }

  private placed(component: Component, section: string | null, withTitle: boolean, place: Place, at: unknown): Node[] {
    if (place.around.includes(component.key)) {
      this.report('placement-cycle', place, at);
      return [];
    }
    const inside = { ...place, component, around: [...place.around, component.key] };
    const written = contentBody(component);
    if (!written) return [];
    const body = copy(written);
    if (!this.stands(body)) return [];
    if (body.type === 'phrase') {
      const content = this.line(body, inside);
      return content.length > 0 ? [{ type: 'paragraph', attrs: {}, content, marks: [] }] : [];
    }
    if (section !== null) {
      const way = wayTo(body, section);
      if (!way) {
        this.report('missing-target', inside, null);
        return [];
      }
      if (!way.every((each) => this.stands(each))) return [];
      const found = way.at(-1) as Node;
      return this.blocks(withTitle ? [found] : found.content.slice(1), inside, null);
    }
    if (body.type !== 'topic') return this.blocks(body.content, inside, null);
    if (!withTitle) return this.blocks(body.content.slice(1), inside, null);
    return this.titled(body.content, inside);
  }

  private titled(nodes: readonly Node[], place: Place): Node[] {
    const content = this.blocks(nodes, place, null);
    if (content.every(({ type }) => type === 'title')) {
      this.report('empty-section', place, null);
      if (this.recipe.leaveOutEmpty) return [];
    }
    return [{ type: 'section', attrs: { id: '@topic' }, content, marks: [] }];
  }

  private slot(node: Node, place: Place, at: unknown): Node[] {
    const tag = node.attrs['matching'];
    const topic = place.topic === null ? undefined : this.source.library.component(place.topic);
    const wanted = typeof tag === 'string' ? (topic?.labels?.tags[tag] ?? []) : null;
    const fitting = this.source.library
      .collection(String(node.attrs['collection'] ?? ''))
      .filter(({ labels }) => wanted === null || wanted.some((value) => labels?.tags[String(tag)]?.includes(value)));
    const content = fitting.flatMap((candidate) => {
      const blocks = this.placed(candidate, null, false, place, at);
      return blocks.length === 0 ? [] : [placedNode(candidate, `${String(node.attrs['id'])}-${candidate.key}`, blocks)];
    });
    if (content.length === 0) {
      this.report('missing-slot-content', place, at);
      return [];
    }
    const keys = content.map((each) => each.attrs['component']);
    const stated = keys.includes(node.attrs['stated']) ? node.attrs['stated'] : keys[0];
    return [{ type: 'slot', attrs: { id: node.attrs['id'], stated }, content, marks: [] }];
  }

  // Lines.

  private line(node: Node, place: Place, at: unknown = null): Node[] {
    const nodes = this.inline(node.content, place, at);
    const hasGap = nodes.some(({ type }) => type === 'gap');
    if (node.type === 'code_block') return nodes.filter(({ type }) => type !== 'gap');
    return hasGap ? mend(nodes) : nodes;
  }

  /** Inline content with a sign wherever something was taken out. */
  private inline(nodes: readonly Node[], place: Place, at: unknown): Node[] {
    const result: Node[] = [];
    let last: Node | null = null;
    for (const node of nodes) {
      if (!this.stands(node) || !node.marks.every((mark) => this.stands({ attrs: mark.attrs ?? {} }))) {
        result.push(gap());
        continue;
      }
      const becomes = this.inlineNode(node, place, at);
      if (this.together(last, node)) {
        this.report('alternatives-together', place, at);
        if (!/\s$/.test(last?.text ?? 'x') && !/^\s/.test(node.text ?? 'x')) result.push(textNode(' '));
      }
      last = node;
      result.push(...becomes);
    }
    return result;
  }

  /** Whether both are limited to values of one axis of which neither is, or is above, one of the other. */
  private together(a: Node | null, b: Node): boolean {
    const leaves = (node: Node): { axis: string; values: readonly string[] }[][] =>
      node.marks.flatMap((mark) => {
        const limits = mark.type === 'condition' ? [mark.attrs?.['when']] : this.standing(mark.attrs?.['stamp']);
        const conditions = limits.map((when) => (typeof when === 'string' ? readCondition(when) : null));
        const leaves = conditions.flatMap((condition) => (condition ? leavesOf(condition) : []));
        return leaves.length > 0 ? [leaves] : [];
      });
    if (!a) return false;
    return leaves(a).some((first) =>
      leaves(b).some((second) =>
        first.some((one) => {
          const other = second.find(({ axis }) => axis === one.axis);
          const axis = this.source.axes.find(({ key }) => key === one.axis);
          if (!other || !axis) return false;
          const related = (x: string, y: string): boolean =>
            wayDown(axis, x).includes(y) || wayDown(axis, y).includes(x);
          return !one.values.some((x) => other.values.some((y) => x === y || related(x, y)));
        }),
      ),
    );
  }

  private inlineNode(node: Node, place: Place, at: unknown): Node[] {
    const marks = node.marks.map((mark) =>
      mark.type === 'link' ? { ...mark, attrs: { href: this.address(String(mark.attrs?.['href']), place, at) } } : mark,
    );
    const outer = marks.filter(({ type }) => type !== 'condition');
    const marked = (nodes: Node[]): Node[] =>
      nodes.map((each) => ({
        ...each,
        marks: [...outer.filter(({ type }) => !each.marks.some((own) => own.type === type)), ...each.marks],
      }));
    const key = String(node.attrs['key'] ?? node.attrs['component'] ?? '');
    switch (node.type) {
      case 'variable':
        if (key === '@chapter-title' || key === '@page-number') return [{ ...node, marks }];
        return marked(this.variable(key, place, at));
      case 'formula':
        return node.attrs['source'] === '' ? marked([missing()]) : [{ ...node, marks }];
      case 'image': {
        return marked([this.picture({ ...node, marks: [] }, place, at)]);
      }
      case 'external_link': {
        const link = this.find(node, ['link'], place, at);
        if (link?.kind !== 'link') return marked([missing()]);
        const href = this.address(link.body.href, place, at);
        return marked([{ ...textNode(link.body.label || href), marks: [{ type: 'link', attrs: { href } }] }]);
      }
      case 'inline_placement': {
        const snippet = this.find(node, ['snippet'], place, at);
        const body = snippet && contentBody(snippet);
        if (!snippet || !body) return marked([missing()]);
        if (body.type !== 'phrase') {
          this.report('wrong-kind', place, at);
          return marked([missing()]);
        }
        if (place.around.includes(key)) {
          this.report('placement-cycle', place, at);
          return [gap()];
        }
        const inside = { ...place, component: snippet, around: [...place.around, key] };
        return this.stands(copy(body)) ? marked(this.value(copy(body), inside)) : [gap()];
      }
      default:
        return [{ ...node, marks }];
    }
  }

  /** Content that is put into a line: where something went in it, its edges may meet spaces around it. */
  private value(phrase: Node, place: Place): Node[] {
    const nodes = this.inline(phrase.content, place, null);
    const whole = nodes.length > 0 && nodes.every(({ type }) => type !== 'gap');
    return whole ? nodes : [gap(), ...nodes, gap()];
  }

  private variable(key: string, place: Place, at: unknown): Node[] {
    const { recipe } = this;
    const simple: Record<string, () => string> = {
      '@variant-title': () => recipe.variantTitle,
      '@build-date': () => recipe.buildDate,
      '@language': () => recipe.language,
      '@revision': () => (place.component ? String(place.component.revision) : ''),
    };
    if (key in simple) return [textNode((simple[key] as () => string)())];
    const use = (code: string): Node[] => {
      this.report(code, place, at);
      return [missing()];
    };
    if (place.evaluating.includes(key)) return use('variable-cycle');
    const inside: Place = { ...place, component: null, around: [], evaluating: [...place.evaluating, key] };
    const before = new Set(this.problems);
    const found = ((): Node[] | null => {
      if (key === '@publication-title') return this.value(copy(recipe.publication.title), inside);
      const own = place.values.find((record) => Object.hasOwn(record, key))?.[key];
      if (own) return this.value(copy(own), inside);
      const component = this.source.library.component(key);
      if (component?.kind !== 'variable') return null;
      const rule = component.body.rules.find(
        ({ when, language }) =>
          this.holds(when) &&
          (language === null ||
            recipe.language.toLowerCase() === language.toLowerCase() ||
            recipe.language.toLowerCase().startsWith(`${language.toLowerCase()}-`)),
      );
      const value = rule?.value ?? component.body.default;
      return value ? this.value(copy(value), { ...inside, component }) : null;
    })();
    if (!found) return use('missing-variable');
    // What went wrong in a value of nobody's is told where it is used.
    for (const problem of [...this.problems]) {
      if (before.has(problem) || !problem.endsWith(' use')) continue;
      this.problems.delete(problem);
      this.report(problem.split(' ')[0] as string, place, at);
    }
    return found;
  }

  private address(template: string, place: Place, at: unknown): string {
    return template.replace(/\{\+([^{}]+)\}/g, (_, key: string) => {
      const value =
        key.startsWith('@') && (key === '@chapter-title' || key === '@page-number')
          ? []
          : this.variable(key, place, at);
      const text = value
        .map((each) => each.text ?? '')
        .join('')
        .trim();
      return encodeURI(text)
        .replace(/%25([0-9A-F]{2})/gi, '%$1')
        .replace(/%5B/g, '[')
        .replace(/%5D/g, ']');
    });
  }
}
function wayTo(node: Node, section: string): Node[] | null {
  if (node.type === 'section' && node.attrs['id'] === section) return [node];
  for (const child of node.content) {
    const way = wayTo(child, section);
    if (way) return [node, ...way];
  }
  return null;
}
