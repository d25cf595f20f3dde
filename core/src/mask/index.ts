export { floodFill } from './flood.ts';
export { coversAll, maskChange, maskNeeds, maskReach, partNeeds, readsLayers, readsOwn, renderMask, viewOfPhotograph } from './mask.ts';
export type { Combine, MaskPartKind, Taken } from './part.ts';
export type { BracketPart } from './parts/bracket.ts';
export type { BrushPart } from './parts/brush.ts';
export type { FoundPart } from './parts/found.ts';
export type { EllipsePart } from './parts/ellipse.ts';
export type { GrownPart } from './parts/grown.ts';
export type { GradientPart } from './parts/gradient.ts';
export { coverHues, hueSpans, type HueRangePart } from './parts/hueRange.ts';
export type { LikenessPart } from './parts/likeness.ts';
export { luminosityCover, type LuminosityPart } from './parts/luminosity.ts';
export type { OutlinePart } from './parts/outline.ts';
export type { OutOfGamutPart } from './parts/outOfGamut.ts';
export type { WellExposedPart } from './parts/wellExposed.ts';
export type { PickPart } from './parts/pick.ts';
export type { PicturePart } from './parts/picture.ts';
export type { RefineKind } from './refine.ts';
export { refineKind, refineKinds, type RefineStep } from './refineRegistry.ts';
export { hasPlace, moveRegion, type RegionMove } from './region.ts';
export {
  eachMask,
  findPart,
  innerMask,
  maskPartKind,
  maskPartKinds,
  partsAt,
  partsWith,
  sampledFrom,
  type Mask,
  type MaskPart,
} from './registry.ts';
export type { Stroke } from './stroke.ts';
