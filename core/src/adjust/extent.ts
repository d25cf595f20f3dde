/** Lengths of what is looked at around a pixel, at the scale in work. */
import { stretchOf } from '../base/stretch.ts';
import type { Scale } from '../base/geometry.ts';

/** Pixels at the scale in work for pixels of the full photograph. */
export const scaled = (length: number, scale: Scale): number => length * stretchOf(scale).factor;

/** Pixels at the scale in work for a percentage of the photograph's longer side. */
export const ofLongSide = (percent: number, { picture }: Scale): number => (percent / 100) * Math.max(picture.width, picture.height);

/** A window's radius: whole pixels, at least 1. */
export const windowRadius = (length: number): number => Math.max(1, Math.round(length));
