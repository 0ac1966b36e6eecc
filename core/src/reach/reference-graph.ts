/** One reference between two components, by their keys. */
export interface Edge {
  readonly user: string;
  readonly used: string;
}

/**
 * Who refers to whom in a library, ready to be asked again and again: for every component its users, in
 * one array. Building it takes time in the number of references, a question time in what it finds.
 */
export class ReferenceGraph {
  private readonly positions = new Map<string, number>();
  private readonly keys: string[] = [];
  /** The users of component `n` stand in `users` from `starts[n]` up to `starts[n + 1]`. */
  private readonly starts: Uint32Array;
  private readonly users: Uint32Array;

  constructor(edges: readonly Edge[]) {
    const from = new Uint32Array(edges.length);
    const to = new Uint32Array(edges.length);
    edges.forEach(({ user, used }, at) => {
      from[at] = this.position(user);
      to[at] = this.position(used);
    });
    this.starts = new Uint32Array(this.keys.length + 1);
    for (const used of to) this.starts[used + 1] = (this.starts[used + 1] ?? 0) + 1;
    for (let at = 0; at < this.keys.length; at += 1)
      this.starts[at + 1] = (this.starts[at + 1] ?? 0) + (this.starts[at] ?? 0);
    const next = this.starts.slice();
    this.users = new Uint32Array(edges.length);
    to.forEach((used, at) => {
      const place = next[used] ?? 0;
      this.users[place] = from[at] ?? 0;
      next[used] = place + 1;
    });
  }

  /**
   * Everything that uses a component, directly or through others, the nearest first.
   * @returns each user once, with the component on the shortest way through which it uses the asked one
   */
  usersOf(key: string): readonly { readonly key: string; readonly through: string; readonly depth: number }[] {
    const start = this.positions.get(key);
    if (start === undefined) return [];
    const seen = new Uint8Array(this.keys.length);
    seen[start] = 1;
    const found: { key: string; through: string; depth: number }[] = [];
    let level = [start];
    for (let depth = 1; level.length > 0; depth += 1) {
      const above: number[] = [];
      for (const used of level) {
        for (let at = this.starts[used] ?? 0; at < (this.starts[used + 1] ?? 0); at += 1) {
          const user = this.users[at] ?? 0;
          if (seen[user]) continue;
          seen[user] = 1;
          above.push(user);
          found.push({ key: this.keys[user] ?? '', through: this.keys[used] ?? '', depth });
        }
      }
      level = above;
    }
    return found;
  }

  private position(key: string): number {
    let position = this.positions.get(key);
    if (position === undefined) {
      position = this.keys.push(key) - 1;
      this.positions.set(key, position);
    }
    return position;
  }
}
