import type { ColourSpace } from '../base/space.ts';
import type { Colour } from './colour.ts';

/** For kinds whose settings hold a colour that can be sampled on the photograph. */
export interface TakesColour<S> {
  /**
   * Changes settings in place by a colour.
   * @param chosen the stop, or whatever else there are several of, in work
   * @param sampled whether it was sampled below the layer, so that its tone is one of the picture's
   */
  readonly takeColour?: (settings: S, colour: Colour, chosen: number, space: ColourSpace, sampled: boolean) => void;
}
