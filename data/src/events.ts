/** What happens, for whoever watches: written in the transaction that does it, read again and again by the web server. */
import { QueryTypes, type Transaction } from 'sequelize';
import { type Database } from './database.ts';
import type { ToldKind } from './jobKinds.ts';

export interface ServerEvent {
  /** `document`: an edit is at a revision. `preview`: of a photograph. `shoot`: other photographs. A kind of job: one of these jobs, or what they do in a shoot, is another. */
  kind: 'document' | 'preview' | 'shoot' | ToldKind;
  /** The id of what it is about. */
  subject: number;
  /** The revision of an edit or a preview; else 0. */
  revision: number;
}

/** Tells what a transaction does; nobody hears of it when the transaction fails. */
export async function tell(
  db: Database,
  kind: ServerEvent['kind'],
  subjects: readonly number[],
  transaction: Transaction,
  revision = 0,
): Promise<void> {
  for (const subject of subjects)
    await db.query('INSERT INTO events (kind, subject, revision, createdAt) VALUES ($1, $2, $3, UTC_TIMESTAMP(3))', {
      bind: [kind, subject, revision],
      transaction,
    });
}

/** Transactions that take longer than this to commit may be missed by watchers. */
const SLOWEST_SECONDS = 30;

/**
 * Follows what happens from now on.
 * @returns what happened since it was asked last, in order; ids are given out before a transaction commits, so that later ones may be seen
 * first: each is seen once
 */
export function followEvents(db: Database): () => Promise<ServerEvent[]> {
  let floor = 0;
  let seen: Set<number> | null = null;
  return async () => {
    const rows = await db.query<ServerEvent & { id: number; isOld: number }>(
      `SELECT id, kind, subject, revision, createdAt < UTC_TIMESTAMP(3) - INTERVAL ${SLOWEST_SECONDS} SECOND AS isOld
       FROM events WHERE id > $1 ORDER BY id`,
      { bind: [floor], type: QueryTypes.SELECT },
    );
    const known = seen;
    seen = new Set(rows.map(({ id }) => id));
    for (const { id, isOld } of rows) {
      if (isOld !== 1) break;
      floor = id;
    }
    return known === null
      ? []
      : rows.filter(({ id }) => !known.has(id)).map(({ kind, subject, revision }) => ({ kind, subject, revision }));
  };
}

/** Forgets what every watcher has heard. */
export async function forgetEvents(db: Database): Promise<void> {
  await db.query('DELETE FROM events WHERE createdAt < UTC_TIMESTAMP(3) - INTERVAL 1 HOUR');
}
