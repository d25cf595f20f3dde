import type { ColourSpace } from '../base/space.ts';
import type { Colour } from './colour.ts';

/** For kinds whose settings hold a colour that can be sampled on the photograph. */
export interface TakesColour<S> {
  /** Changes settings in place by a colour sampled below the layer. @param chosen the stop, or whatever else there are several of, in work */
  readonly takeColour?: (settings: S, colour: Colour, chosen: number, space: ColourSpace) => void;
}
