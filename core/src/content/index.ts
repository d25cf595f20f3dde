export { isSource, showsOwn, sourceKind, sources, type SourceContent } from './registry.ts';
export type { Source } from './source.ts';
export type { ChannelSettings } from './sources/channel.ts';
export { type FillSettings } from './sources/fill.ts';
export type { FrameSettings } from './sources/frame.ts';
export { MOST_FRAMES, type JoinedSettings } from './sources/joined.ts';
export type { LaidPhotograph } from './laid.ts';
export { coloursOf, swapColour, type ColouredStroke, type PaintSettings } from './sources/paint.ts';
