import { clamp } from '../base/number.ts';
import { Type, type Static, type TNumber } from '@sinclair/typebox';
import { SIX_FAMILIES, SIX_IDS, type SixId } from '../colour/families.ts';
import type { Colour } from '../colour/colour.ts';
import { rgbToHsl } from '../colour/hsl.ts';
import type { Adjustment } from './adjustment.ts';
import { strict } from './range.ts';

/** Percent of a family's colourfulness that becomes light. */
const weight = Type.Number({ minimum: -300, maximum: 600 });
const schema = Type.Object(Object.fromEntries(SIX_FAMILIES.map(({ id }) => [id, weight])) as Record<SixId, TNumber>, strict);
export type BlackWhiteSettings = Static<typeof schema>;

/** Colours of the families as photographs have them: halfway between their pure colours and a middle grey. */
const SHOWN: Record<SixId, Colour> = {
  red: [0.75, 0.25, 0.25],
  yellow: [0.75, 0.75, 0.25],
  green: [0.25, 0.75, 0.25],
  cyan: [0.25, 0.75, 0.75],
  blue: [0.25, 0.25, 0.75],
  magenta: [0.75, 0.25, 0.75],
};

/**
 * A grey for each colour by the weights of hue families. A colour is grey plus some of one secondary plus some of one primary: the middle
 * channel less the least, and the greatest less the middle. The weights begin as the luminosities (Lum of W3C Compositing and Blending
 * Level 1) of the families' pure colours, with which every grey is the colour's luminosity.
 */
export const blackWhite: Adjustment<'blackWhite', BlackWhiteSettings> = {
  kind: 'blackWhite',
  name: 'Black & white',
  explains: 'Greys, each colour as light as you wish',
  group: 'A look',
  schema,
  defaults: { red: 30, yellow: 89, green: 59, cyan: 70, blue: 11, magenta: 41 },
  controls: SIX_FAMILIES.map(({ id, name }) => ({
    key: id,
    label: name,
    step: 1,
    usual: [-100, 300] as const,
    family: { id, name },
    shows: SHOWN[id],
  })),
  isNeutral: () => false,
  apply(s, { r, g, b }, n) {
    const [red, yellow, green, cyan, blue, magenta] = SIX_IDS.map((id) => s[id] / 100) as [number, number, number, number, number, number];
    for (let i = 0; i < n; i++) {
      const [x, y, z] = [r[i]!, g[i]!, b[i]!];
      const least = x < y ? (x < z ? x : z) : y < z ? y : z;
      const most = x > y ? (x > z ? x : z) : y > z ? y : z;
      const middle = x + y + z - least - most;
      const primary = most === x ? red : most === y ? green : blue;
      const secondary = least === z ? yellow : least === x ? cyan : magenta;
      r[i] = g[i] = b[i] = least + (middle - least) * secondary + (most - middle) * primary;
    }
  },
  pull: {
    qualities: [['weight', 'Weight']],
    drag(settings, colour, _quality, by) {
      const { h, s } = rgbToHsl(...colour);
      if (s < 0.02) return null;
      // The two families between which the hue lies move by their shares.
      const at = Math.floor(h / 60) % 6;
      const share = h / 60 - Math.floor(h / 60);
      const [one, next] = [SIX_FAMILIES[at]!, SIX_FAMILIES[(at + 1) % 6]!];
      for (const [family, part] of [
        [one, 1 - share],
        [next, share],
      ] as const)
        settings[family.id] = Math.round(clamp(settings[family.id] + by * 300 * part, -300, 600));
      const most = share < 0.5 ? one : next;
      return `${most.name} ${settings[most.id]}`;
    },
  },
};
