/** Visits what windows that are gone left behind in this browser, one after another, and has it taken over. */
import { isIdle, RETRY_MS, type KeepEvent, type KeepState, type Refusal } from './keepState';
import { acknowledged, batchOf, isEmptyOutbox, restored, unsent, type StoredOutbox } from './outbox';
import type { KeeperPorts } from './ports';

interface Visits {
  /** Ends the visit to what a window left. */
  release: (name: string) => void;
  close: () => void;
}

interface Keeping {
  ports: KeeperPorts;
  happen: (event: KeepEvent) => void;
  now: () => KeepState;
  /** Asks for what is newer on the server. */
  catchUp: () => Promise<void>;
}

/** Looks for what was left at once, and again later where that fails. */
export function createVisits({ ports, happen, now, catchUp }: Keeping): Visits {
  const { shelf } = ports;
  /** What ends a visit, by the name of the window. */
  const releases = new Map<string, () => void>();

  /** Takes over what a window that is gone left behind. */
  async function visit(name: string, stored: StoredOutbox): Promise<void> {
    happen({ type: 'recovering' });
    let left = restored(stored, ports.newId());
    if (left.base === now().outbox.base && isIdle(now()) && !isEmptyOutbox(left)) return happen({ type: 'take over', name, left });
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
    if (left.base > now().outbox.base) await catchUp();
    if (isEmptyOutbox(left)) return shelf.rewrite(name, null);
    if (now().isClosed) return;
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
        if (now().isClosed) return;
        happen({ type: 'unrecovered' });
        ports.after(RETRY_MS.at(-1)!, lookForOrphans);
      },
    );
  lookForOrphans();

  return {
    release(name) {
      releases.get(name)?.();
      releases.delete(name);
    },
    close() {
      for (const done of releases.values()) done();
    },
  };
}
