import { HttpProblem } from './problem.js';

/** How deep what comes in may nest; no content comes near. */
const mostDeep = 1_000;

/**
 * Looks at all text of something that came in: NUL cannot be stored, and half of a surrogate pair is no text (Unicode 15.0,
 * section 3.9, D76). Goes through it without recursion, as what comes in may nest as deep as its sender wants.
 * @throws HttpProblem 422 with the place
 */
export function refuseBadText(value: unknown): void {
  const open: { readonly value: unknown; readonly place: Place | null; readonly depth: number }[] = [
    { value, place: null, depth: 0 },
  ];
  for (let next = open.pop(); next; next = open.pop()) {
    const { value: each, place, depth } = next;
    if (typeof each === 'string') refuse(each, place);
    else if (typeof each === 'object' && each !== null) {
      if (depth > mostDeep) throw new HttpProblem(422, 'What was sent nests too deep.');
      for (const [name, below] of Object.entries(each)) {
        const at = { name, above: place };
        refuse(name, at);
        open.push({ value: below, place: at, depth: depth + 1 });
      }
    }
  }
}

interface Place {
  readonly name: string;
  readonly above: Place | null;
}

function refuse(text: string, place: Place | null): void {
  const fault = text.includes('\0')
    ? 'holds the sign U+0000, which cannot be stored'
    : text.isWellFormed()
      ? null
      : 'holds half of a sign (a lone surrogate)';
  if (fault === null) return;
  const names: string[] = [];
  for (let at = place; at; at = at.above) names.unshift(at.name);
  throw new HttpProblem(422, `${names.join('.').replaceAll('\0', '').slice(0, 200) || 'The text'} ${fault}.`);
}
