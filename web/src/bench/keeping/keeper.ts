/**
 * Keeps the edit: does what the state machine of keeping (`keepState.ts`) says, and tells it what came of that. Nothing is ever let go of
 * before it stands somewhere else: on the server, in another batch, or with what was set aside.
 */
import type { Side, UmboDocument } from '@umbo/core/document';
import type { Accepted, Base, Batch, DocumentState, SinceState } from '@umbo/data';
import {
  advance,
  beginKeeping,
  isIdle,
  RETRY_MS,
  type Conflict,
  type Effect,
  type Followed,
  type KeepEvent,
  type KeepStatus,
  type Refusal,
} from './keepState';
import { acknowledged, batchOf, isEmptyOutbox, restored, unsent, type Step, type StoredOutbox } from './outbox';
import type { SetAside } from './setAside';
import type { Shelf } from './shelf';

export type { Conflict, Followed, KeepStatus, Refusal } from './keepState';

export interface KeeperEvents {
  status: (status: KeepStatus) => void;
  follow: (followed: Followed) => void;
  /** A question to decide; null: it is answered. */
  conflict: (conflict: Conflict | null) => void;
  /** All that is set aside in this browser. */
  aside: (changes: readonly SetAside[]) => void;
}

/** What the keeper needs of the world. */
export interface KeeperPorts {
  /** The database's own id: nothing is ever sent to another one. */
  database: string;
  /** @throws Refusal */
  send: (batch: Batch) => Promise<Accepted>;
  /** The edit as it is, and whether the revision that this window has is none of its history. @throws Refusal */
  read: (base: Base) => Promise<SinceState>;
  /** Tells the other windows of a revision that is on the server. */
  tell: (revision: number) => void;
  shelf: Shelf;
  newId: () => string;
  /** @returns what calls it off */
  after: (ms: number, work: () => void) => () => void;
}

export interface Keeper {
  /** Takes a change; `document` is the edit after it. */
  push: (step: Step, document: UmboDocument) => void;
  /** Resolves when everything is on the server. @throws Error when it cannot be kept */
  settled: () => Promise<void>;
  /** Answers the question that was asked. */
  decide: (side: Side) => void;
  /** The revision that everything unsent begins from. */
  revision: () => number;
  /** Another window got to a revision, or may have (Infinity). */
  heard: (revision: number) => void;
  /** Lets go of a change that was set aside. */
  forget: (id: string) => Promise<void>;
  /** Whether something is not on the server yet. */
  isWaiting: () => boolean;
  /** The batch to send when the page goes away; null when there is none that is not under way already. */
  lastWord: () => Batch | null;
  close: () => void;
}

