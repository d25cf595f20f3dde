/** A made-up device that measures colours: it knows the vessels of the demo, and writes what it measures as such devices do. */
import { writeCgats } from '@umbo/core/format';

export const DEVICE = 'Simulated device';

/** CIELAB D50 of glazes that nobody has. */
const GLAZES = [
  ['Celadon', 68, -14, 9],
  ['Cobalt', 34, 8, -38],
  ['Ochre', 62, 12, 44],
  ['Ox blood', 32, 36, 19],
  ['Rice white', 91, 0.5, 5],
] as const;
/** Standard deviation of one measurement. */
const NOISE = 0.15;

/** A normal deviate, by G. E. P. Box and M. E. Muller (1958). */
const deviate = (): number => Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random());

/** One measurement of each, as CGATS.17 text. */
export const measuredText = (): string =>
  writeCgats(
    GLAZES.map(([name, ...lab]) => {
      const [l, a, b] = lab.map((v) => v + deviate() * NOISE) as [number, number, number];
      return { name, lab: { l, a, b } };
    }),
    DEVICE,
    new Date().toISOString(),
  );
