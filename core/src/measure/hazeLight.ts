import { hazeLight as lightOfHaze, hazePatch } from '../adjust/haze.ts';
import type { Colour } from '../colour/colour.ts';
import { writeContent } from './content.ts';
import type { Measurement } from './measurement.ts';

/** The colour of the haze in a picture. */
export const hazeLight: Measurement<'hazeLight', object, Colour> = {
  kind: 'hazeLight',
  needs: 'picture',
  measure: (_settings, { picture, scale }) => lightOfHaze(picture, hazePatch(scale)),
  apply: (light, _settings, layer) => writeContent(layer, 'haze', (settings) => void (settings.light = light)),
};