export function createKeeper(initial: DocumentState, events: KeeperEvents, ports: KeeperPorts): Keeper {
  const { shelf, newId } = ports;
  let state = beginKeeping(ports.database, initial, newId());
  let callOff: () => void = () => undefined;
  /** What ends the work on what other windows left, by their names. */
  const releases = new Map<string, () => void>();
  const waiters: { resolve: () => void; reject: (error: Error) => void }[] = [];

  const happen = (event: KeepEvent): void => {
    const [next, effects] = advance(state, event, newId);
    state = next;
    for (const effect of effects) act(effect);
  };
  const failed = (problem: Refusal): void => happen({ type: 'failed', problem });
  const tellAsides = (): Promise<void> => shelf.asides().then(events.aside, () => undefined);

  function act(effect: Effect): void {
    switch (effect.type) {
      case 'write':
        return void shelf.write(effect.outbox, effect.instead).then(
          () => happen({ type: 'written' }),
          (error: Error) => happen({ type: 'unwritten', error }),
        );
      case 'send':
        return void ports
          .send(effect.batch)
          .then((accepted) => happen({ type: 'accepted', accepted }))
          .catch(failed); // also what goes wrong with the answer
      case 'read':
        return void ports
          .read(effect.base)
          .then((found) => happen({ type: 'read', state: found, for: effect.for }))
          .catch(failed);
      case 'set aside':
        return void shelf
          .setAside(effect.change)
          .then(() => happen({ type: 'set aside' }))
          .catch(failed);
      case 'later':
        callOff();
        callOff = ports.after(effect.ms, () => happen({ type: 'send' }));
        return;
      case 'call off':
        return callOff();
      case 'status':
        return events.status(effect.status);
      case 'follow':
        return events.follow(effect.followed);
      case 'conflict':
        return events.conflict(effect.conflict);
      case 'tell':
        return ports.tell(effect.revision);
      case 'tell asides':
        return void tellAsides();
      case 'settle':
        for (const { resolve, reject } of waiters.splice(0)) {
          if (effect.error) reject(effect.error);
          else resolve();
        }
        return;
      case 'release':
        releases.get(effect.name)?.();
        return void releases.delete(effect.name);
    }
  }

  /** Asks for what is newer on the server, while nothing is under way here. */
  async function catchUp(why: 'newer' | 'restored' = 'newer'): Promise<void> {
    if (!isIdle(state)) return;
    const { base, baseBatch } = state.outbox;
    const found = await ports.read({ base, after: baseBatch });
    happen({ type: 'newer', state: found, base, why });
  }

  /** Takes over what a window that is gone left behind. */
  async function visit(name: string, stored: StoredOutbox): Promise<void> {
    happen({ type: 'recovering' });
    let left = restored(stored, newId());
    if (left.base === state.outbox.base && isIdle(state) && !isEmptyOutbox(left)) return happen({ type: 'take over', name, left });
    if (left.sent) {
      // Whether it arrived only the server knows.
      try {
        const { revision } = await ports.send(batchOf(left, ports.database));
        left = acknowledged(left, revision);
      } catch (error) {
        const { status } = error as Refusal;
        if (status === 0 || status >= 500) throw error;
        left = unsent(left);
      }
      await shelf.rewrite(name, isEmptyOutbox(left) ? null : left);
    }
    if (left.base > state.outbox.base) await catchUp('restored');
    if (isEmptyOutbox(left)) return shelf.rewrite(name, null);
    if (state.isClosed) return;
    await new Promise<void>((done) => {
      releases.set(name, done);
      happen({ type: 'orphan', name, left });
    });
  }
  async function visitAll(): Promise<void> {
    for (const name of await shelf.orphans()) await shelf.withOrphan(name, (stored) => visit(name, stored));
  }
  const lookForOrphans = (): void =>
    void visitAll().then(
      () => happen({ type: 'recovered' }),
      () => {
        if (state.isClosed) return;
        happen({ type: 'unrecovered' });
        ports.after(RETRY_MS.at(-1)!, lookForOrphans);
      },
    );
  lookForOrphans();
  void tellAsides();

  return {
    push: (step, document) => happen({ type: 'push', step, document }),
    settled() {
      if (isIdle(state) && !state.isRecovering) return Promise.resolve();
      if (state.stopped || state.isClosed) return Promise.reject(new Error('The changes are not kept yet; see the message at the bottom.'));
      return new Promise((resolve, reject) => {
        waiters.push({ resolve, reject });
        happen({ type: 'send' });
      });
    },
    decide: (side) => happen({ type: 'decide', side }),
    async forget(id) {
      await shelf.forget(id);
      await tellAsides();
    },
    revision: () => state.outbox.base,
    heard: (revision) => {
      if (revision > state.outbox.base) catchUp().catch(() => undefined);
    },
    isWaiting: () => !isEmptyOutbox(state.outbox),
    lastWord() {
      if (state.isSending || state.stopped || isEmptyOutbox(state.outbox)) return null;
      happen({ type: 'seal' });
      return batchOf(state.outbox, ports.database);
    },
    close() {
      happen({ type: 'close' });
      for (const done of releases.values()) done();
      shelf.close();
    },
  };
}
