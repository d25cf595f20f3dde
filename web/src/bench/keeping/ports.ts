import type { Accepted, Base, Batch, SinceState } from '@umbo/data';
import type { Shelf } from './shelf';

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
