import type { ColourSpace } from '../base/space.ts';
import { Type, type Static } from '@sinclair/typebox';
import { fromOklab, toOklab } from '../colour/oklabPlanes.ts';
import { acceleration, type ToneShifts } from '../base/acceleration.ts';
import type { Planes } from '../base/planes.ts';
import type { Adjustment } from './adjustment.ts';
import { type Dial, dialsOf, rounded } from '../base/dial.ts';
import { hueDegrees, percent, RADIANS, signedPercent, strict } from './range.ts';
import { madeOnce } from '../base/madeOnce.ts';
import { toneZones, zoneIndex } from './zones.ts';

const schema = Type.Object(
  {
    /** Each zone's OKLCh hue, how much of it, and how much lighter or darker the zone becomes. */
    shadowsHue: hueDegrees,
    shadowsStrength: percent,
    shadowsLightness: signedPercent,
    midtonesHue: hueDegrees,
    midtonesStrength: percent,
    midtonesLightness: signedPercent,
    highlightsHue: hueDegrees,
    highlightsStrength: percent,
    highlightsLightness: signedPercent,
    /** Below 0 more of the tones count as shadows, above 0 more as highlights. */
    balance: signedPercent,
    /** How softly the zones pass into each other. */
    overlap: percent,
  },
  strict,
);
export type ThreeWayTintSettings = Static<typeof schema>;
const ZONES = ['shadows', 'midtones', 'highlights'] as const;

/** OKLCh chroma of a strength of 100, and OKLab lightness of a lightness of 100. */
const CHROMA = 0.15;
const LIGHT = 0.2;

/** Hue and strength of a zone as a way in two directions, of which this is one; between them there is no jump. */
const wayDial = (zone: (typeof ZONES)[number], axis: 0 | 1): Dial<ThreeWayTintSettings> => {
  const way = (s: ThreeWayTintSettings): [number, number] => {
    const [hue, strength] = [s[`${zone}Hue`] * RADIANS, s[`${zone}Strength`]];
    return [Math.cos(hue) * strength, Math.sin(hue) * strength];
  };
  return {
    read: (s) => way(s)[axis],
    write(s, value) {
      const to = way(s);
      to[axis] = value;
      // Without strength there is no way to go on from: the hue stays that of the last one.
      const strength = Math.min(100, Math.hypot(...to));
      if (strength > 0) s[`${zone}Hue`] = rounded((Math.atan2(to[1], to[0]) / RADIANS + 360) % 360, 0.01);
      s[`${zone}Strength`] = rounded(strength, 0.01);
    },
    bounds: [-100, 100],
    step: 5,
  };
};

const shiftsOf = madeOnce((settings: ThreeWayTintSettings): ToneShifts => {
  const zones = toneZones(settings.balance / 100, settings.overlap / 100);
  const table = (of: (zone: (typeof ZONES)[number]) => number): Float32Array => {
    const [low, middle, high] = ZONES.map(of) as [number, number, number];
    return zones.shadows.map((share, i) => share * low + zones.midtones[i]! * middle + zones.highlights[i]! * high);
  };
  return {
    l: table((zone) => (settings[`${zone}Lightness`] / 100) * LIGHT),
    a: table((zone) => Math.cos(settings[`${zone}Hue`] * RADIANS) * (settings[`${zone}Strength`] / 100) * CHROMA),
    b: table((zone) => Math.sin(settings[`${zone}Hue`] * RADIANS) * (settings[`${zone}Strength`] / 100) * CHROMA),
  };
});

/** The definition of {@link Acceleration.shiftTones}. */
export function shiftTones(space: ColourSpace, pixels: Planes, n: number, shifts: ToneShifts): void {
  toOklab(space, pixels, n);
  const { r, g, b } = pixels;
  for (let i = 0; i < n; i++) {
    const l = r[i]!;
    const k = zoneIndex(l);
    // Full from a tenth of the way to black or white on.
    const share = Math.max(0, Math.min(1, 10 * (l < 0.5 ? l : 1 - l)));
    r[i] = l + shifts.l[k]! * share;
    g[i] = g[i]! + shifts.a[k]! * share;
    b[i] = b[i]! + shifts.b[k]! * share;
  }
  fromOklab(space, pixels, n);
}

/** A tint for shadows, midtones and highlights each, added in OKLab; black and white themselves take none. */
export const threeWayTint: Adjustment<'threeWayTint', ThreeWayTintSettings> = {
  kind: 'threeWayTint',
  name: 'Three-way tint',
  explains: 'A tint each for shadows, midtones and highlights',
  group: 'A look',
  schema,
  defaults: {
    shadowsHue: 220,
    shadowsStrength: 0,
    shadowsLightness: 0,
    midtonesHue: 60,
    midtonesStrength: 0,
    midtonesLightness: 0,
    highlightsHue: 80,
    highlightsStrength: 0,
    highlightsLightness: 0,
    balance: 0,
    overlap: 60,
  },
  controls: [
    ...ZONES.flatMap((zone) => {
      const section = { shadows: 'Shadows', midtones: 'Midtones', highlights: 'Highlights' }[zone];
      return [
        { key: `${zone}Hue` as const, label: 'Hue', step: 1, unit: '°' as const, scale: 'hue' as const, section },
        { key: `${zone}Strength` as const, label: 'Strength', step: 1, section },
        { key: `${zone}Lightness` as const, label: 'Lightness', step: 1, signed: true, section },
      ];
    }),
    { key: 'balance', label: 'Balance', step: 1, signed: true },
    { key: 'overlap', label: 'Overlap', step: 1 },
  ],
  isNeutral: (s) => ZONES.every((zone) => s[`${zone}Strength`] === 0 && s[`${zone}Lightness`] === 0),
  dials: () => [
    ...ZONES.flatMap((zone) => [wayDial(zone, 0), wayDial(zone, 1)]),
    ...dialsOf<ThreeWayTintSettings>(
      ZONES.map((zone) => `${zone}Lightness` as const),
      [-100, 100],
      5,
    ),
  ],
  apply(settings, pixels, n, { space }) {
    (acceleration?.shiftTones ?? shiftTones)(space, pixels, n, shiftsOf(settings));
  },
};
