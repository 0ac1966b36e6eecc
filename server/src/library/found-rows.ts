import { marksIn, passageWith, type ComponentKind, type ComponentRow } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { searchQueries, wantedWords, type AskedWord } from './find-words.js';

/** The kinds of references through which a component reads as another one does. */
export const readsThrough = `('placement', 'inline placement', 'variable', 'image', 'link')`;

const excerptLength = 220;
/** Short enough for one line, so that what was found is seen. */
const passageLength = 90;
/** Values in values are shown down to this depth. */
const shownDepth = 4;
/** Values are filled in at so many places of a text. */
const mostFilledIn = 500;

/** What the database has of a component that was found. */
export interface FoundRow {
  readonly key: string;
  readonly kind: ComponentKind;
  readonly title: string;
  readonly revision: number;
  readonly text: string;
  readonly conditions: string[];
  readonly changed_at: Date;
  readonly changed_by: string | null;
  readonly uses: number;
  readonly archived: boolean;
}

/** Rows as they are shown: with a passage that reads as readers see it, what was found marked, and through what it was. */
export async function shownRows(
  db: Queryable,
  workspace: string,
  rows: readonly FoundRow[],
  looked: readonly AskedWord[],
): Promise<readonly ComponentRow[]> {
  const wanted = wantedWords(looked);
  const length = looked.length > 0 ? passageLength : excerptLength;
  const keys = rows.map(({ key }) => key);
  const used = await textsUsed(db, workspace, keys);
  const items = rows.map((row): ComponentRow => {
    const passage = passageWith(asRead(row.key, row.text, used), wanted, length);
    return {
      key: row.key,
      kind: row.kind,
      title: row.title,
      revision: row.revision,
      uses: row.uses,
      conditions: row.conditions,
      excerpt: passage.text,
      titleMarks: marksIn(row.title, wanted),
      excerptMarks: passage.marks,
      through: null,
      changedBy: row.changed_by ?? '',
      changedAt: row.changed_at.toISOString(),
      archived: row.archived,
    };
  });
  if (looked.length === 0) return items;
  const silent = items.filter((item) => item.titleMarks.length + item.excerptMarks.length === 0).map(({ key }) => key);
  const through = await saidThrough(db, workspace, silent, looked);
  return items.map((item) => {
    const other = through.get(item.key);
    if (!other) return item;
    const passage = passageWith(other.text, wanted, passageLength);
    return { ...item, through: other.title, excerpt: passage.text, excerptMarks: passage.marks };
  });
}

/** What components use, as it reads, by component and key. */
type TextsUsed = ReadonlyMap<string, ReadonlyMap<string, string>>;

/** A text in which the keys of what a component uses stand in brackets, as it reads; long ones are filled in as far as is shown. */
function asRead(key: string, text: string, used: TextsUsed): string {
  let left = mostFilledIn;
  const fill = (source: string, words: string, depth: number): string => {
    const names = depth < shownDepth ? used.get(source) : undefined;
    if (!names) return words;
    return words.replace(/\[([^[\]\s]+)\]/g, (whole, target: string) => {
      const said = left > 0 ? names.get(target) : undefined;
      if (said === undefined) return whole;
      left -= 1;
      return fill(target, said, depth + 1);
    });
  };
  return fill(key, text, 0);
}

/** What variables and phrases read where components use them (the first of their values), and the titles of all else. */
async function textsUsed(
  db: Queryable,
  workspace: string,
  keys: readonly string[],
  known = new Map<string, Map<string, string>>(),
): Promise<TextsUsed> {
  const { rows } = await db.query<{ source: string; target: string; text: string }>(
    `select distinct f.source, f.target, case when d.kind = 'variable' then left(split_part(d.text, ' · ', 1), 80)
            when d.kind = 'snippet' and f.kind = 'inline placement' then left(d.text, 80) else '“' || d.title || '”' end as text
       from component_references f join components d on d.workspace = f.workspace and d.key = f.target
      where f.workspace = $1 and f.source_kind = 'component' and f.source = any($2) and f.kind in ${readsThrough}`,
    [workspace, keys],
  );
  for (const { source, target, text } of rows) {
    const names = known.get(source) ?? new Map<string, string>();
    known.set(source, names.set(target, text));
  }
  const inside = new Set(
    rows.filter(({ target, text }) => text.includes('[') && !known.has(target)).map((row) => row.target),
  );
  return inside.size === 0 ? known : textsUsed(db, workspace, [...inside], known);
}

/** Of components that do not say themselves what was looked for, the first that they place or use and that does. */
async function saidThrough(
  db: Queryable,
  workspace: string,
  keys: readonly string[],
  looked: readonly AskedWord[],
): Promise<ReadonlyMap<string, { readonly title: string; readonly text: string }>> {
  if (keys.length === 0) return new Map();
  const any = looked.map((asked) => `(${searchQueries(asked).any})`).join(' | ');
  const { rows } = await db.query<{ source: string; title: string; text: string }>(
    `select distinct on (f.source) f.source, d.title, left(d.text, 4000) as text
       from component_references f join components d on d.workspace = f.workspace and d.key = f.target
      where f.workspace = $1 and f.source_kind = 'component' and f.source = any($2) and f.kind in ${readsThrough}
        and d.words @@ $3::tsquery
      order by f.source, f.position`,
    [workspace, keys, any],
  );
  return new Map(rows.map((row) => [row.source, row]));
}
