/** What readings are to become, and how far from it they are. */
import { deltaE2000 } from '../colour/deltaE.ts';
import { labToLch, type Lab } from '../colour/lab.ts';
import type { Aim } from '../document/foundBy.ts';
import type { Reading } from '../document/reading.ts';

export interface Wanted {
  readonly reading: Reading;
  readonly aim: Aim;
}

/** What is the aim of another stays as it is, unless it is to become something itself. */
export function withHeld(wanted: readonly Wanted[], readings: readonly Reading[]): Wanted[] {
  const held = wanted.flatMap(({ aim }) => readings.filter(({ id }) => aim.kind === 'reading' && aim.reading === id));
  const free = [...new Set(held)].filter((reading) => !wanted.some((one) => one.reading.id === reading.id));
  return [...wanted, ...free.map((reading): Wanted => ({ reading, aim: { kind: 'hold' } }))];
}

/** What a reading is to become. @param now what all were at first */
export function aimOf({ reading, aim }: Wanted, now: ReadonlyMap<string, Lab>): Lab {
  if (aim.kind === 'colour') return aim.lab;
  const was = now.get(reading.id)!;
  if (aim.kind === 'reading') return aim.keepsLight ? { ...now.get(aim.reading)!, l: was.l } : now.get(aim.reading)!;
  return aim.kind === 'hold' ? was : { l: was.l, a: 0, b: 0 };
}

/** CIEDE2000 of what a reading is from what it is to become. */
export const distance = (wanted: Wanted, now: ReadonlyMap<string, Lab>, is: Lab): number => deltaE2000(aimOf(wanted, now), is);

/**
 * How far readings are from their aims: three numbers each, the squares of which together are about the square of CIEDE2000. About the aim
 * its terms of lightness, chroma and hue are nearly even; near grey its a* is stretched.
 */
export function residuals(wanted: readonly Wanted[], now: ReadonlyMap<string, Lab>, found: ReadonlyMap<string, Lab>): number[] {
  return wanted.flatMap((one) => {
    const is = found.get(one.reading.id)!;
    const aim = aimOf(one, now);
    const { c } = labToLch(aim);
    const stretch = 1 + 0.5 * (1 - Math.sqrt(c ** 7 / (c ** 7 + 25 ** 7)));
    const [da, db] = [(is.a - aim.a) * stretch, is.b - aim.b];
    const [cos, sin] = c > 0 ? [aim.a / c, aim.b / c] : [1, 0];
    const sl = 1 + (0.015 * (aim.l - 50) ** 2) / Math.sqrt(20 + (aim.l - 50) ** 2);
    return [(is.l - aim.l) / sl, (da * cos + db * sin) / (1 + 0.045 * c), (db * cos - da * sin) / (1 + 0.015 * c)];
  });
}
