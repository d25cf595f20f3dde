import type { ColourSpace } from '../base/space.ts';
import type { Colour } from '../colour/colour.ts';
import { rgbToLab } from '../colour/lab.ts';

/** L* from which a colour is a highlight, and up to which it is a deep shadow; common practice, no source. */
const HIGHLIGHT = 88;
const DEEP_SHADOW = 18;

/** Whether a colour (encoded, 0..1) says little about the thing it was taken from: light and shade have eaten its chroma. */
export function toneOf(space: ColourSpace, [r, g, b]: Colour): 'highlight' | 'middle tone' | 'deep shadow' {
  const { l } = rgbToLab(space, r, g, b);
  return l >= HIGHLIGHT ? 'highlight' : l <= DEEP_SHADOW ? 'deep shadow' : 'middle tone';
}
