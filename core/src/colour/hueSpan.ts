/** Soft ranges on the hue circle. */

/** In degrees: where a range begins, and over how much it rises to full, stays full, and falls again. */
export interface HueSpan {
  from: number;
  fadeIn: number;
  span: number;
  fadeOut: number;
}

/** An angle in 0..360 degrees. */
export const wrapHue = (degrees: number): number => ((degrees % 360) + 360) % 360;

/** How far a hue (degrees) is in a range, 0..1: a trapezoid on the hue circle. */
export function hueMembership({ from, fadeIn, span, fadeOut }: HueSpan, hue: number): number {
  if (fadeIn + span + fadeOut >= 360 && span >= 360) return 1;
  const d = wrapHue(hue - from);
  if (d < fadeIn) return d / fadeIn;
  if (d <= fadeIn + span) return 1;
  return d < fadeIn + span + fadeOut ? (fadeIn + span + fadeOut - d) / fadeOut : 0;
}
