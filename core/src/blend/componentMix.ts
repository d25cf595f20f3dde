import type { ColourSpace } from '../base/space.ts';
import { oklabToRgb, rgbToOklab } from '../colour/oklab.ts';
import type { Planes } from '../base/planes.ts';

/** How much of a layer's change in lightness, hue and chroma passes, 0..1 each. */
export interface ComponentMix {
  lightness: number;
  hue: number;
  chroma: number;
}

/** Chroma (OKLCh) below which a colour counts as having no hue. */
const HUELESS = 1e-4;

export const passesAll = (pass: ComponentMix | undefined): boolean =>
  !pass || (pass.lightness === 1 && pass.hue === 1 && pass.chroma === 1);
export const passesNothing = (pass: ComponentMix | undefined): boolean =>
  pass !== undefined && pass.lightness === 0 && pass.hue === 0 && pass.chroma === 0;

/**
 * Lets only some of a change through: replaces the first `n` pixels of `changed` by a colour between `backdrop` and `changed` whose
 * OKLCh lightness, hue and chroma have each gone their own share of the way. The hue takes the shorter way round; where one
 * of the two colours has none, it is the other's (as CSS Color 4, section 12.2 treats powerless hues).
 */
export function componentMix(
  space: ColourSpace,
  backdrop: Planes,
  changed: Planes,
  n: number,
  { lightness, hue, chroma }: ComponentMix,
): void {
  const p = new Float64Array(3);
  const q = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    rgbToOklab(space, backdrop.r[i]!, backdrop.g[i]!, backdrop.b[i]!, p);
    rgbToOklab(space, changed.r[i]!, changed.g[i]!, changed.b[i]!, q);
    const cp = Math.sqrt(p[1]! * p[1]! + p[2]! * p[2]!);
    const cq = Math.sqrt(q[1]! * q[1]! + q[2]! * q[2]!);
    let a = p[1]!;
    let b = p[2]!;
    if (cp < HUELESS) {
      a = q[1]!;
      b = q[2]!;
    } else if (cq >= HUELESS) {
      a = (p[1]! / cp) * (1 - hue) + (q[1]! / cq) * hue;
      b = (p[2]! / cp) * (1 - hue) + (q[2]! / cq) * hue;
    }
    const size = Math.sqrt(a * a + b * b);
    const c = size > 0 ? (cp + (cq - cp) * chroma) / size : 0;
    oklabToRgb(space, p[0]! + (q[0]! - p[0]!) * lightness, a * c, b * c, p);
    changed.r[i] = p[0]!;
    changed.g[i] = p[1]!;
    changed.b[i] = p[2]!;
  }
}
