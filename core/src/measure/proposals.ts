/** What a pale picture, such as a faded print, asks for: each by itself and with its number, to be taken or left. */
import { levels, levelOf } from '../adjust/levels.ts';
import type { SettingsOf } from '../adjust/registry.ts';
import { rounded } from '../base/dial.ts';
import type { Raster } from '../base/planes.ts';
import { lumOf } from '../colour/luminosity.ts';
import { spaceOf } from '../colour/spaces.ts';
import { adjustmentLayer, sourceLayer } from '../document/defaults.ts';
import { correctionOf } from './firstCorrection.ts';
import type { Measurement } from './measurement.ts';

export type Proposal =
  | { readonly id: 'ends'; readonly words: string; readonly settings: SettingsOf<'levels'> }
  | { readonly id: 'middle'; readonly words: string; readonly middle: number }
  | { readonly id: 'contrast'; readonly words: string; readonly settings: SettingsOf<'curves'> }
  | { readonly id: 'multiply'; readonly words: string; readonly times: number; readonly opacity: number };

/** Luminosity at which half of a picture's pixels are darker; common practice, no source. */
const MIDDLE = 0.46;
/** A middle that is moved by less than this, as the binary logarithm of its exponent, is left. */
const SLIGHT = 0.2;
/** The tone than which the darkest fiftieth of a print is to be darker, and how multiplying is tried. */
const DARKS = 0.15;
const DARKEST = 0.02;
const NEAR = 0.02;
const WAYS = [1, 2, 3, 4].flatMap((times) => [0.25, 0.5, 0.75, 1].map((opacity) => ({ times, opacity })));

/** How far a tone is from the darks when it has been multiplied with itself so often. */
const missed = (tone: number, { times, opacity }: { times: number; opacity: number }): number =>
  Math.abs(tone * (1 - opacity) + opacity * tone ** (times + 1) - DARKS);

/** The luminosity than which a share of the pixels is darker. */
function toneAt({ r, g, b }: Raster, share: number, through: (v: number, channel: 'r' | 'g' | 'b') => number): number {
  const counts = new Uint32Array(256);
  const table = (['r', 'g', 'b'] as const).map((channel) => Float64Array.from({ length: 256 }, (_, v) => through(v / 255, channel)));
  for (let i = 0; i < r.length; i++)
    counts[Math.round(lumOf(table[0]![r[i]! >> 8]!, table[1]![g[i]! >> 8]!, table[2]![b[i]! >> 8]!) * 255)]!++;
  let seen = 0;
  return counts.findIndex((count) => (seen += count) >= share * r.length) / 255;
}

/**
 * Ends, middle and contrast as levels and a curve have them, and how often the picture is to be multiplied with itself. The middle is that
 * of the picture with its ends set. What would hardly be seen is not proposed.
 */
export const proposals: Measurement<'proposals', object, Proposal[]> = {
  kind: 'proposals',
  needs: 'picture',
  measure(_settings, { picture, scale }) {
    const { levels: ends, curves } = correctionOf(spaceOf(scale), picture);
    const found: Proposal[] = [];
    const spans = (['r', 'g', 'b'] as const).map((channel) => ends[channel]);
    if (spans.some(({ black, white }) => black > 2 || white < 253)) {
      const alike = spans.every(({ black, white }) => black === spans[0]!.black && white === spans[0]!.white);
      const said = alike ? spans.slice(0, 1) : spans;
      const words = said.map(({ black, white }, i) => `${alike ? '' : `${['red', 'green', 'blue'][i]!} `}${black} to ${white}`).join(', ');
      found.push({ id: 'ends', words: `Ends: ${words}`, settings: ends });
    }
    const median = toneAt(picture, 0.5, (v, channel) => levelOf(ends[channel], v));
    const middle = rounded(Math.min(2.5, Math.max(0.4, Math.log(median) / Math.log(MIDDLE))), 0.01);
    if (Math.abs(Math.log2(middle)) >= SLIGHT) found.push({ id: 'middle', words: `Middle: ${middle.toFixed(2)}`, middle });
    const s = curves.rgb.length > 2 ? curves.rgb[1]![0] - curves.rgb[1]![1] : 0;
    if (s > 0) found.push({ id: 'contrast', words: `Contrast: ${(s * 100).toFixed(1)} % darker and lighter`, settings: curves });
    const dark = toneAt(picture, DARKEST, (v) => v);
    if (dark > DARKS && dark < 1) {
      // As seldom as comes near enough.
      const nearest = WAYS.reduce((one, other) => (missed(dark, other) < missed(dark, one) ? other : one));
      const best = WAYS.find((way) => missed(dark, way) < NEAR) ?? nearest;
      const often = best.times === 1 ? 'once' : `${best.times} times`;
      found.push({ id: 'multiply', words: `Multiply: ${often} at ${Math.round(best.opacity * 100)} %`, ...best });
    }
    return found;
  },
  layers: (found, newId) =>
    found.map((proposal) => {
      const [name] = proposal.words.split(':') as [string];
      switch (proposal.id) {
        case 'ends': {
          const layer = adjustmentLayer(newId(), 'levels', name);
          Object.assign(layer.what.settings, proposal.settings);
          return layer;
        }
        case 'middle': {
          const layer = adjustmentLayer(newId(), 'levels', name);
          Object.assign(layer.what.settings, {
            ...structuredClone(levels.defaults),
            rgb: { ...levels.defaults.rgb, middle: proposal.middle },
          });
          return layer;
        }
        case 'contrast': {
          const layer = adjustmentLayer(newId(), 'curves', name);
          Object.assign(layer.what.settings, proposal.settings);
          return layer;
        }
        case 'multiply': {
          const layer = sourceLayer(newId(), 'self', name, { width: 1, height: 1 });
          Object.assign(layer.what.settings, { times: proposal.times });
          layer.how.opacity = proposal.opacity;
          return layer;
        }
      }
    }),
};
