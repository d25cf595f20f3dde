import type { PhotographInfo, ToolSlice } from '../benchState';
import type { Bench } from './slice';

export const toolSlice = ({ get, set }: Bench, photograph: PhotographInfo): ToolSlice => ({
  tool: 'move',
  cropping: { ratio: 'free', typed: { width: 1, height: 1 }, lines: 'thirds', beyond: false, hand: 'frame' },
  sampleSize: '5',
  sample: null,
  paintColour: [0.72, 0.5, 0.42],
  brush: { alike: 0, size: Math.round(Math.max(photograph.width, photograph.height) / 16), hardness: 0.3, flow: 0.4, opacity: 1 },
  joins: null,
  modes: {},
  ownCurves: {},
  recentColours: [],
  recentKinds: [],
  pull: '',
  setBrush: (brush) => set({ brush: { ...get().brush, ...brush } }),
});
