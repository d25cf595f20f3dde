export type { FirstCorrection } from './firstCorrection.ts';
export { histogramOf, type Histogram } from './histogram.ts';
export { CENSUS_BINS, familyShares, hueCensus, measureHue, type HueModel } from './hueCensus.ts';
export { litAbout, litHues, litSteps, type Lit, type LitBy } from './lit.ts';
export { healthOf, isHard, marksIn, type MaskHealth } from './maskHealth.ts';
export type { Measured } from './measurement.ts';
export { readout, type Readout } from './readout.ts';
export { measurement, measurements, type AnyTask, type Found, type MeasurementKind, type Task } from './registry.ts';
export { toneOf } from './tone.ts';
