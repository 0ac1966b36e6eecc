import { firstCheckSettings, routes, type CheckSettings, type StoredChecks } from '@allomorph/core';
import type { Router } from 'express';
import { audit } from '../audit/audit.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';

async function readChecks(db: Queryable, workspace: string, lock = false): Promise<StoredChecks> {
  const row = await oneRow<{ checks: CheckSettings | null; revision: number }>(
    db,
    `select checks, checks_revision as revision from workspaces where id = $1 ${lock ? 'for no key update' : ''}`,
    [workspace],
  );
  return { ...firstCheckSettings, ...row?.checks, revision: row?.revision ?? 0 };
}

/** What a team wants to be told of when something is saved. */
export function checkRoutes(router: Router, db: Database): void {
  serve(router, routes.checks, ({ person }) => readChecks(db, person.workspace));

  serve(router, routes.saveChecks, ({ person, body: { base, ...settings } }) =>
    db.transaction(async (client) => {
      const current = await readChecks(client, person.workspace, true);
      if (current.revision !== base) throw new HttpProblem(409, 'Somebody changed the checks meanwhile.', { current });
      await client.query('update workspaces set checks = $2, checks_revision = checks_revision + 1 where id = $1', [
        person.workspace,
        JSON.stringify(settings),
      ]);
      await audit(client, actorOf(person), 'save checks', '');
      return readChecks(client, person.workspace);
    }),
  );
}
