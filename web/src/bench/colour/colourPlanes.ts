/** Colours laid out on a plane with a third axis beside it, all in shares 0..1 of what each can be. */
import type { ColourSpace, SpaceId } from '@umbo/core/base';
import { hslChannel, oklabToRgb, rgbToHsl, rgbToOklab, spaces, type Colour } from '@umbo/core/colour';
import { inOklch } from './colourModels';

export type Place3 = readonly [x: number, y: number, z: number];

export interface ColourPlane {
  readonly id: 'oklch' | 'hsb';
  readonly name: string;
  /** What lies to the right, upwards, and on the axis beside. */
  readonly axes: readonly [string, string, string];
  readonly read: (colour: Colour) => Place3;
  /** The colour at a place, held within the space. */
  readonly write: (place: Place3) => Colour;
  /** Writes the colour at a place as it is, 0..1 and beyond. @returns whether the space has it */
  readonly exact: (place: Place3, out: Float64Array) => boolean;
}

/** The chroma at the right edge of the plane: nearly the most that sRGB, or a wider space, has. */
const mostChroma = ({ id }: ColourSpace): number => (id === 'srgb' ? 0.33 : 0.4);
const isInside = (c: Float64Array): boolean => c.every((v) => v >= -1e-4 && v <= 1 + 1e-4);

/** HSB to HSL: lightness b (1 - s / 2), and the saturation that leads to the same channels. */
function writeHsb([s, b, h]: Place3): Colour {
  const l = b * (1 - s / 2);
  const saturation = l > 0 && l < 1 ? (b - l) / Math.min(l, 1 - l) : 0;
  return [0, 8, 4].map((n) => Math.max(0, Math.min(1, hslChannel((h * 360) % 360, saturation, l, n)))) as Colour;
}

function oklchOf(space: ColourSpace): ColourPlane {
  const most = mostChroma(space);
  return {
    id: 'oklch',
    name: 'OKLCh',
    axes: ['Chroma', 'Lightness', 'Hue'],
    read(colour) {
      const lab = new Float64Array(3);
      rgbToOklab(space, ...colour, lab);
      const [l, a, b] = lab as unknown as [number, number, number];
      return [Math.min(1, Math.hypot(a, b) / most), l, (((Math.atan2(b, a) / (2 * Math.PI)) % 1) + 1) % 1];
    },
    write: ([x, y, z]) => inOklch(space).write([y * 100, x * most, z * 360]),
    exact([x, y, z], out) {
      const angle = z * 2 * Math.PI;
      oklabToRgb(space, y, x * most * Math.cos(angle), x * most * Math.sin(angle), out);
      return isInside(out);
    },
  };
}

const hsb: ColourPlane = {
  id: 'hsb',
  name: 'HSB',
  axes: ['Saturation', 'Brightness', 'Hue'],
  read(colour) {
    const most = Math.max(...colour);
    return [most > 0 ? 1 - Math.min(...colour) / most : 0, most, rgbToHsl(...colour).h / 360];
  },
  write: writeHsb,
  exact(place, out) {
    out.set(writeHsb(place));
    return true;
  },
};

/** The planes, by the space whose colours they lay out. */
export const colourPlanes = Object.fromEntries(
  Object.values(spaces).map((space) => [space.id, [oklchOf(space), hsb]]),
) as unknown as Readonly<Record<SpaceId, readonly ColourPlane[]>>;
