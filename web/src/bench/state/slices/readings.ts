import type { ReadingSlice } from '../benchState';
import type { Bench } from './slice';

export const readingSlice = ({ get, set }: Bench): ReadingSlice => ({
  readings: new Map(),
  readingId: null,
  litReading: null,
  notation: 'rgb',
  readsBelow: false,
  spotSide: 5,
  colourList: [],
  solving: null,
  openReading: (readingId) => set({ readingId }),
  lightReading(litReading) {
    if (litReading !== get().litReading) set({ litReading });
  },
});
