/** What there is to say of what came along: numbers there and here, as sentences. */
import { percent } from '../base/number.ts';
import { foundIn } from '../document/found.ts';
import { toBeChecked } from '../document/checked.ts';
import { isLayer } from '../document/tree.ts';
import type { MaskOwner } from '../document/region.ts';
import type { Answered } from '../solve/findAnew.ts';

/** Less than this of a photograph is nothing. */
const NOTHING = 0.0005;
/** By so much more or less a mask is worth a look. */
const APART = 2;

/**
 * What there is to say of a mask that came along; null: nothing.
 * @param owner what it belongs to here; undefined: it is gone
 * @param of the SHA-256 of the photograph that it is on
 * @param before share of its photograph that it covered there, 0..1; null: not known. `now`: that it covers here
 */
export function maskWords(owner: MaskOwner | undefined, of: string, before: number | null, now: number): string | null {
  if (!owner) return 'is gone';
  if (now < NOTHING && (before === null || before >= NOTHING)) return 'catches nothing';
  const part = isLayer(owner) ? undefined : foundIn(owner);
  if (part && part.of !== of) return 'not found here';
  const words: string[] = [];
  if (before !== null && now > before * APART) words.push(`${(now / before).toFixed(1)} times as much`);
  if (before !== null && now < before / APART) words.push('less than half as much');
  if (toBeChecked(owner.where).length > 0) words.push('drawn: check');
  if (part && part.sure !== 'sure') words.push(part.sure);
  return words.length > 0 ? words.join(', ') : null;
}

/** What is neutral in a photograph, as white balance has it. */
export interface Light {
  readonly kelvin: number;
  readonly tint: number;
}

/** Half of the cast is what first corrections take out: so far apart, in mired and in tint, two photographs are not in the same light. */
const OTHER_LIGHT = { mired: 15, tint: 6 } as const;

/** That layers were made in other light; null when they were not. */
export function lightWords(there: Light, here: Light): string | null {
  const mired = Math.abs(1e6 / there.kelvin - 1e6 / here.kelvin);
  const tint = Math.abs(there.tint - here.tint);
  if (mired < OTHER_LIGHT.mired && tint < OTHER_LIGHT.tint) return null;
  const say = ({ kelvin, tint: t }: Light): string => `${Math.round(kelvin / 50) * 50} K, tint ${t.toFixed(0).replace('-', '−')}`;
  return `The light is another: neutral there at ${say(there)}, here at ${say(here)}.`;
}

/** So much of a picture newly clipped is worth a look; common practice, no source. */
const MORE_CLIPPED = 0.002;

/**
 * Shares of a picture's pixels, 0..1, that had drawing and have lost it: there, and here before and after what came along.
 */
export interface Clipping {
  readonly there: number;
  readonly was: number;
  readonly now: number;
}

/** That what came along clips; null when it does not. */
export function clippingWords({ there, was, now }: Clipping): string | null {
  if (now - was < MORE_CLIPPED) return null;
  return `${percent(now - was)} more of the picture is clipped; there it is ${percent(there)}.`;
}

/** CIEDE2000 by which a reading that is to stay can move without a word. */
const STAYS = 1;

/** What there is to say of settings that were found anew: what missed its target, and what moved that was to stay. */
export function answeredWords(answered: readonly Answered[]): string[] {
  return answered.flatMap(({ name, reached, problem }) => {
    if (problem !== null) return [`${name} stays as it was there: ${problem}`];
    return reached.flatMap((one) => {
      const by = one.after.toFixed(1);
      // Several may be solved for one reading, such as colourways.
      const what = answered.length > 1 ? `${name}: ${one.name}` : one.name;
      if (one.held) return one.after >= STAYS ? [`${what} was to stay, and has moved by ${by} ΔE00`] : [];
      return one.passes ? [] : [`${what} is out of reach: still ${by} ΔE00 off`];
    });
  });
}
