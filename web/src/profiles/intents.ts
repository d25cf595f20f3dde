import type { HandOverOptions } from '@umbo/data';

type Intent = NonNullable<HandOverOptions['profile']>['intent'];

/** Rendering intents (ICC.1:2022, section 6.3), the one of most use first. */
export const INTENTS: readonly (readonly [Intent, string])[] = [
  ['relative', 'Relative'],
  ['perceptual', 'Perceptual'],
  ['saturation', 'Saturation'],
  ['absolute', 'Absolute'],
];
