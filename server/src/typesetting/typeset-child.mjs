// The process in which documents are typeset. It stays, as the typesetter remembers what it laid out; it reads nothing but
// what it is sent, and ends with the process that began it.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { NodeCompiler } from '@myriaddreamin/typst-ts-node-compiler';

const folder = mkdtempSync(join(tmpdir(), 'allomorph-typeset-'));
process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
process.on('disconnect', () => process.exit());

/** How many documents something stays remembered for that none of them used. */
const mostAge = 10;
/** The fonts that come with the application, and those that were sent besides for the document at hand. */
let shipped = [];
let compiler;
let compilerFonts = '';

/** What the typesetter says of a document. */
const sentencesOf = (error) => (error ? error.shortDiagnostics.map(({ message }) => message).filter(Boolean) : []);

/** A compiler knows its fonts from the start: other fonts take another one, which has nothing to remember yet. */
function compilerFor(fonts) {
  const name = fonts.map(({ digest }) => digest).join();
  if (!compiler || name !== compilerFonts) {
    const fontBlobs = [...shipped, ...fonts.map(({ bytes }) => Buffer.from(bytes))];
    compiler = NodeCompiler.create({ workspace: folder, fontArgs: [{ fontBlobs }] });
    compilerFonts = name;
  }
  return compiler;
}

function typeset({ files, fonts, standard, timestamp }) {
  compilerFor(fonts);
  for (const { path, bytes } of files) compiler.mapShadow(join(folder, path), Buffer.from(bytes));
  try {
    const compiled = compiler.compile({ mainFilePath: join(folder, 'main.typ') });
    if (!compiled.result) return { failed: sentencesOf(compiled.takeError()) };
    const made = { pages: compiled.result.numOfPages, places: [], against: [] };
    if (standard === 'drawing') return { ...made, pdf: Buffer.from(compiler.plainSvg(compiled.result)) };
    [{ value: made.places }] = compiler.query(compiled.result, { selector: '<places>' });
    const options = { creationTimestamp: timestamp };
    try {
      return { ...made, pdf: compiler.pdf(compiled.result, { ...options, pdfStandard: standard }) };
    } catch (error) {
      // The document is made without the claim, and it is told what speaks against it.
      const against = [...String(error).matchAll(/message: "(?:[^":]*: )?((?:[^"\\]|\\.)*)"/g)].map(
        ([, message]) => message,
      );
      if (against.length === 0) throw error;
      return { ...made, pdf: compiler.pdf(compiled.result, options), against: [...new Set(against)] };
    }
  } finally {
    compiler.resetShadow();
    compiler.evictCache(mostAge);
  }
}

process.on('message', ({ fonts, job }) => {
  if (fonts) {
    shipped = fonts.map((path) => readFileSync(path));
    return;
  }
  const begun = process.cpuUsage();
  let answer;
  try {
    answer = typeset(job);
  } catch (error) {
    answer = { failed: [error instanceof Error ? error.message : String(error)] };
  }
  const { user, system } = process.cpuUsage(begun);
  const cost = { cpuSeconds: (user + system) / 1e6, peakMegabytes: process.resourceUsage().maxRSS / 1000 };
  // Whoever asked may be gone by now; the end of the connection ends this process.
  process.send({ ...answer, cost, resident: process.memoryUsage.rss() }, undefined, undefined, () => undefined);
});
