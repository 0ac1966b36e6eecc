import { alg, Graph } from '@dagrejs/graphlib';
import fc from 'fast-check';
import { ReferenceGraph, type Edge } from './reference-graph.js';

describe('The graph of references', () => {
  it('finds the same users, at the same distance, as a graph library', () => {
    const key = fc.integer({ min: 0, max: 14 }).map((at) => `c${at}`);
    fc.assert(
      fc.property(fc.array(fc.record({ user: key, used: key }), { maxLength: 40 }), key, (edges, asked) => {
        const graph = new Graph({ directed: true });
        graph.setNode(asked);
        for (const { user, used } of edges) graph.setEdge(used, user);
        const expected = Object.entries(alg.dijkstra(graph, asked))
          .filter(([each, { distance }]) => each !== asked && Number.isFinite(distance))
          .map(([each, { distance }]) => `${each} ${distance}`);
        const found = new ReferenceGraph(edges).usersOf(asked);
        expect(found.map(({ key: each, depth }) => `${each} ${depth}`).sort()).toEqual(expected.sort());
        expect(found.map(({ depth }) => depth)).toEqual(found.map(({ depth }) => depth).sort((a, b) => a - b));
        const direct = (user: string, used: string): boolean =>
          edges.some((edge: Edge) => edge.user === user && edge.used === used);
        for (const each of found) expect(direct(each.key, each.through)).toBeTrue();
      }),
    );
  });

  it('knows nothing of what nobody names', () => {
    expect(new ReferenceGraph([{ user: 'a', used: 'b' }]).usersOf('z')).toEqual([]);
    expect(new ReferenceGraph([]).usersOf('a')).toEqual([]);
  });
});
