export { letThrough, type LetThrough } from './letThrough.ts';
export type { BlendMode } from './mode.ts';
export { blendModes } from './registry.ts';
export { toneShare, type ToneLimits } from './toneLimits.ts';
