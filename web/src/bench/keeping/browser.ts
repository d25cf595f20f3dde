'use client';
/** The keeper in a browser's window: requests, the browser's database, other windows, and the end of the page. */
import type { HashOf } from '@umbo/core/document';
import type { DocumentState, SinceState } from '@umbo/data';
import { request } from '@/ui/request';
import { onServerEvents } from '@/ui/serverEvents';
import { createKeeper, type Keeper, type KeeperEvents } from './keeper';
import { upgradedOutbox } from './outbox';
import { openShelf } from './shelf';

/** Browsers send at most 64 KiB from a page that is being closed. */
const KEEPALIVE_LIMIT = 60_000;

/**
 * @param owner the photograph, and the database that it is in: another database's photograph may have the same number
 * @param hashOf for what an earlier version of Umbo left behind
 */
export function keepInBrowser(
  owner: { database: string; photographId: number },
  initial: DocumentState,
  events: KeeperEvents,
  hashOf: HashOf,
): Keeper {
  const { database, photographId } = owner;
  const address = `/api/photographs/${photographId}`;
  const others = new BroadcastChannel(`umbo-photograph-${database}-${photographId}`);
  const shelf = openShelf(`${database}-${photographId}`);
  const keeper = createKeeper(initial, events, {
    database,
    send: (batch) => request('POST', `${address}/changes`, batch),
    read: ({ base, after }) => request<SinceState>('GET', `${address}/since?base=${base}&after=${after ?? ''}`),
    tell: (revision) => others.postMessage(revision),
    shelf: { ...shelf, withOrphan: (name, work) => shelf.withOrphan(name, (stored) => work(upgradedOutbox(stored, hashOf))) },
    newId: () => crypto.randomUUID(),
    after(ms, work) {
      const timer = setTimeout(work, ms);
      return () => clearTimeout(timer);
    },
  });
  others.onmessage = ({ data }: MessageEvent<number>) => keeper.heard(data);

  // Windows of other browsers, and what the server itself does.
  const stopListening = onServerEvents((heard) => {
    if (heard === null) keeper.heard(Infinity);
    else for (const { kind, subject, revision } of heard) if (kind === 'document' && subject === photographId) keeper.heard(revision);
  });
  // After a sleep nothing may have been heard.
  const comeBack = (): void => {
    if (document.visibilityState === 'visible') keeper.heard(Infinity);
  };
  const beforeUnload = (event: BeforeUnloadEvent): void => {
    if (keeper.isWaiting()) event.preventDefault();
  };
  const hide = (): void => {
    const batch = keeper.lastWord();
    // What is too long for it stays in the browser's database until the next opening.
    if (batch && JSON.stringify(batch).length < KEEPALIVE_LIMIT)
      request('POST', `${address}/changes`, batch, { keepalive: true }).catch(() => undefined);
  };
  addEventListener('beforeunload', beforeUnload);
  addEventListener('pagehide', hide);
  addEventListener('focus', comeBack);
  document.addEventListener('visibilitychange', comeBack);
  return {
    ...keeper,
    close() {
      hide();
      keeper.close();
      others.close();
      stopListening();
      removeEventListener('beforeunload', beforeUnload);
      removeEventListener('pagehide', hide);
      removeEventListener('focus', comeBack);
      document.removeEventListener('visibilitychange', comeBack);
    },
  };
}
