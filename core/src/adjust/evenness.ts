import { Type, type Static } from '@sinclair/typebox';
import type { Scale } from '../base/geometry.ts';
import { clamp } from '../base/number.ts';
import { madeOnceIn } from '../base/madeOnce.ts';
import { quantise, type Raster } from '../base/planes.ts';
import { colourSchema } from '../colour/colour.ts';
import { oklabToRgb, rgbToOklab } from '../colour/oklab.ts';
import { spaceOf } from '../colour/spaces.ts';
import { guidedPlanes, guidedReach } from '../filter/guidedPlanes.ts';
import type { Adjustment } from './adjustment.ts';
import { ofLongSide, windowRadius } from './extent.ts';
import { hold16 } from './luminosityPlane.ts';
import { signedPercent, strict } from './range.ts';

const schema = Type.Object(
  {
    /** The region's own colour at each lightness, evenly from black to white, of which the chroma counts; none: nothing changes. */
    colours: Type.Array(colourSchema, { maxItems: 33 }),
    /** The region's mean OKLCh hue in degrees: one for all lightnesses, for a hue that changes with them is a cast more often than not. */
    hue: Type.Number({ minimum: 0, maximum: 360 }),
    /** The region's mean OKLab lightness. */
    middle: Type.Number({ minimum: 0, maximum: 1 }),
    /** How much wider (+) or narrower (-) the colours spread about that, in percent; over wide areas, and from pixel to pixel. */
    hueBroad: signedPercent,
    hueFine: signedPercent,
    chromaBroad: signedPercent,
    chromaFine: signedPercent,
    lightnessBroad: signedPercent,
    lightnessFine: signedPercent,
  },
  strict,
);
export type EvennessSettings = Static<typeof schema>;

const QUALITIES = ['hue', 'chroma', 'lightness'] as const;
const KEYS = QUALITIES.flatMap((quality) => [`${quality}Broad`, `${quality}Fine`] as const);
const isNeutral = (settings: EvennessSettings): boolean => settings.colours.length === 0 || KEYS.every((key) => settings[key] === 0);

/** Of the window that parts broad from fine: its radius in percent of the longer side, and what counts as no edge of lightness. */
const RADIUS = 2;
const EPSILON = 0.02 ** 2;
/** Chroma below which a hue counts less and less: that of a grey is chance. */
const GREY = 0.02;
/** What a plane of 16 bits holds of chroma: as much either way. */
const MOST_CHROMA = 0.5;

const STEPS = 256;

/** Chroma of the region's own colours over the lightness. */
const ownChroma = madeOnceIn((space, { colours }: EvennessSettings) => {
  const labs = colours.map((colour) => {
    const lab = new Float64Array(3);
    rgbToOklab(space, ...colour, lab);
    return lab;
  });
  const chroma = new Float32Array(STEPS + 1);
  for (let i = 0; i <= STEPS; i++) {
    const at = (i / STEPS) * (labs.length - 1);
    const k = Math.min(Math.max(0, labs.length - 2), Math.floor(at));
    const [p, q] = [labs[k]!, labs[k + 1] ?? labs[k]!];
    const [a, b] = [p[1]! + (q[1]! - p[1]!) * (at - k), p[2]! + (q[2]! - p[2]!) * (at - k)];
    chroma[i] = Math.hypot(a, b);
  }
  return chroma;
});

/** A difference of hues in turns, -0.5..0.5. */
const turned = (turns: number): number => turns - Math.round(turns);

/**
 * Makes a region more even, or more varied, about its own colour at each lightness: the deviations of hue, chroma and lightness are parted by
 * a guided filter (He, Sun & Tang 2013) into what changes over wide areas and what changes from pixel to pixel, and each is scaled.
 */
