import type { Condition } from './condition-syntax.js';

/**
 * Conditions as reduced ordered decision diagrams (R. E. Bryant, “Graph-Based Algorithms for Boolean
 * Function Manipulation”, 1986): two conditions mean the same exactly when they are the same node. Each
 * value of each axis is a variable of its own: a profile may let any combination of values through.
 */
export interface DiagramNode {
  readonly id: number;
  /** The value that the node asks for; null for the two ends. */
  readonly atom: string | null;
  /** Where it goes on when the value is out, and when it is in. The ends lead to themselves. */
  readonly out: DiagramNode;
  readonly in: DiagramNode;
}

/** A question about conditions would take more work than it may: some have no small diagram in any order of their values. */
export class TooLargeToTell extends Error {}

/** How many steps one question may take: a few hundredths of a second. No condition that a person wrote comes near. */
const mostSteps = 50_000;

/** Makes diagrams. Nodes of different makers must not be mixed. */
export class Diagrams {
  readonly never: DiagramNode = end(0);
  readonly always: DiagramNode = end(1);
  private readonly nodes = new Map<string, DiagramNode>();
  private readonly order = new Map<string, number>();
  private readonly combined = new Map<string, DiagramNode>();
  private steps = 0;
  private isBounded = false;

  /**
   * What a question about conditions answers, or something else where it would take too much work.
   * @param answer the question; every call of this maker inside counts
   * @param tooLarge what is answered instead
   */
  within<T>(answer: () => T, tooLarge: () => T): T {
    if (this.isBounded) return answer();
    this.isBounded = true;
    this.steps = 0;
    try {
      return answer();
    } catch (error) {
      if (error instanceof TooLargeToTell) return tooLarge();
      throw error;
    } finally {
      this.isBounded = false;
    }
  }

  /** The diagram of a condition. */
  of(condition: Condition): DiagramNode {
    if ('axis' in condition) {
      return condition.values
        .map((value) => this.atom(condition.axis, value))
        .reduce((a, b) => this.or(a, b), this.never);
    }
    if ('not' in condition) return this.not(this.of(condition.not));
    if ('all' in condition) return condition.all.reduce((sum, each) => this.and(sum, this.of(each)), this.always);
    return condition.any.reduce((sum, each) => this.or(sum, this.of(each)), this.never);
  }

  /** The diagram that holds exactly where one value is in. */
  atom(axis: string, value: string): DiagramNode {
    const atom = atomName(axis, value);
    if (!this.order.has(atom)) this.order.set(atom, this.order.size);
    return this.node(atom, this.never, this.always);
  }

  and(a: DiagramNode, b: DiagramNode): DiagramNode {
    return this.choose(a, b, this.never);
  }

  or(a: DiagramNode, b: DiagramNode): DiagramNode {
    return this.choose(a, this.always, b);
  }

  not(a: DiagramNode): DiagramNode {
    return this.choose(a, this.never, this.always);
  }

  /** Whether b holds wherever a does. */
  implies(a: DiagramNode, b: DiagramNode): boolean {
    return this.and(a, this.not(b)) === this.never;
  }

  /** The diagram with some values decided: true for in, false for out, undefined for those left open. */
  decide(a: DiagramNode, state: (axis: string, value: string) => boolean | undefined): DiagramNode {
    const done = new Map<DiagramNode, DiagramNode>();
    const walk = (node: DiagramNode): DiagramNode => {
      if (node.atom === null) return node;
      const known = done.get(node);
      if (known) return known;
      const [axis = '', value = ''] = node.atom.split('\0');
      const decided = state(axis, value);
      const result =
        decided === undefined
          ? this.choose(this.atom(axis, value), walk(node.in), walk(node.out))
          : walk(decided ? node.in : node.out);
      done.set(node, result);
      return result;
    };
    return walk(a);
  }

  /** “If a then b else c”, by which all other operations are made. */
  private choose(a: DiagramNode, b: DiagramNode, c: DiagramNode): DiagramNode {
    if (a === this.always || b === c) return b;
    if (a === this.never) return c;
    const key = `${a.id} ${b.id} ${c.id}`;
    const known = this.combined.get(key);
    if (known) return known;
    this.steps += 1;
    if (this.isBounded && this.steps > mostSteps) throw new TooLargeToTell('The conditions are too large to tell.');
    const { atom: top } = [a, b, c].reduce((first, each) => (this.rank(each) < this.rank(first) ? each : first));
    if (top === null) throw new Error('A diagram without an atom is always or never.');
    const below = (node: DiagramNode, side: 'in' | 'out'): DiagramNode => (node.atom === top ? node[side] : node);
    const side = (which: 'in' | 'out'): DiagramNode => this.choose(below(a, which), below(b, which), below(c, which));
    const result = this.node(top, side('out'), side('in'));
    this.combined.set(key, result);
    return result;
  }

  private rank(node: DiagramNode): number {
    return node.atom === null ? Infinity : (this.order.get(node.atom) ?? Infinity);
  }

  private node(atom: string, out: DiagramNode, inside: DiagramNode): DiagramNode {
    if (out === inside) return out;
    const key = `${atom}\0${out.id}\0${inside.id}`;
    let node = this.nodes.get(key);
    if (!node) {
      node = { id: this.nodes.size + 2, atom, out, in: inside };
      this.nodes.set(key, node);
    }
    return node;
  }
}

function end(id: number): DiagramNode {
  // What follows an end is the end itself.
  return {
    id,
    atom: null,
    get out(): DiagramNode {
      return this;
    },
    get in(): DiagramNode {
      return this;
    },
  };
}

function atomName(axis: string, value: string): string {
  return `${axis}\0${value}`;
}
