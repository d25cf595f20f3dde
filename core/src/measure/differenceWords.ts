/** A difference of two colours as people say it. */
import { difference2000 } from '../colour/deltaE.ts';
import { labToLch, type Lab } from '../colour/lab.ts';

/** Ways in the plane of a* and b*, by their angle. */
const WAYS = ['redder', 'more orange', 'yellower', 'more yellow-green', 'greener', 'more cyan', 'bluer', 'more violet'] as const;
/** CIE chroma under which a hue is no use to people: a difference is then one of its way alone. */
const GREYISH = 8;
/** A difference under this is not seen. */
const UNSEEN = 0.5;
/** Shares of the square of the whole: from this on a part is most of it, under that a little, and under the last it is not said. */
const [MOSTLY, LITTLE, SILENT] = [0.6, 0.2, 0.04];

/** The name of a way in the plane of a* and b*. */
const wayOf = (a: number, b: number): (typeof WAYS)[number] => WAYS[Math.round(((Math.atan2(b, a) * 180) / Math.PI + 360) / 45) % 8]!;

/**
 * What a colour is, seen from another.
 * @example
 * differenceWords({ l: 50, a: 0, b: 0 }, { l: 48.8, a: 4, b: 0.5 }); // → 'mostly redder, a little darker'
 */
export function differenceWords(from: Lab, to: Lab): string {
  const { l, c, h, total } = difference2000(from, to);
  if (total < UNSEEN) return 'the same to the eye';
  const [x, y] = [labToLch(from), labToLch(to)];
  const way = wayOf(to.a - from.a, to.b - from.b);
  const parts =
    Math.min(x.c, y.c) < GREYISH
      ? [[Math.hypot(c, h), way] as const]
      : [
          [c, c > 0 ? 'more colourful' : 'less colourful'] as const,
          // Along the circle alone: not where the chroma leads.
          [h, wayOf(to.a - (from.a * y.c) / x.c, to.b - (from.b * y.c) / x.c)] as const,
        ];
  const said = [[l, l > 0 ? 'lighter' : 'darker'] as const, ...parts].map(([part, words]) => [part * part, words] as const);
  const whole = said.reduce((sum, [share]) => sum + share, 0);
  return said
    .filter(([share]) => share >= SILENT * whole)
    .sort((p, q) => q[0] - p[0])
    .map(([share, words]) =>
      share >= MOSTLY * whole && share < whole * (1 - SILENT) ? `mostly ${words}` : share < LITTLE * whole ? `a little ${words}` : words,
    )
    .join(', ');
}