function apply(settings: EvennessSettings, picture: Raster, scale: Scale): void {
  const space = spaceOf(scale);
  const own = ownChroma(space, settings);
  const ownHue = settings.hue / 360;
  const { r, g, b, area } = picture;
  const n = r.length;
  const [light, hue, chroma] = [new Uint16Array(n), new Uint16Array(n), new Uint16Array(n)];
  const lab = new Float64Array(3);
  const stepAt = (l: number): number => Math.round(clamp(l, 0, 1) * STEPS);
  for (let i = 0; i < n; i++) {
    rgbToOklab(space, r[i]! / 65535, g[i]! / 65535, b[i]! / 65535, lab);
    const step = stepAt(lab[0]!);
    const c = Math.hypot(lab[1]!, lab[2]!);
    const off = turned(Math.atan2(lab[2]!, lab[1]!) / (2 * Math.PI) - ownHue) * Math.min(1, c / GREY);
    light[i] = quantise(lab[0]!, 65535);
    hue[i] = quantise(off + 0.5, 65535);
    chroma[i] = quantise((c - own[step]!) / (2 * MOST_CHROMA) + 0.5, 65535);
  }
  const radius = windowRadius(ofLongSide(RADIUS, scale));
  const [broadHue, broadChroma, broadLight] = guidedPlanes([hue, chroma, light], light, area, radius, EPSILON) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  const by = (value: number, broad: number, middle: number, wide: number, fine: number): number =>
    middle + (broad - middle) * (1 + wide / 100) + (value - broad) * (1 + fine / 100);
  const rgb = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    const step = stepAt(light[i]! / 65535);
    const off = by(hue[i]! / 65535 - 0.5, broadHue[i]! / 65535 - 0.5, 0, settings.hueBroad, settings.hueFine);
    const more =
      by(chroma[i]! / 65535 - 0.5, broadChroma[i]! / 65535 - 0.5, 0, settings.chromaBroad, settings.chromaFine) * 2 * MOST_CHROMA;
    const l = by(light[i]! / 65535, broadLight[i]! / 65535, settings.middle, settings.lightnessBroad, settings.lightnessFine);
    const c = Math.max(0, own[step]! + more);
    // The same share that was taken of a grey's hue is given back.
    const full = own[step]! + (chroma[i]! / 65535 - 0.5) * 2 * MOST_CHROMA;
    const angle = (ownHue + off / Math.max(0.05, Math.min(1, full / GREY))) * 2 * Math.PI;
    oklabToRgb(space, l, c * Math.cos(angle), c * Math.sin(angle), rgb);
    r[i] = hold16(rgb[0]! * 65535);
    g[i] = hold16(rgb[1]! * 65535);
    b[i] = hold16(rgb[2]! * 65535);
  }
}

export const evenness: Adjustment<'evenness', EvennessSettings> = {
  kind: 'evenness',
  name: 'Evenness',
  explains: 'Skin and cloth more even, or more varied, about their own colour',
  group: 'Surface',
  schema,
  defaults: {
    colours: [],
    hue: 0,
    middle: 0.5,
    hueBroad: 0,
    hueFine: 0,
    chromaBroad: 0,
    chromaFine: 0,
    lightnessBroad: 0,
    lightnessFine: 0,
  },
  controls: [
    { key: 'hueBroad', label: 'Hue, broad', step: 1, unit: '%', signed: true },
    { key: 'hueFine', label: 'Hue, fine', step: 1, unit: '%', signed: true },
    { key: 'chromaBroad', label: 'Chroma, broad', step: 1, unit: '%', signed: true },
    { key: 'chromaFine', label: 'Chroma, fine', step: 1, unit: '%', signed: true },
    { key: 'lightnessBroad', label: 'Light, broad', step: 1, unit: '%', signed: true },
    { key: 'lightnessFine', label: 'Light, fine', step: 1, unit: '%', signed: true },
  ],
  isNeutral,
  filter: { reach: (_, scale) => guidedReach(windowRadius(ofLongSide(RADIUS, scale))), apply },
};
