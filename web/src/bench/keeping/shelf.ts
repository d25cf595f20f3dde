'use client';
/** Where the browser keeps outboxes: they survive a reload and a crash. */
import { createStore, get, promisifyRequest, update } from 'idb-keyval';
import type { SetAside } from './setAside';
import type { Outbox, Step, StoredOutbox } from './outbox';

export interface Shelf {
  /**
   * Keeps this window's outbox.
   * @param instead an outbox of another window that this one has taken over: it goes in the same moment
   */
  write: (outbox: Outbox, instead?: string) => Promise<void>;
  /** Names of the outboxes of windows that are gone. */
  orphans: () => Promise<string[]>;
  /** Works on one of them while no other window does. Does nothing when it is taken or gone. */
  withOrphan: (name: string, work: (outbox: StoredOutbox) => Promise<void>) => Promise<void>;
  /** Keeps what became of an outbox of a window that is gone; null: nothing is left of it. */
  rewrite: (name: string, outbox: StoredOutbox | null) => Promise<void>;
  /** Keeps a change that the server refuses, until it is forgotten. */
  setAside: (change: SetAside) => Promise<void>;
  asides: () => Promise<SetAside[]>;
  forget: (id: string) => Promise<void>;
  close: () => void;
}

type Head = Pick<StoredOutbox, 'acknowledged' | 'base' | 'baseBatch' | 'sent' | 'next'>;

/** @param owner the photograph, and the database that it is in */
export function openShelf(owner: string): Shelf {
  const store = createStore('umbo-keeping', 'outboxes');
  const aside = createStore('umbo-aside', 'changes');
  const name = crypto.randomUUID();
  const lock = (of: string): string => `umbo-outbox-${owner}-${of}`;
  // A lock that ends with the window tells the others whether it lives.
  let release: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  void navigator.locks.request(lock(name), () => held);
  /** What is written down. */
  let kept: StoredOutbox | null = null;
  let order: Promise<unknown> = Promise.resolve();

  const all = (of: string): IDBKeyRange => IDBKeyRange.bound([owner, of], [owner, of, []]);
  const writeDown = (into: IDBObjectStore, of: string, outbox: StoredOutbox | null, before: StoredOutbox | null): void => {
    const goesOn = outbox !== null && before?.snapshot === outbox.snapshot && before.log.length <= outbox.log.length;
    if (!goesOn || outbox.log.length === 0) into.delete(all(of));
    if (!outbox || outbox.log.length === 0) return;
    if (!goesOn) into.put(outbox.snapshot, [owner, of, 'snapshot']);
    for (let i = goesOn ? before.log.length : 0; i < outbox.log.length; i++) into.put(outbox.log[i], [owner, of, i]);
    const { acknowledged, base, baseBatch, sent, next } = outbox;
    into.put({ acknowledged, base, baseBatch, sent, next } satisfies Head, [owner, of, 'head']);
  };
  /** One after another, so that the newest state is the one that stays. */
  const inOrder = <T>(work: () => Promise<T>): Promise<T> => {
    const done = order.then(work);
    order = done.catch(() => undefined);
    return done;
  };

  return {
    write: (outbox, instead) =>
      inOrder(async () => {
        const before = kept;
        kept = null; // what a failed write leaves is not known
        await store('readwrite', (into) => {
          writeDown(into, name, outbox, before);
          if (instead !== undefined) into.delete(all(instead));
          return promisifyRequest(into.transaction);
        });
        kept = outbox.log.length === 0 ? null : outbox;
      }),
    async orphans() {
      const keys = (await store('readonly', (from) =>
        promisifyRequest(from.getAllKeys(IDBKeyRange.bound([owner], [owner, []]))),
      )) as unknown as [string, string, string | number][];
      return [...new Set(keys.map(([, of]) => of))].filter((of) => of !== name);
    },
    async withOrphan(of, work) {
      await navigator.locks.request(lock(of), { ifAvailable: true }, async (free) => {
        if (!free) return;
        const [keys, values] = await store('readonly', (from) =>
          Promise.all([promisifyRequest(from.getAllKeys(all(of))), promisifyRequest(from.getAll(all(of)))]),
        );
        const at = (part: string): unknown => values[keys.findIndex((key) => (key as unknown[])[2] === part)];
        const [snapshot, head] = [at('snapshot') as StoredOutbox['snapshot'] | undefined, at('head') as Head | undefined];
        const log = values.filter((_, i) => typeof (keys[i] as unknown[])[2] === 'number') as Step[];
        if (snapshot && head) await work({ snapshot, log, ...head });
      });
    },
    rewrite: (of, outbox) =>
      inOrder(() =>
        store('readwrite', (into) => {
          writeDown(into, of, outbox, null);
          return promisifyRequest(into.transaction);
        }),
      ),
    setAside: (change) => update<Record<string, SetAside>>(owner, (all) => ({ ...all, [change.id]: change }), aside),
    asides: async () => Object.values((await get<Record<string, SetAside>>(owner, aside)) ?? {}),
    forget: (id) =>
      update<Record<string, SetAside>>(owner, (all = {}) => Object.fromEntries(Object.entries(all).filter(([of]) => of !== id)), aside),
    close: () => release(),
  };
}
