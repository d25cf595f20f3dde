import { cover } from './cover.ts';
import { ends } from './ends.ts';
import { firstCorrection } from './firstCorrection.ts';
import { hazeLight } from './hazeLight.ts';
import { histogram } from './histogram.ts';
import { census } from './hueCensus.ts';
import { maskHealth } from './maskHealth.ts';
import { intoGamut } from './intoGamut.ts';
import { level } from './horizon.ts';
import type { Measurement } from './measurement.ts';
import { proposals } from './proposals.ts';
import { ownColours } from './ownColours.ts';
import { ramp } from './ramp.ts';
import { spreads } from './spreads.ts';
import { triedChannels } from './triedChannels.ts';
import { toneStops } from './toneStops.ts';

/** Everything that is found out about a picture or a mask. */
export const measurements = [
  census,
  histogram,
  ends,
  ramp,
  toneStops,
  ownColours,
  hazeLight,
  firstCorrection,
  proposals,
  maskHealth,
  cover,
  spreads,
  level,
  intoGamut,
  triedChannels,
] as const;

type Any = (typeof measurements)[number];
export type MeasurementKind = Any['kind'];
type Of<K extends MeasurementKind> = Extract<Any, { kind: K }>;
type SettingsFor<K extends MeasurementKind> = Parameters<Of<K>['measure']>[0];
/** What a measurement finds. */
export type Found<K extends MeasurementKind> = ReturnType<Of<K>['measure']>;
/** One kind of measurement and its settings. */
export interface Task<K extends MeasurementKind> {
  readonly kind: K;
  readonly settings: SettingsFor<K>;
}
export type AnyTask = { [K in MeasurementKind]: Task<K> }[MeasurementKind];

const byKind = new Map<string, unknown>(measurements.map((one) => [one.kind, one]));

/**
 * @throws RangeError for a kind that is not registered
 * @example
 * const picture = createRaster(wholeOf({ width: 4, height: 1 }));
 * picture.r.set([25700, 25700, 51400, 51400]);
 * const found = measurement('ends').measure({ clip: 0, each: true }, { picture, weight: null, scale: { picture: picture.area, full: picture.area } });
 * found.r; // → { black: 100, white: 200 }
 */
export function measurement<K extends MeasurementKind>(kind: K): Measurement<K, SettingsFor<K>, Found<K>> {
  const found = byKind.get(kind);
  if (!found) throw new RangeError(`There is no measurement "${kind}"`);
  return found as Measurement<K, SettingsFor<K>, Found<K>>;
}
