import { parse, walk } from 'css-tree';

/**
 * What speaks against a style sheet that a team writes for its deliverables, as a sentence; null: nothing. It must be whole, and
 * may load nothing: not by `url()` and its like, not by `@import`, and no fonts of its own.
 */
export function faultOfCss(css: string): string | null {
  let fault: string | null = null;
  const found = (what: string, line: number | undefined): void => {
    fault ??= `Own style sheet${line === undefined ? '' : `, line ${line}`}: ${what}`;
  };
  const tree = parse(css, {
    positions: true,
    // What is kept as text would hide what it loads.
    parseCustomProperty: true,
    onParseError: (error) => found(`${error.message}.`, error.line),
  });
  walk(tree, (node) => {
    const line = node.loc?.start.line;
    if (node.type === 'Url') found('it loads something; a style sheet of a design must not.', line);
    if (node.type === 'Function' && loading.has(node.name.toLowerCase()))
      found(`“${node.name}()” loads something; a style sheet of a design must not.`, line);
    if (node.type === 'Atrule' && refusedRules.has(node.name.toLowerCase()))
      found(`“@${node.name}” is not for style sheets of designs.`, line);
    // What could not be taken apart cannot be looked at.
    if (node.type === 'Raw') found('this cannot be read.', line);
  });
  return fault;
}

const loading: ReadonlySet<string> = new Set([
  'url',
  'src',
  'image',
  'image-set',
  '-webkit-image-set',
  'cross-fade',
  '-webkit-cross-fade',
  'element',
  'paint',
]);
const refusedRules: ReadonlySet<string> = new Set(['import', 'font-face', 'namespace', 'charset', 'document']);
