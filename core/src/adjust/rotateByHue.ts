/** Changes that are another one for every hue. */
import type { ColourSpace } from '../base/space.ts';
import { clamp } from '../base/number.ts';
import { HUE_INDEX_STEPS, hueIndex, hueOfIndex } from '../colour/hueIndex.ts';
import { fromOklab, toOklab } from '../colour/oklabPlanes.ts';
import { acceleration, type HueTables } from '../base/acceleration.ts';
import type { Planes } from '../base/planes.ts';
import { RADIANS } from './range.ts';

/** What happens to a hue: a turn in degrees, saturation and lightness in percent. */
export interface HueChange {
  readonly hue: number;
  readonly saturation: number;
  readonly lightness: number;
}

/** @param changeAt the change for a hue in OKLCh degrees, which are the same ones each time: in this place of their order */
export function hueTables(changeAt: (hue: number, place: number) => HueChange): HueTables {
  const [ca, cb, lift] = [0, 1, 2].map(() => new Float32Array(HUE_INDEX_STEPS + 1)) as [Float32Array, Float32Array, Float32Array];
  for (let i = 0; i <= HUE_INDEX_STEPS; i++) {
    const { hue, saturation, lightness } = changeAt(hueOfIndex(i % HUE_INDEX_STEPS), i);
    const gain = Math.max(0, 1 + saturation / 100);
    ca[i] = Math.cos(hue * RADIANS) * gain;
    cb[i] = Math.sin(hue * RADIANS) * gain;
    lift[i] = clamp(lightness / 100, -1, 1);
  }
  return { ca, cb, lift };
}

/** OKLCh chroma from which a hue counts fully for lightness: the hue of a grey is chance. */
const CERTAIN = 0.05;

/** Changes the first `n` pixels (encoded RGB) by their own hue, in place. */
export function rotateByHue(space: ColourSpace, pixels: Planes, n: number, tables: HueTables): void {
  if (acceleration) acceleration.rotateHues(space, pixels, n, tables, 1 / CERTAIN);
  else rotateHues(space, pixels, n, tables);
}

/** The definition of {@link Acceleration.rotateHues}. */
export function rotateHues(space: ColourSpace, pixels: Planes, n: number, { ca, cb, lift }: HueTables): void {
  toOklab(space, pixels, n);
  const { r, g, b } = pixels;
  for (let i = 0; i < n; i++) {
    const x = g[i]!;
    const y = b[i]!;
    const k = hueIndex(x, y) | 0;
    let amount = lift[k]!;
    let keep = 1;
    if (amount !== 0) {
      const chroma = Math.sqrt(x * x + y * y);
      if (chroma < CERTAIN) amount *= chroma / CERTAIN;
      keep = amount > 0 ? 1 - amount : 1 + amount;
      r[i] = amount > 0 ? r[i]! * keep + amount : r[i]! * keep;
    }
    g[i] = (x * ca[k]! - y * cb[k]!) * keep;
    b[i] = (x * cb[k]! + y * ca[k]!) * keep;
  }
  fromOklab(space, pixels, n);
}
