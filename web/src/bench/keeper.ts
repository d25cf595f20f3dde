'use client';
/** Keeps the edit: sends every change to the server in order, again and again until it is acknowledged. */
import { mergeDocuments, type UmboDocument } from '@umbo/core';
import type { Change, DocumentState } from '@umbo/data';
import { request, RequestProblem } from '@/ui/request';
import { isEmptyOutbox, openShelf, type Outbox } from './outbox';

const SEND_AFTER_MS = 250;
const RETRY_MS = [1000, 2000, 4000, 8000];
/** Browsers send at most 64 KiB from a page that is being closed. */
const KEEPALIVE_LIMIT = 60_000;

export type KeepStatus = { state: 'kept' } | { state: 'keeping' } | { state: 'waiting' | 'refused'; reason: string };

/** Two edits that began from the same state and cannot be joined without a decision. */
export interface Conflict {
  /** Names of the layers that both sides changed. */
  layers: string[];
  /** Both joined, with this window's version where they differ. */
  mine: UmboDocument;
  theirs: DocumentState;
}

export interface KeeperEvents {
  status: (status: KeepStatus) => void;
  /** Go on from the server's state; `ours`, when given, is to become one new change on top of it. */
  adopt: (state: DocumentState, ours: UmboDocument | null) => void;
  /** Changes of an earlier window that never arrived: they are part of the edit again. */
  restore: (changes: Change[], document: UmboDocument) => void;
  conflict: (conflict: Conflict) => void;
}

export interface Keeper {
  /** Takes a change; `document` is the edit after it. */
  push: (change: Change, document: UmboDocument) => void;
  /** Resolves when everything is on the server. @throws Error when it cannot be kept */
  settled: () => Promise<void>;
  /** Ends a conflict with the state that was chosen; null takes the server's. */
  decide: (conflict: Conflict, chosen: UmboDocument | null) => void;
  close: () => void;
}

export function createKeeper(photographId: number, initial: DocumentState, events: KeeperEvents): Keeper {
  const address = `/api/photographs/${photographId}`;
  const shelf = openShelf(photographId);
  const others = new BroadcastChannel(`umbo-photograph-${photographId}`);
  let outbox = emptyOutbox(initial);
  let timer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;
  let failures = 0;
  /** A refusal or an undecided conflict: nothing is sent until it is resolved. */
  let stopped = false;
  const waiters: { resolve: () => void; reject: (error: Error) => void }[] = [];

  const settle = (error?: Error): void => {
    for (const { resolve, reject } of waiters.splice(0)) {
      if (error) reject(error);
      else resolve();
    }
  };
  const put = (next: Outbox): void => {
    outbox = next;
    shelf.store(outbox);
  };
  const later = (ms: number): void => {
    clearTimeout(timer);
    timer = setTimeout(() => void send(), ms);
  };
  const seal = (): void => {
    if (outbox.sent || outbox.changes.length === 0) return;
    const { base, changes, document } = outbox;
    put({ ...outbox, sent: { batch: { id: crypto.randomUUID(), base, changes }, document }, changes: [] });
  };

  async function send(): Promise<void> {
    clearTimeout(timer);
    if (sending || stopped) return;
    seal();
    if (!outbox.sent) {
      events.status({ state: 'kept' });
      settle();
      return;
    }
    sending = true;
    events.status({ state: 'keeping' });
    const { batch, document } = outbox.sent;
    try {
      const { revision } = await request<{ revision: number }>('POST', `${address}/changes`, batch);
      put({ ...outbox, base: revision, baseDocument: document, sent: null });
      failures = 0;
      others.postMessage(revision);
    } catch (error) {
      await recover(error as RequestProblem).catch((second: RequestProblem) => recover(second));
    }
    sending = false;
    if (failures === 0) void send();
  }

  async function recover(problem: RequestProblem): Promise<void> {
    if (problem.status === 409) {
      join((await request<{ edit: DocumentState }>('GET', address)).edit);
    } else if (problem.status === 0 || problem.status >= 500) {
      events.status({ state: 'waiting', reason: `${problem.message} Your changes are safe in this browser; trying again.` });
      later(RETRY_MS[Math.min(failures++, RETRY_MS.length - 1)]!);
    } else {
      stopped = true;
      events.status({ state: 'refused', reason: problem.message });
      settle(problem);
    }
  }

  /** Joins what is ours with a newer state of the server, or asks. */
  function join(theirs: DocumentState): void {
    const { document, conflicts } = mergeDocuments(outbox.baseDocument, outbox.document, theirs.document);
    if (conflicts.length === 0) {
      // Equal when a batch had arrived although its answer had not.
      goOnFrom(theirs, JSON.stringify(document) === JSON.stringify(theirs.document) ? null : document);
      return;
    }
    stopped = true;
    events.status({ state: 'waiting', reason: 'changed in another window, too' });
    events.conflict({ layers: conflicts, mine: document, theirs });
    settle(new Error('The photograph was changed in another window, too. Decide first which version goes on.'));
  }

  function goOnFrom(theirs: DocumentState, ours: UmboDocument | null): void {
    put(emptyOutbox(theirs));
    failures = 0;
    events.adopt(theirs, ours);
  }

  async function recoverOrphan(): Promise<void> {
    const left = await shelf.orphan();
    if (!left) return;
    if (!isEmptyOutbox(outbox) || sending) return; // work has begun already; the next opening finds it
    put(left);
    if (left.base === initial.revision) {
      events.restore([...(left.sent?.batch.changes ?? []), ...left.changes], left.document);
    } else {
      join(initial);
    }
    void send();
  }

  others.onmessage = ({ data }: MessageEvent<number>) => {
    if (data <= outbox.base || !isEmptyOutbox(outbox) || sending) return; // our own next batch meets it and is joined
    request<{ edit: DocumentState }>('GET', address).then(
      ({ edit }) => {
        if (isEmptyOutbox(outbox) && edit.revision > outbox.base) goOnFrom(edit, null);
      },
      () => undefined,
    );
  };

  const beforeUnload = (event: BeforeUnloadEvent): void => {
    if (!isEmptyOutbox(outbox)) event.preventDefault();
  };
  const hide = (): void => {
    if (sending || stopped) return;
    seal();
    if (!outbox.sent) return;
    if (JSON.stringify(outbox.sent.batch).length < KEEPALIVE_LIMIT)
      void request('POST', `${address}/changes`, outbox.sent.batch, true).catch(() => undefined);
  };
  addEventListener('beforeunload', beforeUnload);
  addEventListener('pagehide', hide);
  recoverOrphan().catch(() => undefined);

  return {
    push(change, document) {
      put({ ...outbox, changes: [...outbox.changes, change], document });
      if (stopped) return;
      events.status({ state: 'keeping' });
      if (!sending && failures === 0) later(SEND_AFTER_MS);
    },
    settled() {
      if (isEmptyOutbox(outbox) && !sending) return Promise.resolve();
      if (stopped) return Promise.reject(new Error('The changes are not kept yet; see the message at the bottom.'));
      return new Promise((resolve, reject) => {
        waiters.push({ resolve, reject });
        void send();
      });
    },
    decide({ theirs }, chosen) {
      stopped = false;
      goOnFrom(theirs, chosen);
      void send();
    },
    close() {
      hide();
      clearTimeout(timer);
      others.close();
      shelf.close();
      removeEventListener('beforeunload', beforeUnload);
      removeEventListener('pagehide', hide);
    },
  };
}

const emptyOutbox = ({ revision, document }: DocumentState): Outbox => ({
  base: revision,
  baseDocument: document,
  sent: null,
  changes: [],
  document,
});
