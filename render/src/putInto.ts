/** One step of an edit's history, whatever windows do to it meanwhile. */
import { entryBetween, type UmboDocument } from '@umbo/core/document';
import { changeDocument, databaseId, Problem, readDocument, type Database } from '@umbo/data';

/** So often an edit may change while something is put into it. */
const TRIES = 20;

/**
 * @param id of the step: it is taken once under it
 * @param label what a person reads in the history
 * @param next the edit as it is to be; it may be asked for again, for an edit that changed meanwhile
 * @returns whether there is a step
 */
export async function putInto(
  db: Database,
  photographId: number,
  id: string,
  label: string,
  next: (document: UmboDocument) => UmboDocument | Promise<UmboDocument>,
): Promise<boolean> {
  for (let attempt = 1; ; attempt++) {
    const { document, revision } = await readDocument(db, photographId);
    const entry = entryBetween(id, label, document, await next(document));
    if (entry.patches.length === 0) return false;
    try {
      await changeDocument(db, photographId, { id, database: await databaseId(db), base: revision, changes: [{ type: 'edit', entry }] });
      return true;
    } catch (error) {
      if (!(error instanceof Problem) || error.kind !== 'conflict' || attempt === TRIES) throw error;
    }
  }
}
