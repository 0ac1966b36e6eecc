import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, dirname, join, relative, resolve, sep } from 'node:path';
import { parseArgs } from 'node:util';
import {
  formatNames,
  isFormat,
  groupImportNotes,
  importNoteKinds,
  newPersonSchema,
  profilesFileSchema,
  type ImportNote,
  type StoredVariant,
} from '@allomorph/core';
import * as z from 'zod';
import { buildVariant, reasonToStop } from '../builds/build-variant.js';
import { bytesOf } from '../builds/deliverable-file.js';
import { configOfProcess } from '../config.js';
import { Database } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { importPublication } from '../imports/import-publication.js';
import type { ImportSource } from '../imports/import-thread.js';
import { audit } from '../audit/audit.js';
import { makeInvitation } from '../people/invitations.js';
import { readPeople } from '../people/people.js';
import { addPerson } from '../people/person.js';
import { readVariants } from '../publications/variants.js';
import { openWorkspace } from '../workspace.js';

const usage = `Usage:
  npm run -s allomorph -- import docbook BOOK.xml --publication "Title" [--profiles profiles.json] [--root DIR] [--json]
  npm run -s allomorph -- build "Title" --variant NAME [--format ${formatNames.join(',')}] [--date 2026-11-24] --out DIR [--json]
  npm run -s allomorph -- people add NAME --name "Full Name" --role reader|reviewer|writer|keeper   (the password is read from standard input)
  npm run -s allomorph -- people list [--json]
  npm run -s allomorph -- people reset NAME   (gives a link to set a new password)`;

/** A mistake in the call, told in one sentence. */
class UsageError extends Error {}

const { values, positionals } = (() => {
  try {
    return parseArgs({
      allowPositionals: true,
      options: {
        publication: { type: 'string' },
        profiles: { type: 'string' },
        root: { type: 'string' },
        variant: { type: 'string' },
        format: { type: 'string', default: 'html' },
        out: { type: 'string' },
        date: { type: 'string' },
        name: { type: 'string' },
        role: { type: 'string' },
        json: { type: 'boolean', default: false },
      },
    });
  } catch (error) {
    console.error(`${error instanceof Error ? error.message : String(error)}\n${usage}`);
    process.exit(2);
  }
})();

function progress(text: string): void {
  if (process.stderr.isTTY) process.stderr.write(`\r\u001b[K${text}`);
}

function finish(result: Readonly<Record<string, unknown>>, text: string): void {
  if (process.stderr.isTTY) process.stderr.write('\r\u001b[K');
  console.log(values.json ? JSON.stringify(result) : text);
}

async function importBook(db: Database, workspace: string, book: string): Promise<void> {
  if (!values.publication) throw new UsageError('--publication "Title" is needed.');
  if (!existsSync(book)) throw new UsageError(`The file ${book} does not exist.`);
  const profiles = values.profiles ? profilesFileSchema.parse(JSON.parse(readFileSync(values.profiles, 'utf8'))) : null;
  progress('importing …');
  const begun = performance.now();
  const summary = await importPublication(
    db,
    { workspace, person: null },
    bookIn(book, values.root),
    values.publication,
    profiles,
  );
  const seconds = (performance.now() - begun) / 1000;
  const { topics, snippets, variables, images, notes } = summary;
  const report = groupImportNotes(notes)
    .map(({ kind, notes: of }) => `  ${importNoteKinds[kind]} (${of.length}):\n${lines(of)}`)
    .join('\n');
  finish(
    { ...summary, seconds },
    `Imported “${values.publication}”: ${topics} topics, ${snippets} snippets, ${variables} variables, ${images} images, ` +
      `variants ${summary.variants.join(', ') || 'none'}, in ${seconds.toFixed(1)} s.${report ? `\nNot taken over as it was:\n${report}` : ''}`,
  );
}

const shownOfKind = 20;

function lines(notes: readonly ImportNote[]): string {
  const shown = notes.slice(0, shownOfKind).map((note) => `    ${note.file}, line ${note.line}: ${note.message}`);
  const more = notes.length - shown.length;
  return [...shown, ...(more > 0 ? [`    and ${more} more, all with --json`] : [])].join('\n');
}

/** A book and the folder that it may read: its own, or one around it. */
function bookIn(book: string, root: string | undefined): ImportSource {
  const path = resolve(book);
  if (root === undefined) return { main: basename(path), from: { folder: dirname(path) } };
  const folder = resolve(root);
  const main = relative(folder, path);
  if (main === '..' || main.startsWith(`..${sep}`)) throw new UsageError(`“${book}” does not lie in “${root}”.`);
  return { main: main.split(sep).join('/'), from: { folder } };
}

