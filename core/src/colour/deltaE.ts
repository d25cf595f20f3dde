import type { Lab } from './lab.ts';

const DEG = Math.PI / 180;
const pow7 = (x: number): number => x * x * x * x * x * x * x;
const hueOf = (b: number, a: number): number => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) / DEG + 360) % 360);

/** A difference and what it is made of: lightness, chroma and hue, each as it counts, above 0 where the second colour has more. */
export interface Difference {
  readonly total: number;
  readonly l: number;
  readonly c: number;
  /** Above 0 where the second colour's hue angle is larger. */
  readonly h: number;
}

/**
 * CIEDE2000 colour difference with kL = kC = kH = 1, and its three terms.
 * Source: Sharma, Wu, Dalal, "The CIEDE2000 color-difference formula" (Color Research & Application 30, 2005).
 * @example
 * difference2000({ l: 50, a: 2.6772, b: -79.7751 }, { l: 50, a: 0, b: -82.7485 }).total.toFixed(4); // → '2.0425'
 */
export function difference2000(x: Lab, y: Lab): Difference {
  const meanC = (Math.hypot(x.a, x.b) + Math.hypot(y.a, y.b)) / 2;
  const g = 0.5 * (1 - Math.sqrt(pow7(meanC) / (pow7(meanC) + pow7(25))));
  const a1 = x.a * (1 + g);
  const a2 = y.a * (1 + g);
  const c1 = Math.hypot(a1, x.b);
  const c2 = Math.hypot(a2, y.b);
  const h1 = hueOf(x.b, a1);
  const h2 = hueOf(y.b, a2);

  const dL = y.l - x.l;
  const dC = c2 - c1;
  let dh = 0;
  if (c1 * c2 !== 0) {
    dh = h2 - h1;
    if (dh > 180) dh -= 360;
    else if (dh < -180) dh += 360;
  }
  const dH = 2 * Math.sqrt(c1 * c2) * Math.sin((dh / 2) * DEG);

  const L = (x.l + y.l) / 2;
  const C = (c1 + c2) / 2;
  let h = h1 + h2;
  if (c1 * c2 !== 0) {
    if (Math.abs(h1 - h2) <= 180) h /= 2;
    else h = h < 360 ? (h + 360) / 2 : (h - 360) / 2;
  }
  const t =
    1 -
    0.17 * Math.cos((h - 30) * DEG) +
    0.24 * Math.cos(2 * h * DEG) +
    0.32 * Math.cos((3 * h + 6) * DEG) -
    0.2 * Math.cos((4 * h - 63) * DEG);
  const turn = 30 * Math.exp(-(((h - 275) / 25) ** 2));
  const rc = 2 * Math.sqrt(pow7(C) / (pow7(C) + pow7(25)));
  const sl = 1 + (0.015 * (L - 50) ** 2) / Math.sqrt(20 + (L - 50) ** 2);
  const sc = 1 + 0.045 * C;
  const sh = 1 + 0.015 * C * t;
  const rt = -Math.sin(2 * turn * DEG) * rc;
  const parts = { l: dL / sl, c: dC / sc, h: dH / sh };
  return { ...parts, total: Math.sqrt(Math.max(0, parts.l ** 2 + parts.c ** 2 + parts.h ** 2 + rt * parts.c * parts.h)) };
}

/** The CIEDE2000 colour difference alone, see {@link difference2000}. */
export const deltaE2000 = (x: Lab, y: Lab): number => difference2000(x, y).total;
