import type { LevelsSettings } from '../adjust/levels.ts';
import type { Raster } from '../base/planes.ts';
import { writeContent } from './content.ts';
import type { Measurement } from './measurement.ts';

/** Where tones begin and end, 0..255. */
export interface Ends {
  readonly black: number;
  readonly white: number;
}

function endsOf(counts: Float64Array, total: number, clip: number): Ends {
  const find = (from: number, step: 1 | -1): number => {
    let seen = 0;
    let at = from;
    for (; at >= 0 && at < 256; at += step) {
      seen += counts[at]!;
      if (seen > total * clip) break;
    }
    return Math.max(0, Math.min(255, at));
  };
  const [black, white] = [find(0, 1), find(255, -1)];
  return black < white ? { black, white } : { black: 0, white: 255 };
}

/**
 * The ends of the channels together and of each.
 * @param clip share of the pixels, 0..0.5, that may lie beyond each end
 * @param weight how much each pixel counts, 0..65535; left out: all alike
 */
export function tonalEnds({ r, g, b }: Raster, clip: number, weight?: Uint16Array): Record<'rgb' | 'r' | 'g' | 'b', Ends> {
  const channel = (): Float64Array => new Float64Array(256);
  const counts = { r: channel(), g: channel(), b: channel() };
  let total = 0;
  for (let i = 0; i < r.length; i++) {
    const w = weight ? weight[i]! / 65535 : 1;
    counts.r[r[i]! >> 8]! += w;
    counts.g[g[i]! >> 8]! += w;
    counts.b[b[i]! >> 8]! += w;
    total += w;
  }
  const all = counts.r.map((count, i) => count + counts.g[i]! + counts.b[i]!);
  return {
    rgb: endsOf(all, 3 * total, clip),
    r: endsOf(counts.r, total, clip),
    g: endsOf(counts.g, total, clip),
    b: endsOf(counts.b, total, clip),
  };
}

interface EndsSettings {
  /** Share of the pixels, 0..0.5, that may lie beyond each end. */
  readonly clip: number;
  /** Whether each channel gets its own ends. */
  readonly each: boolean;
}

/** Where the tones of a region end, for levels that stretch them over the whole scale. */
export const ends: Measurement<'ends', EndsSettings, ReturnType<typeof tonalEnds>> = {
  kind: 'ends',
  needs: 'picture',
  measure: ({ clip }, { picture, weight }) => tonalEnds(picture, clip, weight ?? undefined),
  apply(found, { each }, layer) {
    writeContent(layer, 'levels', (settings: LevelsSettings) => {
      for (const channel of ['rgb', 'r', 'g', 'b'] as const)
        Object.assign(settings[channel], each === (channel !== 'rgb') ? found[channel] : { black: 0, white: 255 });
    });
  },
};
