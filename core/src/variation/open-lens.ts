import { Diagrams, type DiagramNode } from './decision-diagram.js';
import { valueStates, type AxisChoice } from '../model/profile.js';
import type { Stamp, Vocabulary } from '../model/stamp.js';
import { readCondition } from './stamps.js';

/** A lens that is chosen on some axes only; those it does not name are open. */
export interface PartialLens {
  readonly axes: Readonly<Record<string, AxisChoice>>;
}

/** What a partly chosen lens says of content: surely in, surely out, or still open. */
export type OpenState = 'in' | 'out' | 'open';

/** Decides conditions under a partly chosen lens, exactly: `open` only where the axes left open decide. */
export class OpenSelector {
  private readonly diagrams = new Diagrams();
  private readonly states: ReadonlyMap<string, ReadonlyMap<string, boolean>>;
  private readonly decided = new Map<string, OpenState>();
  private readonly known: ReadonlySet<string>;

  private readonly stamps: readonly Stamp[];

  constructor({ axes, stamps }: Vocabulary, lens: PartialLens) {
    this.stamps = stamps;
    this.known = new Set(axes.map((axis) => axis.key));
    this.states = new Map(
      axes.flatMap((axis) => {
        const choice = lens.axes[axis.key];
        return choice ? [[axis.key, valueStates(axis, choice)] as const] : [];
      }),
    );
  }

  /** The state of a condition; null (always) is in. What cannot be read does not hold. */
  state(when: string | null): OpenState {
    if (!when) return 'in';
    let result = this.decided.get(when);
    if (result === undefined) {
      const condition = readCondition(when, this.stamps);
      // Where it would take too much work to decide, it stays open.
      result = condition
        ? this.diagrams.within<OpenState>(
            () => this.stateOf(this.diagrams.of(condition)),
            () => 'open',
          )
        : 'out';
      this.decided.set(when, result);
    }
    return result;
  }

  private stateOf(diagram: DiagramNode): OpenState {
    const rest = this.diagrams.decide(diagram, (axis, value) => {
      // Values of undefined axes are never in.
      if (!this.known.has(axis)) return false;
      const states = this.states.get(axis);
      return states ? (states.get(value) ?? false) : undefined;
    });
    if (rest === this.diagrams.always) return 'in';
    return rest === this.diagrams.never ? 'out' : 'open';
  }
}
