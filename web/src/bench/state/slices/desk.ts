import type { DeskSlice } from '../benchState';
import type { Bench } from './slice';

export const deskSlice = ({ get, set }: Bench): DeskSlice => ({
  panels: { side: false, desk: false, cards: false },
  folds: {},
  dismissed: [],
  fold: (panels) => set({ panels: { ...get().panels, ...panels } }),
  foldSection: (kind, section, folded) => set({ folds: { ...get().folds, [`${kind} ${section}`]: folded } }),
});
