import { contentBody } from '../../../core/src/model/component.js';
import type { ContentNode } from '../../../core/src/model/node.js';
import type { Recipe } from '../../../core/src/model/publication.js';
import type { Source } from '../../../core/src/model/source.js';
import { plain, plainLeaf, readLine, withMarker } from './line.js';
import { copy, lineKinds, type Entry, type Node } from './nodes.js';

/** A page as it reads: its heading, then a line for each thing on it. */
export interface OraclePage {
  readonly id: string;
  readonly lines: readonly string[];
}

interface Target {
  readonly key: string;
  readonly path: readonly string[];
  readonly name: string;
}

interface Counters {
  prefix: string;
  figure: number;
  table: number;
  example: number;
}

/** Numbers what is in, finds what references lead to, and writes the pages down. */
export class Numbers {
  private readonly targets: Target[] = [];
  private readonly numbers = new Map<string, string>();
  private readonly top = { front: 0, part: 0, chapter: 0, appendix: 0 };
  private readonly through: Counters = { prefix: '', figure: 0, table: 0, example: 0 };

  constructor(
    private readonly recipe: Recipe,
    private readonly source: Source,
    private readonly entries: readonly Entry[],
    private readonly problem: (text: string) => void,
  ) {}

  pages(): OraclePage[] {
    const flat: { entry: Entry; heading: string; chapter: string }[] = [];
    const visit = (
      list: readonly Entry[],
      parent: { kind: string; number: string; depth: number; sections: { count: number } } | null,
      chapter: { counters: Counters; title: string } | null,
    ): void => {
      for (const entry of list) {
        const kind =
          entry.role !== 'auto'
            ? entry.role
            : parent === null || parent.kind === 'part' || parent.kind === 'book'
              ? 'chapter'
              : 'section';
        const { numerals, sectionDepth } = this.recipe.design;
        let number = '';
        if (kind === 'book') {
          Object.assign(this.top, { front: 0, part: 0, chapter: 0, appendix: 0 });
          Object.assign(this.through, { figure: 0, table: 0, example: 0 });
        } else if (kind === 'section') {
          if (
            parent &&
            parent.number !== '' &&
            parent.kind !== 'part' &&
            numerals.section !== 'none' &&
            parent.depth < sectionDepth
          )
            number = `${parent.number}.${(parent.sections.count += 1)}`;
        } else if (kind !== 'back') {
          this.top[kind as 'part'] += 1;
          number = this.numeral(this.top[kind as 'part'], numerals[kind as 'part']);
        }
        const counters: Counters =
          kind !== 'section' && number !== '' ? { prefix: number, figure: 0, table: 0, example: 0 } : this.through;
        const title = readLine(number === '' ? withMarker(entry.title) : entry.title, plainLeaf);
        const own = kind === 'section' && chapter ? chapter : { counters, title: plain(entry.title) };
        const heading = `${number}|${plain(entry.title)}`;
        flat.push({
          entry,
          heading: `${entry.id} ${kind === 'book' || kind === 'back' ? 'front' : kind} ${number} ${title}`,
          chapter: own.title,
        });
        if (entry.topic !== null) this.targets.push({ key: `${entry.topic}#`, path: [entry.id], name: heading });
        const sections = { count: 0 };
        const level = {
          number: kind === 'part' ? '' : number,
          depth: kind === 'section' ? (parent?.depth ?? 0) + 1 : 0,
          sections,
        };
        this.number(entry.blocks, {
          component: entry.topic ?? '',
          path: [entry.id],
          level,
          counters: own.counters,
          step: '',
          aside: false,
          heading,
        });
        visit(
          entry.below,
          { kind, number, depth: level.depth, sections },
          kind === 'part' || kind === 'book' ? null : own,
        );
      }
    };
    visit(this.entries, null, null);
    return flat.map(({ entry, heading, chapter }) => {
      const lines: string[] = [];
      const at = { component: entry.topic ?? '', path: [entry.id], chapter };
      // References in the title are told like all others.
      this.read(entry.title, at, null);
      this.write(entry.blocks, at, lines, 0, null);
      return { id: entry.id, lines: [heading, ...lines] };
    });
  }

