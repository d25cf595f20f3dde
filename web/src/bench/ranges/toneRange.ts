/** The four handles of tone limits. */
import type { ToneLimits } from '@umbo/core/blend';

export type ToneEnd = 'low outer' | 'low inner' | 'high inner' | 'high outer';

export const TONE_ENDS: readonly ToneEnd[] = ['low outer', 'low inner', 'high inner', 'high outer'];

export const toneEnds = ({ low, high }: ToneLimits): number[] => [...low, ...high];

/** Moves one handle; those in its way are pushed along. */
export function moveToneEnd(limits: ToneLimits, end: ToneEnd, at: number): ToneLimits {
  const moved = TONE_ENDS.indexOf(end);
  const [a, b, c, d] = toneEnds(limits).map((v, i) => (i < moved ? Math.min(v, at) : i > moved ? Math.max(v, at) : at)) as [
    number,
    number,
    number,
    number,
  ];
  return { ...limits, low: [a, b], high: [c, d] };
}
