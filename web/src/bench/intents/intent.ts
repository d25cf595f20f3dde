/** What a person comes for, and how it is begun: each leaves ordinary layers, and can be left at any step. */
import type { BenchState } from '../state/benchState';

export type Now = () => BenchState;

/** One thing to do on the way, said in one line on the stage. */
export interface Step {
  readonly says: string;
  /** Whether it is done: by what the bench is now, beside what it was when the intent was begun. */
  readonly isDone: (now: BenchState, began: BenchState) => boolean;
  /** What follows from it. */
  readonly after?: (now: Now, began: BenchState) => void;
  /** A colour that is typed in the line itself. @returns what is wrong with the text; null where it was taken */
  readonly typed?: (now: Now, began: BenchState, text: string) => string | null;
}

export interface Intent {
  readonly id: string;
  readonly words: string;
  readonly explains: string;
  /** Other words that people look for it by. */
  readonly alike: string;
  /** Puts tool and panels in hand. */
  readonly begin: (now: Now) => void;
  readonly steps: readonly Step[];
}

/** A last line, which stays until it is closed: what can be done now. */
export const stays = (says: string): Step => ({ says, isDone: () => false });

export function beginIntent(now: Now, { id, begin }: Intent): void {
  const began = now();
  now().set({ guide: null });
  begin(now);
  now().set({ guide: { intent: id, step: 0, began } });
}
