/** One step of an edit's history, whatever windows do to it meanwhile. */
import { entryBetween, type UmboDocument } from '@umbo/core/document';
import { changeAsItIs, type Database } from '@umbo/data';

/**
 * @param id of the step: it is taken once under it
 * @param label what a person reads in the history
 * @param next the edit as it is to be; it may be asked for again, for an edit that changed meanwhile
 * @returns whether there is a step
 */
export function putInto(
  db: Database,
  photographId: number,
  id: string,
  label: string,
  next: (document: UmboDocument) => UmboDocument | Promise<UmboDocument>,
): Promise<boolean> {
  return changeAsItIs(db, photographId, async ({ document }) => {
    const entry = entryBetween(id, label, document, await next(document));
    return entry.patches.length === 0 ? null : { id, changes: [{ type: 'edit', entry }] };
  });
}
