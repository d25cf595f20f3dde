export * from './correction.ts';
export { histogram, type Histogram } from './histogram.ts';
export { CENSUS_BINS, familyShares, hueCensus, type HueModel } from './hueCensus.ts';
export { maskHealth, type MaskHealth } from './maskHealth.ts';
export { readout, type Readout } from './readout.ts';
export { toneOf } from './tone.ts';
