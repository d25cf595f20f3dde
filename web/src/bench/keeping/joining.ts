/** Joining what a window did with what is newer than that, as pure functions. */
import { entryBetween, mergeDocuments, newFault, patch, type Merged, type Side, type UmboDocument } from '@umbo/core/document';
import type { Step } from './outbox';

/** Steps that are joined one by one; those before them together with the first. */
const JOINED_ONE_BY_ONE = 40;

/** Two edits that began from the same one. */
export interface Sides {
  readonly base: UmboDocument;
  /** What leads from `base` to `ours`. */
  readonly steps: readonly Step[];
  readonly ours: UmboDocument;
  readonly theirs: UmboDocument;
  /** Why the two cannot be joined, whatever is in them: one of both goes on as a whole. */
  readonly apart: string | null;
}

export const labelOf = ({ change }: Step): string =>
  change.type === 'edit' ? change.entry.label : change.to < change.from ? 'Undo' : 'Redo';

/** The step from one edit to another; none where they are the same. */
export function stepBetween(id: string, label: string, from: UmboDocument, to: UmboDocument): Step[] {
  const entry = entryBetween(id, label, from, to);
  return entry.patches.length === 0 ? [] : [{ change: { type: 'edit', entry }, patches: entry.patches }];
}

/** What would come of both; the fault that keeps it from being made, if there is one. @param side what wins where both changed the same */
export function joined({ base, ours, theirs, apart }: Sides, side?: Side): Merged & { fault: string | null } {
  const { document, conflicts } = mergeDocuments(base, ours, theirs, side);
  return { document, conflicts: apart ? [] : conflicts, fault: apart ?? newFault(document, base) };
}

/**
 * Our steps one by one on top of theirs, so that each can still be undone.
 * @param last the edit after all of them
 * @returns the steps, and the edit after them
 */
export function onTopOf(
  { base, steps, theirs }: Pick<Sides, 'base' | 'steps' | 'theirs'>,
  last: UmboDocument,
  newId: () => string,
  side: Side = 'mine',
): [Step[], UmboDocument] {
  const first = Math.max(0, steps.length - JOINED_ONE_BY_ONE);
  let document = patch(
    base,
    steps.slice(0, first).flatMap(({ patches }) => patches),
  );
  let at = theirs;
  const made: Step[] = [];
  for (const [i, one] of [...steps.entries()].slice(first)) {
    document = patch(document, one.patches);
    const next = i === steps.length - 1 ? last : mergeDocuments(base, document, theirs, side).document;
    made.push(...stepBetween(newId(), labelOf(one), at, next));
    at = next;
  }
  return [made, steps.length > 0 ? last : at];
}
