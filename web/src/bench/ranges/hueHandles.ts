import { clamp } from '@umbo/core/base';
import { wrapHue } from '@umbo/core/colour';
import type { HueRangePart } from '@umbo/core/mask';

/** The four handles of a hue range. */
export type HueHandle = 'outer start' | 'inner start' | 'inner end' | 'outer end';
export type Range = Pick<HueRangePart, 'from' | 'fadeIn' | 'span' | 'fadeOut'>;

/** Moves one handle to a hue; the others stay where they are, and none can pass another. */
export function moveHueHandle({ from, fadeIn, span, fadeOut }: Range, handle: HueHandle, hue: number): Range {
  const total = fadeIn + span + fadeOut;
  // The hue as a distance from `from`, taken on the side that is nearer to where the handle is.
  const near = (at: number): number => at + ((wrapHue(hue - from - at) + 180) % 360) - 180;
  if (handle === 'outer start') {
    const d = clamp(near(0), total - 360, fadeIn);
    return { from: wrapHue(from + d), fadeIn: fadeIn - d, span, fadeOut };
  }
  if (handle === 'inner start') {
    const d = clamp(near(fadeIn), 0, fadeIn + span);
    return { from, fadeIn: d, span: fadeIn + span - d, fadeOut };
  }
  if (handle === 'inner end') {
    const d = clamp(near(fadeIn + span), fadeIn, total);
    return { from, fadeIn, span: d - fadeIn, fadeOut: total - d };
  }
  const d = clamp(near(total), fadeIn + span, 360);
  return { from, fadeIn, span, fadeOut: d - fadeIn - span };
}