async function build(db: Database, workspace: string, title: string): Promise<void> {
  const { out } = values;
  if (!out) throw new UsageError('--out DIR is needed.');
  const wanted = values.format.split(',').map((name) => name.trim());
  const unknown = wanted.find((name) => !isFormat(name));
  if (unknown !== undefined)
    throw new UsageError(`The format “${unknown}” is not known; there are ${formatNames.join(', ')}.`);
  const variant = { ...(await findVariant(db, workspace, title)), formats: wanted.filter(isFormat) };
  const date = values.date ?? new Date().toISOString().slice(0, 10);
  const begun = performance.now();
  const deliverable = await db.snapshot((client) =>
    buildVariant(client, workspace, variant, date, (stage, share) =>
      progress(`${variant.title}: ${stage} ${Math.round(share * 100)} %`),
    ),
  );
  const found = [...deliverable.problems, ...deliverable.formats.flatMap((each) => each.problems)];
  const stopped = reasonToStop(variant, found);
  const broken = deliverable.formats.filter(({ failed }) => failed !== null);
  const failed = stopped !== null || broken.length > 0;
  for (const { format, files } of stopped === null ? deliverable.formats : []) {
    // Several formats have a folder each.
    const folder = wanted.length > 1 ? join(out, format) : out;
    for (const file of files) {
      const path = join(folder, file.path);
      mkdirSync(dirname(path), { recursive: true });
      writeFileSync(path, await bytesOf(db, file));
    }
  }
  const seconds = (performance.now() - begun) / 1000;
  const problems = found.map((problem) => {
    const place =
      [problem.place.component, problem.place.block].filter((part) => part !== null).join('#') ||
      problem.place.entry ||
      '';
    return `  ${problem.severity} (${place}): ${problem.message}`;
  });
  finish(
    {
      variant: variant.title,
      pages: deliverable.pages,
      digest: deliverable.digest,
      formats: deliverable.formats.map(({ format, failed, digest, size, pages }) => ({
        format,
        failed,
        digest,
        size,
        pages,
      })),
      problems: found,
      seconds,
      failed,
    },
    `${stopped === null ? 'Built' : 'Made nothing of'} “${variant.title}”: ${deliverable.pages} pages, ${found.length} problems, in ${seconds.toFixed(1)} s.` +
      (stopped === null ? '' : ` ${stopped}`) +
      broken.map(({ format, failed: reason }) => `\n  ${format} failed: ${reason}`).join('') +
      (problems.length > 0 ? `\n${problems.join('\n')}` : ''),
  );
  if (failed) process.exitCode = 1;
}

async function findVariant(db: Database, workspace: string, title: string): Promise<StoredVariant> {
  const { rows } = await db.query<{ key: string }>(
    'select key from publications where workspace = $1 and (title = $2 or key = $2) and deleted_at is null order by changed_at desc limit 1',
    [workspace, title],
  );
  const [publication] = rows;
  if (!publication) throw new UsageError(`There is no publication “${title}”.`);
  const variants = await readVariants(db, workspace, publication.key);
  const variant = variants.find((each) => each.title === values.variant);
  if (!variant) {
    throw new UsageError(
      `“${title}” has no variant “${values.variant ?? ''}”; it has ${variants.map((each) => `“${each.title}”`).join(', ') || 'none'}.`,
    );
  }
  return variant;
}

async function people(db: Database, workspace: string, act?: string, signIn?: string): Promise<void> {
  if (act === 'list') {
    const rows = await readPeople(db, workspace);
    const text = rows.map(
      (row) => `${row.signIn.padEnd(20)} ${row.role.padEnd(9)} ${row.isActive ? '' : '(may not sign in) '}${row.name}`,
    );
    finish({ people: rows }, text.join('\n') || 'Nobody is here yet.');
  } else if (act === 'add' && signIn !== undefined) {
    const password = readFileSync(process.stdin.fd, 'utf8').replace(/\r?\n$/, '');
    const person = newPersonSchema.parse({ signIn, name: values.name, role: values.role, password });
    await db.transaction(async (client) => {
      await addPerson(client, workspace, person);
      await audit(client, { workspace, person: null }, 'add person', person.signIn, { role: person.role });
    });
    finish({ added: person.signIn }, `Added “${person.name}”, who signs in as ${person.signIn}.`);
  } else if (act === 'reset' && signIn !== undefined) {
    const found = (await readPeople(db, workspace)).find((row) => row.signIn === signIn.toLowerCase());
    if (!found) throw new UsageError(`Nobody signs in as “${signIn}”.`);
    const { id, name, role } = found;
    const link = await makeInvitation(db, { workspace, person: null }, { name, role, person: id }, config.origin);
    await audit(db, { workspace, person: null }, 'let set a new password', found.signIn);
    finish({ ...link }, `“${name}” sets a new password at\n${link.address}`);
  } else throw new UsageError(usage);
}

const config = configOfProcess();
const db = new Database(config.databaseUrl);
try {
  const [command, first, second] = positionals;
  const workspace = await openWorkspace(db, config.content);
  if (command === 'import' && first === 'docbook' && second !== undefined) await importBook(db, workspace, second);
  else if (command === 'build' && first !== undefined) await build(db, workspace, first);
  else if (command === 'people') await people(db, workspace, first, second);
  else throw new UsageError(usage);
} catch (error) {
  process.exitCode = error instanceof UsageError ? 2 : 1;
  if (error instanceof UsageError) console.error(error.message);
  else if (error instanceof HttpProblem) console.error(error.detail);
  else if (error instanceof SyntaxError) console.error(`The profiles are not JSON: ${error.message}`);
  else if (error instanceof Error && 'code' in error && error.code === '23505')
    console.error('Somebody signs in by this name already.');
  else if (error instanceof z.ZodError)
    console.error(
      `${positionals[0] === 'people' ? 'This person cannot be added' : 'The profiles are not as expected'}: ${error.issues[0]?.path.join('.')}: ${error.issues[0]?.message}`,
    );
  else console.error(error instanceof Error ? error.message : error);
} finally {
  await db.close();
}
