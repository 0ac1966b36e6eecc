/** All nodes of some trees, parents first. */
export function flattenTree<Node>(roots: readonly Node[], below: (node: Node) => readonly Node[]): readonly Node[] {
  const found: Node[] = [];
  const visit = (nodes: readonly Node[]): void => {
    for (const node of nodes) {
      found.push(node);
      visit(below(node));
    }
  };
  visit(roots);
  return found;
}
