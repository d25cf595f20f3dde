/** Pixels that had drawing and have lost it: a channel has come to an end at which it was not. */
import { clippedShares } from '../measure/clipped.ts';
import { percent } from '../base/number.ts';
import type { Warning, WarningKind } from './warning.ts';

/** Share of the picture under which it is no matter; common practice, no source. */
const SEEN = 0.001;
const CHANNELS = [
  ['r', 'red'],
  ['g', 'green'],
  ['b', 'blue'],
] as const;

export const clipping: WarningKind = {
  kind: 'clipping',
  find({ before, after, n }): Warning[] {
    const shares = clippedShares(before, after, n);
    if (shares.any < SEEN) return [];
    const channels = CHANNELS.filter(([plane]) => shares[plane] >= SEEN / 2).map(([plane, name]) => `${name} ${percent(shares[plane])}`);
    const words = `${percent(shares.any)} of the picture is newly clipped${channels.length > 0 ? ` (${channels.join(', ')})` : ''}`;
    return [{ key: 'clipping', words, amount: shares.any, at: null, layerId: null }];
  },
};

/** How far beyond its end a channel asks for a colour that the output does not have, and the share from which it is said. */
const BEYOND = 0.02;
const OUTSIDE = 0.005;

/** Colours that the output's space does not hold: light enough and dark enough, but too colourful. */
export const gamut: WarningKind = {
  kind: 'gamut',
  find({ after: { r, g, b }, n }): Warning[] {
    let count = 0;
    for (let i = 0; i < n; i++) {
      const [low, high] = [Math.min(r[i]!, g[i]!, b[i]!), Math.max(r[i]!, g[i]!, b[i]!)];
      if ((low < -BEYOND && high > 0.1) || (high > 1 + BEYOND && low < 0.9)) count++;
    }
    const share = count / n;
    return share < OUTSIDE
      ? []
      : [
          {
            key: 'gamut',
            words: `${percent(share)} of the picture is more colourful than sRGB holds`,
            amount: share,
            at: null,
            layerId: null,
          },
        ];
  },
};
