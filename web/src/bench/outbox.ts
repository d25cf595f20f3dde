'use client';
/** Changes that the server has not acknowledged, in the browser's own database: they survive a reload and a crash. */
import type { UmboDocument } from '@umbo/core';
import type { Batch, Change } from '@umbo/data';
import { del, get, keys, set } from 'idb-keyval';

export interface Outbox {
  /** The revision that everything here begins from, and its document. */
  base: number;
  baseDocument: UmboDocument;
  /** A batch under way, which may have arrived without an answer, and the document after it. */
  sent: { batch: Batch; document: UmboDocument } | null;
  /** Changes made since, and the document after them. */
  changes: Change[];
  document: UmboDocument;
}

export const isEmptyOutbox = ({ sent, changes }: Outbox): boolean => sent === null && changes.length === 0;

export interface Shelf {
  store: (outbox: Outbox) => void;
  /** What a window that is gone left behind for this photograph; taken by one window only. */
  orphan: () => Promise<Outbox | null>;
  close: () => void;
}

/** The place of one window's outbox. A lock that ends with the window tells the others whether its owner lives. */
export function openShelf(photographId: number): Shelf {
  const prefix = `umbo-outbox-${photographId}-`;
  const name = prefix + crypto.randomUUID();
  let release: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  void navigator.locks.request(name, () => held);
  return {
    store: (outbox) => void (isEmptyOutbox(outbox) ? del(name) : set(name, outbox)).catch(() => undefined),
    async orphan() {
      for (const key of (await keys<string>()).filter((candidate) => candidate.startsWith(prefix) && candidate !== name)) {
        const found = await navigator.locks.request(key, { ifAvailable: true }, async (lock) => {
          if (!lock) return null;
          const outbox = await get<Outbox>(key);
          if (outbox) await set(name, outbox);
          await del(key);
          return outbox ?? null;
        });
        if (found) return found;
      }
      return null;
    },
    close: () => release(),
  };
}
