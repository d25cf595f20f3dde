/** Hue families: what people call reds, greens, blues, as soft ranges that share the hue circle among them. */
import { wrapHue, type HueSpan } from './hueSpan.ts';

export interface HueFamily<I extends string = string> {
  readonly id: I;
  readonly name: string;
}

export type SixId = 'red' | 'yellow' | 'green' | 'cyan' | 'blue' | 'magenta';
export const SIX_FAMILIES: readonly HueFamily<SixId>[] = [
  { id: 'red', name: 'Reds' },
  { id: 'yellow', name: 'Yellows' },
  { id: 'green', name: 'Greens' },
  { id: 'cyan', name: 'Cyans' },
  { id: 'blue', name: 'Blues' },
  { id: 'magenta', name: 'Magentas' },
];

/** Their ids, in the same order. */
export const SIX_IDS = SIX_FAMILIES.map(({ id }) => id);

export type EightId = SixId | 'orange' | 'violet';
export const EIGHT_FAMILIES: readonly HueFamily<EightId>[] = [
  { id: 'red', name: 'Reds' },
  { id: 'orange', name: 'Oranges' },
  { id: 'yellow', name: 'Yellows' },
  { id: 'green', name: 'Greens' },
  { id: 'cyan', name: 'Cyans' },
  { id: 'blue', name: 'Blues' },
  { id: 'violet', name: 'Violets' },
  { id: 'magenta', name: 'Magentas' },
];

/** The hues of the families' purest sRGB colours, in degrees: those of HSL, and of the same colours in OKLCh. */
export const FAMILY_HUES = {
  hsl: { red: 0, orange: 30, yellow: 60, green: 120, cyan: 180, blue: 240, violet: 270, magenta: 300 },
  oklch: { red: 29.2, orange: 56.5, yellow: 109.8, green: 142.5, cyan: 194.8, blue: 264.1, violet: 294.6, magenta: 328.4 },
} as const satisfies Record<string, Record<EightId, number>>;

/**
 * The soft range of one of several families: full about its own hue, fading into its neighbours so that at every hue the shares of all
 * families add up to 1.
 */
export function familySpan(families: readonly HueFamily[], hues: Readonly<Record<string, number>>, id: string): HueSpan {
  const at = families.findIndex((family) => family.id === id);
  const hueOf = (i: number): number => hues[families[(i + families.length) % families.length]!.id]!;
  const before = wrapHue(hueOf(at) - hueOf(at - 1));
  const after = wrapHue(hueOf(at + 1) - hueOf(at));
  return { from: wrapHue(hueOf(at) - before * 0.75), fadeIn: before / 2, span: (before + after) / 4, fadeOut: after / 2 };
}
