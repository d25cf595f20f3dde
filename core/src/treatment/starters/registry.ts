import { colourPortrait } from './colourPortrait.ts';
import { evenSkin } from './evenSkin.ts';
import { fadedPrint } from './fadedPrint.ts';
import { flatSky } from './flatSky.ts';
import { lampLight } from './lampLight.ts';
import type { Starter } from './parts.ts';
import { productToWhite } from './productToWhite.ts';

/** In the order in which they are offered. */
export const starters: readonly Starter[] = [colourPortrait, fadedPrint, evenSkin, productToWhite, flatSky, lampLight];
