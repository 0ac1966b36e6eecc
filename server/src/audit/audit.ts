import type { Queryable } from '../db/database.js';

/** Who does something; null for the command line and the demo loader. */
export interface Actor {
  readonly workspace: string;
  readonly person: string | null;
}

/** Writes an audit row, in the transaction of the change itself. */
export async function audit(
  db: Queryable,
  actor: Actor,
  action: string,
  subject: string,
  detail: Readonly<Record<string, unknown>> = {},
): Promise<void> {
  await db.query('insert into audit (workspace, person, action, subject, detail) values ($1, $2, $3, $4, $5)', [
    actor.workspace,
    actor.person,
    action,
    subject,
    JSON.stringify(detail),
  ]);
}
