import { clamp } from '../base/number.ts';
import type { AnySettings } from '../base/kind.ts';
import type { ColourSpace } from '../base/space.ts';
import type { Colour } from '../colour/colour.ts';
import type { Scale } from '../base/geometry.ts';
import type { Adjustment } from './adjustment.ts';
import { blackWhite } from './blackWhite.ts';
import { brightnessContrast } from './brightnessContrast.ts';
import { colourBalance } from './colourBalance.ts';
import { colourFamilies } from './colourFamilies.ts';
import { colourSwap } from './colourSwap.ts';
import { curves } from './curves.ts';
import { lineDrawing } from './effects/lineDrawing.ts';
import { painted } from './effects/painted.ts';
import { paperTexture } from './effects/paperTexture.ts';
import { printScreen } from './effects/printScreen.ts';
import { evenness } from './evenness.ts';
import { evenRamp } from './evenRamp.ts';
import { exposure } from './exposure.ts';
import { gaussianBlur } from './gaussianBlur.ts';
import { glow } from './glow.ts';
import { gradientMap } from './gradientMap.ts';
import { grain } from './grain.ts';
import { haze } from './haze.ts';
import { highPass } from './highPass.ts';
import { hueSaturation } from './hueSaturation.ts';
import { invert } from './invert.ts';
import { levels } from './levels.ts';
import { localContrast } from './localContrast.ts';
import { lut3d } from './lut3d.ts';
import { noiseReduction } from './noiseReduction.ts';
import { posterise } from './posterise.ts';
import { splitToning } from './splitToning.ts';
import { threeWayTint } from './threeWayTint.ts';
import { threshold } from './threshold.ts';
import { tone } from './tone.ts';
import { unsharp } from './unsharp.ts';
import { vibrance } from './vibrance.ts';
import { vignette } from './vignette.ts';
import { whiteBalance } from './whiteBalance.ts';

/** Every adjustment, in the order in which it is offered. */
export const adjustments = [
  hueSaturation,
  colourFamilies,
  whiteBalance,
  colourBalance,
  vibrance,
  colourSwap,
  curves,
  levels,
  exposure,
  tone,
  brightnessContrast,
  posterise,
  threshold,
  invert,
  blackWhite,
  gradientMap,
  evenRamp,
  splitToning,
  threeWayTint,
  lut3d,
  localContrast,
  evenness,
  haze,
  noiseReduction,
  unsharp,
  highPass,
  gaussianBlur,
  glow,
  vignette,
  grain,
  painted,
  lineDrawing,
  printScreen,
  paperTexture,
] as const;

type ContentOf<A> = A extends Adjustment<infer K, infer S> ? { kind: K; settings: S } : never;
/** What an adjustment layer does: one kind and its settings. */
export type AdjustmentContent = ContentOf<(typeof adjustments)[number]>;
/** The settings of one kind of adjustment. */
export type SettingsOf<K extends AdjustmentContent['kind']> = Extract<AdjustmentContent, { kind: K }>['settings'];

/** An adjustment of whatever kind, for those who pass its settings on without looking into them. */
export type AnyAdjustment = Adjustment<string, AnySettings>;

const byKind = new Map<string, AnyAdjustment>(adjustments.map((one) => [one.kind, one as unknown as AnyAdjustment]));

/**
 * @throws RangeError for a kind that is not registered
 * @example
 * adjustment('exposure').controls.map(({ label }) => label); // → ['Exposure', 'Offset']
 */
export function adjustment(kind: AdjustmentContent['kind']): AnyAdjustment {
  const found = byKind.get(kind);
  if (!found) throw new RangeError(`There is no adjustment "${kind}"`);
  return found;
}

/** How many pixels around a pixel an adjustment looks at; 0: none, it changes each by itself. */
export function reachOfFilter({ kind, settings }: AdjustmentContent, scale: Scale): number {
  const { filter, isNeutral } = adjustment(kind);
  return filter && !isNeutral(settings) ? filter.reach(settings, scale) : 0;
}

/**
 * What an adjustment that changes each pixel by itself makes of a colour.
 * @returns the colour as it comes out, held to 0..1; itself for a filter
 * @example
 * adjusted({ kind: 'invert', settings: {} }, [1, 0, 0.25], srgb); // → [0, 1, 0.75]
 */
export function adjusted({ kind, settings }: AdjustmentContent, [r, g, b]: Colour, space: ColourSpace): Colour {
  const one = { width: 1, height: 1 };
  const pixel = { r: Float32Array.of(r), g: Float32Array.of(g), b: Float32Array.of(b) };
  adjustment(kind).apply?.(settings, pixel, 1, { scale: { picture: one, full: one }, space, tile: { x: 0, y: 0, ...one } });
  return [pixel.r, pixel.g, pixel.b].map((plane) => clamp(plane[0]!, 0, 1)) as unknown as Colour;
}
