/** Gradients of colours between stops. */
import { Type, type Static } from '@sinclair/typebox';
import { colourSchema } from './colour.ts';
import type { ColourSpace } from '../base/space.ts';
import { oklabToRgb, rgbToOklab } from './oklab.ts';

export const gradientStop = Type.Object(
  {
    /** Where on the way from the gradient's beginning (0) to its end (1). */
    at: Type.Number({ minimum: 0, maximum: 1 }),
    colour: colourSchema,
    opacity: Type.Number({ minimum: 0, maximum: 1 }),
  },
  { additionalProperties: false },
);
export type GradientStop = Static<typeof gradientStop>;

/** Steps into which a gradient's length is divided. */
export const GRADIENT_STEPS = 1024;
export interface Ramp {
  r: Float32Array;
  g: Float32Array;
  b: Float32Array;
  a: Float32Array;
}

/** The colours of a gradient over its length: between stops in OKLab, with opacities premultiplied as CSS Images 4, section 3.4.2 asks. */
export function gradientRamp(space: ColourSpace, stops: readonly GradientStop[]): Ramp {
  const sorted = [...stops].sort((a, b) => a.at - b.at);
  const labs = sorted.map(({ colour }) => {
    const lab = new Float64Array(3);
    rgbToOklab(space, ...colour, lab);
    return lab;
  });
  const ramp = {
    r: new Float32Array(GRADIENT_STEPS + 1),
    g: new Float32Array(GRADIENT_STEPS + 1),
    b: new Float32Array(GRADIENT_STEPS + 1),
    a: new Float32Array(GRADIENT_STEPS + 1),
  };
  const rgb = new Float64Array(3);
  for (let i = 0, k = 0; i <= GRADIENT_STEPS; i++) {
    const t = i / GRADIENT_STEPS;
    while (k + 2 < sorted.length && t > sorted[k + 1]!.at) k++;
    const [a, b] = [sorted[k]!, sorted[k + 1]!];
    const s = b.at > a.at ? Math.max(0, Math.min(1, (t - a.at) / (b.at - a.at))) : t < a.at ? 0 : 1;
    const opacity = a.opacity + (b.opacity - a.opacity) * s;
    const w = opacity > 0 ? (b.opacity * s) / opacity : s;
    const mix = (c: number): number => labs[k]![c]! + (labs[k + 1]![c]! - labs[k]![c]!) * w;
    oklabToRgb(space, mix(0), mix(1), mix(2), rgb);
    ramp.r[i] = rgb[0]!;
    ramp.g[i] = rgb[1]!;
    ramp.b[i] = rgb[2]!;
    ramp.a[i] = opacity;
  }
  return ramp;
}
