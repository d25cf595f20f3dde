import { FAMILY_HUES } from '@umbo/core/colour';

/** Shares below this are not told. */
const TOLD = 0.03;

/** Which families of hues there are most of, such as "red 31, orange 22": percent of all colour that there is. */
export function hueWords(census: Float32Array): string {
  const all = census.reduce((sum, v) => sum + v, 0);
  if (all === 0) return 'no colour';
  const centres = Object.entries(FAMILY_HUES.oklch).map(([name, hue]) => ({ name, hue, amount: 0 }));
  census.forEach((amount, i) => {
    const at = ((i + 0.5) * 360) / census.length;
    const away = (hue: number): number => Math.abs(((at - hue + 540) % 360) - 180);
    centres.reduce((near, one) => (away(one.hue) < away(near.hue) ? one : near)).amount += amount;
  });
  return centres
    .filter(({ amount }) => amount / all > TOLD)
    .sort((a, b) => b.amount - a.amount)
    .slice(0, 3)
    .map(({ name, amount }) => `${name} ${Math.round((100 * amount) / all)}`)
    .join(' · ');
}
