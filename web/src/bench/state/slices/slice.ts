import type { BenchState } from '../benchState';
import type { Engine } from '../engine';
import type { Keeper } from '../../keeping/keeper';

/** What a slice is made with: the state as a whole, and what is attached to it while the bench is on a page. */
export interface Bench {
  readonly get: () => BenchState;
  readonly set: (values: Partial<BenchState>) => void;
  /** Asks the server for something. @throws Error with a sentence */
  readonly read: <T>(address: string) => Promise<T>;
  readonly newId: () => string;
  engine: Engine | null;
  keeper: Keeper | null;
  /** What is on its way to the server beside the edit. */
  readonly storing: Set<Promise<unknown>>;
}
