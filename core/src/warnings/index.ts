export type { Warning } from './warning.ts';
export { regionColours, type RegionColour } from './regionColours.ts';
export { findWarnings, layerBehind, warningKinds } from './registry.ts';
