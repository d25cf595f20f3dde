/**
 * Keeps the edit: does what the state machine of keeping (`keepState.ts`) says, and tells it what came of that. Nothing is ever let go of
 * before it stands somewhere else: on the server, in another batch, or with what was set aside.
 */
import type { Side, UmboDocument } from '@umbo/core/document';
import type { Batch, DocumentState } from '@umbo/data';
import {
  advance,
  beginKeeping,
  isIdle,
  type Conflict,
  type Effect,
  type Followed,
  type KeepEvent,
  type KeepStatus,
  type Refusal,
} from './keepState';
import { batchOf, isEmptyOutbox, type Step } from './outbox';
import type { SetAside } from './setAside';
import type { KeeperPorts } from './ports';
import { createVisits } from './visits';

export type { Conflict, Followed, KeepStatus, Refusal } from './keepState';

export interface KeeperEvents {
  status: (status: KeepStatus) => void;
  follow: (followed: Followed) => void;
  /** A question to decide; null: it is answered. */
  conflict: (conflict: Conflict | null) => void;
  /** All that is set aside in this browser. */
  aside: (changes: readonly SetAside[]) => void;
}

export interface Keeper {
  /** Takes a change; `document` is the edit after it. */
  push: (step: Step, document: UmboDocument) => void;
  /** Resolves when everything is on the server. @throws Error when it cannot be kept */
  whenKept: () => Promise<void>;
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

/** Those who wait until everything is kept. */
function createWaiters() {
  const waiters: { resolve: () => void; reject: (error: Error) => void }[] = [];
  return {
    wait: (): Promise<void> => new Promise((resolve, reject) => void waiters.push({ resolve, reject })),
    /** @param error why it cannot be kept; left out: it is */
    end(error: Error | undefined): void {
      for (const { resolve, reject } of waiters.splice(0)) {
        if (error) reject(error);
        else resolve();
      }
    },
  };
}

export function createKeeper(initial: DocumentState, events: KeeperEvents, ports: KeeperPorts): Keeper {
  const { shelf, newId } = ports;
  let state = beginKeeping(ports.database, initial, newId());
  let callOff: () => void = () => undefined;
  const waiters = createWaiters();

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
        return void (callOff = ports.after(effect.ms, () => happen({ type: 'send' })));
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
        return waiters.end(effect.error);
      case 'release':
        return visitors.release(effect.name);
    }
  }

  /** Asks for what is newer on the server, while nothing is under way here. */
  async function catchUp(why: 'newer' | 'restored' = 'newer'): Promise<void> {
    if (!isIdle(state)) return;
    const { base, baseBatch } = state.outbox;
    const found = await ports.read({ base, after: baseBatch });
    happen({ type: 'newer', state: found, base, why });
  }

  const visitors = createVisits({ ports, happen, now: () => state, catchUp: () => catchUp('restored') });
  void tellAsides();

  return {
    push: (step, document) => happen({ type: 'push', step, document }),
    whenKept() {
      if (isIdle(state) && !state.isRecovering) return Promise.resolve();
      if (state.stopped || state.isClosed) return Promise.reject(new Error('The changes are not kept yet; see the message at the bottom.'));
      const kept = waiters.wait();
      happen({ type: 'send' });
      return kept;
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
      visitors.close();
      shelf.close();
    },
  };
}
