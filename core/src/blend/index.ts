export { componentMix, type ComponentMix } from './componentMix.ts';
export type { BlendMode } from './mode.ts';
export { blendModes } from './registry.ts';
export { toneShare, type ToneLimits } from './toneLimits.ts';
