/** Changes that the server has not acknowledged, as pure data. */
import {
  patch,
  TRAVEL_LIMIT,
  upgradeDocument,
  upgradePatches,
  type Change,
  type HashOf,
  type Patch,
  type UmboDocument,
} from '@umbo/core/document';
import type { Batch, DocumentState } from '@umbo/data';

/** A change, and what it does to the document. */
export interface Step {
  change: Change;
  patches: Patch[];
}

/**
 * A log on top of a snapshot: what was acknowledged stays in the log for a while, so that the browser's copy grows by what changed
 * instead of by whole documents.
 */
export interface Outbox {
  snapshot: UmboDocument;
  log: readonly Step[];
  /** How many steps of the log the server has. */
  acknowledged: number;
  /** The revision after them, and the batch that made it; null: not known. */
  base: number;
  baseBatch: string | null;
  /** A batch under way, which may have arrived without an answer: its id, and how many steps it holds. */
  sent: { id: string; count: number } | null;
  /**
   * The id of the batch after that: known beforehand, since a page that goes away may get its last batch to the server and not that it
   * sent it into the browser's database.
   */
  next: string;
  /** The document after what was acknowledged, after the batch under way, and after everything. */
  baseDocument: UmboDocument;
  sentDocument: UmboDocument;
  document: UmboDocument;
}

/** What of an outbox is written down; the documents follow from it. */
export type StoredOutbox = Pick<Outbox, 'snapshot' | 'log' | 'acknowledged' | 'base' | 'baseBatch' | 'sent' | 'next'>;

/** A log of what is acknowledged is given up for a new snapshot at this length. */
const LOG_LENGTH = 100;
const BATCH_CHANGES = 200;
/** Characters of one batch, unless a single change is longer. */
const BATCH_LENGTH = 4e6;

export const emptyOutbox = (
  { revision, batch, document }: Pick<DocumentState, 'revision' | 'batch' | 'document'>,
  next: string,
): Outbox => ({
  snapshot: document,
  log: [],
  acknowledged: 0,
  base: revision,
  baseBatch: batch,
  sent: null,
  next,
  baseDocument: document,
  sentDocument: document,
  document,
});

export const waiting = ({ log, acknowledged }: Outbox): readonly Step[] => log.slice(acknowledged);

export const isEmptyOutbox = ({ log, acknowledged }: Pick<Outbox, 'log' | 'acknowledged'>): boolean => log.length === acknowledged;

/** @param document the edit after the steps */
export const withSteps = (outbox: Outbox, steps: readonly Step[], document: UmboDocument): Outbox => ({
  ...outbox,
  log: [...outbox.log, ...steps],
  document,
});

/**
 * Decides what the next batch is; it stays the same until it is acknowledged or known not to have arrived.
 * @param next the id of the one after it
 * @param most how many changes it holds at most
 */
export function sealed(outbox: Outbox, next: string, most = BATCH_CHANGES): Outbox {
  if (outbox.sent || isEmptyOutbox(outbox)) return outbox;
  let [count, length, travelled] = [0, 0, 0];
  let document = outbox.baseDocument;
  for (const { change, patches } of waiting(outbox)) {
    length += JSON.stringify(change).length;
    if (change.type === 'go') travelled += Math.abs(change.to - change.from);
    if (count > 0 && (count >= most || length > BATCH_LENGTH || travelled > TRAVEL_LIMIT)) break;
    document = patch(document, patches);
    count++;
  }
  const all = count === waiting(outbox).length;
  return { ...outbox, sent: { id: outbox.next, count }, next, sentDocument: all ? outbox.document : document };
}

export function batchOf(outbox: Outbox, database: string): Batch {
  const { id, count } = outbox.sent!;
  return {
    id,
    database,
    base: outbox.base,
    after: outbox.baseBatch,
    changes: waiting(outbox)
      .slice(0, count)
      .map(({ change }) => change),
  };
}

/** The batch under way arrived. */
export function acknowledged(outbox: Outbox, revision: number): Outbox {
  const next: Outbox = {
    ...outbox,
    acknowledged: outbox.acknowledged + outbox.sent!.count,
    base: revision,
    baseBatch: outbox.sent!.id,
    sent: null,
    baseDocument: outbox.sentDocument,
  };
  const { baseBatch: batch, document } = next;
  return isEmptyOutbox(next) && next.log.length > LOG_LENGTH ? emptyOutbox({ revision, batch, document }, next.next) : next;
}

/** The batch under way is known not to have arrived: its steps wait again. */
export const unsent = (outbox: Outbox): Outbox => ({ ...outbox, sent: null, sentDocument: outbox.baseDocument });

/**
 * An outbox that a window left behind. Whether its batch was sent is not known: it is sealed as it would have been.
 * @param next the id of the batch after it
 */
export function restored(stored: StoredOutbox, next: string): Outbox {
  const until = (count: number): UmboDocument =>
    patch(
      stored.snapshot,
      stored.log.slice(0, count).flatMap(({ patches }) => patches),
    );
  const outbox = {
    ...stored,
    baseDocument: until(stored.acknowledged),
    sentDocument: until(stored.acknowledged + (stored.sent?.count ?? 0)),
    document: until(stored.log.length),
  };
  return sealed(outbox, next);
}

/** An outbox that an earlier version of Umbo wrote down, as this one would have. */
export const upgradedOutbox = (stored: StoredOutbox, hashOf: HashOf): StoredOutbox => ({
  ...stored,
  baseBatch: stored.baseBatch ?? null,
  snapshot: upgradeDocument(stored.snapshot, hashOf) as UmboDocument,
  log: stored.log.map(({ change, patches }) => ({
    patches: upgradePatches(patches, hashOf),
    change:
      change.type === 'go'
        ? change
        : {
            ...change,
            entry: {
              ...change.entry,
              patches: upgradePatches(change.entry.patches, hashOf),
              inverse: upgradePatches(change.entry.inverse, hashOf),
            },
          },
  })),
});
