import type { BlendMode } from './mode.ts';
import { add } from './modes/add.ts';
import { color } from './modes/color.ts';
import { colorBurn } from './modes/colorBurn.ts';
import { colorDodge } from './modes/colorDodge.ts';
import { darken } from './modes/darken.ts';
import { difference } from './modes/difference.ts';
import { divide } from './modes/divide.ts';
import { exclusion } from './modes/exclusion.ts';
import { hardLight } from './modes/hardLight.ts';
import { hue } from './modes/hue.ts';
import { lighten } from './modes/lighten.ts';
import { linearLight } from './modes/linearLight.ts';
import { luminosity } from './modes/luminosity.ts';
import { multiply } from './modes/multiply.ts';
import { normal } from './modes/normal.ts';
import { overlay } from './modes/overlay.ts';
import { saturation } from './modes/saturation.ts';
import { screen } from './modes/screen.ts';
import { softLight } from './modes/softLight.ts';
import { subtract } from './modes/subtract.ts';

/** Every blend mode, in the order in which people meet them. */
export const blendModes: readonly BlendMode[] = [
  normal,
  multiply,
  screen,
  overlay,
  softLight,
  hardLight,
  linearLight,
  darken,
  lighten,
  colorDodge,
  colorBurn,
  add,
  subtract,
  divide,
  difference,
  exclusion,
  hue,
  saturation,
  color,
  luminosity,
];

const byId = new Map(blendModes.map((mode) => [mode.id, mode]));

/** @throws RangeError for an id that is not registered */
export function blendMode(id: string): BlendMode {
  const mode = byId.get(id);
  if (!mode) throw new RangeError(`There is no blend mode "${id}"`);
  return mode;
}
