import type { Measurement } from './measurement.ts';

/** How much of the photograph a mask covers, 0..1. */
export const cover: Measurement<'cover', object, number> = {
  kind: 'cover',
  needs: 'mask',
  measure: (_settings, { weight }) => (weight ? weight.reduce((sum, v) => sum + v, 0) / (weight.length * 65535) : 1),
};