  private numeral(value: number, numeral: string): string {
    if (numeral === 'none') return '';
    if (numeral === 'decimal') return String(value);
    if (numeral === 'upper-alpha') return String.fromCharCode(64 + value);
    return ['', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII'][value] ?? '?';
  }

  private number(
    nodes: readonly Node[],
    at: {
      component: string;
      path: readonly string[];
      level: { number: string; depth: number; sections: { count: number } };
      counters: Counters;
      step: string;
      aside: boolean;
      heading: string;
    },
  ): void {
    const { numerals, sectionDepth } = this.recipe.design;
    for (const node of nodes) {
      const id = String(node.attrs['id'] ?? '');
      const name = [...at.path, id].join('/');
      const target = (text: string): void => {
        if (id !== '' && node.type !== 'slot')
          this.targets.push({ key: `${at.component}#${id === '@topic' ? '' : id}`, path: at.path, name: text });
      };
      const caption = node.content.find(({ type }) => type === 'caption' || type === 'title');
      switch (node.type) {
        case 'placed': {
          const path = [...at.path, String(node.attrs['placement'])];
          const component = String(node.attrs['component']);
          this.number(node.content, { ...at, component, path });
          break;
        }
        case 'slot':
          for (const each of node.content)
            this.number([each], { ...at, aside: at.aside || each.attrs['component'] !== node.attrs['stated'] });
          break;
        case 'section': {
          let number = '';
          const counts = node.attrs['numbered'] !== false && !at.aside;
          if (counts && at.level.number !== '' && numerals.section !== 'none' && at.level.depth < sectionDepth)
            number = `${at.level.number}.${(at.level.sections.count += 1)}`;
          this.numbers.set(name, number);
          const title = plain(caption?.content ?? []);
          const own = number === '' && (caption?.content.length ?? 0) === 0 ? at.heading : `${number}|${title}`;
          target(own);
          const level = { number, depth: at.level.depth + 1, sections: { count: 0 } };
          this.number(node.content, { ...at, level, heading: own });
          break;
        }
        case 'figure':
        case 'table':
        case 'example': {
          let number = '';
          const set = numerals[node.type] === 'through' ? this.through : at.counters;
          if (caption && !at.aside && numerals[node.type] !== 'none') {
            set[node.type] += 1;
            number = set.prefix === '' ? String(set[node.type]) : `${set.prefix}.${set[node.type]}`;
          }
          this.numbers.set(name, number);
          target(
            number === '' && (caption?.content.length ?? 0) === 0
              ? at.heading
              : `${number}|${plain(caption?.content ?? [])}`,
          );
          this.number(node.content, at);
          break;
        }
        case 'steps':
          target(at.heading);
          node.content.forEach((step, index) => {
            const number = at.step === '' ? String(index + 1) : `${at.step}.${index + 1}`;
            this.numbers.set([...at.path, String(step.attrs['id'] ?? '')].join('/'), number);
            this.targets.push({
              key: `${at.component}#${String(step.attrs['id'])}`,
              path: at.path,
              name: `${number}|`,
            });
            this.number(step.content, { ...at, step: number });
          });
          break;
        case 'footnote':
          target(at.heading);
          this.number(node.content, { ...at, aside: true });
          break;
        default:
          target(at.heading);
          this.number(node.content, at);
      }
      // Whatever carries a label comes before what only begins somewhere.
      if (node.type === 'placed') {
        const path = [...at.path, String(node.attrs['placement'])];
        this.plainTargets.push(
          { key: `${String(node.attrs['component'])}#`, path, name: at.heading },
          { key: `${at.component}#${String(node.attrs['placement'])}`, path: at.path, name: at.heading },
        );
      }
    }
  }

  private readonly plainTargets: Target[] = [];

  private write(
    nodes: readonly Node[],
    at: { component: string; path: readonly string[]; chapter: string },
    lines: string[],
    depth: number,
    block: unknown,
  ): void {
    for (const node of nodes) {
      const own = node.attrs['id'] ?? block;
      const number = this.numbers.get([...at.path, String(node.attrs['id'] ?? '')].join('/'));
      const indent = ' '.repeat(depth);
      if (node.type === 'placed') {
        const inner = {
          ...at,
          component: String(node.attrs['component']),
          path: [...at.path, String(node.attrs['placement'])],
        };
        this.write(node.content, inner, lines, depth, null);
      } else if (lineKinds.has(node.type)) lines.push(`${indent}${node.type}: ${this.read(node.content, at, own)}`);
      else if (node.type === 'picture')
        lines.push(`${indent}picture ${String(node.attrs['file'])} ${String(node.attrs['alt'])}`);
      else if (node.type === 'missing') lines.push(`${indent}⟦missing⟧`);
      else {
        const spans = spansOf(node);
        lines.push(`${indent}${node.type}${number === undefined ? '' : ` ${number}`}${spans}`);
        this.write(node.content, at, lines, depth + 1, own);
      }
    }
  }

  private read(
    nodes: readonly Node[],
    at: { component: string; path: readonly string[]; chapter: string },
    block: unknown,
  ): string {
    return readLine(nodes, (node) => {
      if (node.type !== 'cross_reference') {
        return node.type === 'variable' && node.attrs['key'] === '@chapter-title' ? at.chapter : plainLeaf(node);
      }
      const component = String(node.attrs['component'] ?? at.component);
      const id = node.attrs['target'] ?? null;
      const found = this.nearest(`${component}#${String(id ?? '')}`, at.path);
      if (found) return `⟦→ ${found}⟧`;
      const body = ((): ContentNode | undefined => {
        const target = this.source.library.component(component);
        return target && contentBody(target);
      })();
      const exists = body !== undefined && (id === null || hasId(copy(body), String(id)));
      this.problem(
        `${exists ? 'left-out-reference' : 'missing-target'} ${at.component} ${typeof block === 'string' ? block : '-'}`,
      );
      return '⟦missing⟧';
    });
  }

  private nearest(key: string, from: readonly string[]): string | null {
    for (const targets of [this.targets, this.plainTargets]) {
      let best: Target | null = null;
      let closest = -1;
      for (const target of targets.filter((each) => each.key === key)) {
        let shared = 0;
        while (shared < from.length && from[shared] === target.path[shared]) shared += 1;
        if (shared > closest) [best, closest] = [target, shared];
      }
      if (best) return best.name;
    }
    return null;
  }
}

function hasId(node: Node, id: string): boolean {
  return node.attrs['id'] === id || node.content.some((child) => hasId(child, id));
}

function spansOf({ type, attrs }: Node): string {
  return type === 'table_cell' || type === 'table_header'
    ? ` ${Number(attrs['colspan'] ?? 1)}x${Number(attrs['rowspan'] ?? 1)}`
    : '';
}
