export {
  cropOf,
  framingAt,
  framingOf,
  outlineOnPlane,
  pixelsInPicture,
  placesInPicture,
  sizeAt,
  toPlane,
  type FramingAt,
} from './framing.ts';
export * from './geometry.ts';
export { cropWithin, isWithin, largestCrop } from './largestCrop.ts';
export { isAffine, photographArea, pictureSamples, warpPixels } from './warp.ts';
export { levelledBy, uprightFrom, type Place } from './upright.ts';
