import type { ColourSpace } from '../base/space.ts';
import { clamp, unit } from '../base/number.ts';
import { Type, type Static } from '@sinclair/typebox';
import { familySpan, FAMILY_HUES, SIX_FAMILIES } from '../colour/families.ts';
import type { Colour } from '../colour/colour.ts';
import { hslChannel, rgbToHsl } from '../colour/hsl.ts';
import { oklabToRgb, rgbToOklab, rgbToOklch } from '../colour/oklab.ts';
import { planesFromOklab, planesToOklab } from '../colour/oklabPlanes.ts';
import { hueMembership, type HueSpan } from '../colour/hueSpan.ts';
import { acceleration } from '../base/acceleration.ts';
import type { Planes } from '../base/planes.ts';
import type { Adjustment } from './adjustment.ts';
import { type Dial, dialsOf, rounded } from '../base/dial.ts';
import { hueDegrees, percent, RADIANS, signedPercent, strict } from './range.ts';
import { madeOnce } from '../base/madeOnce.ts';
import { hueTables, rotateByHue, type HueChange } from './rotateByHue.ts';

const turnDegrees = Type.Number({ minimum: -180, maximum: 180 });
const range = Type.Object(
  {
    /** A family's id, or a name of one's own. */
    name: Type.String({ minLength: 1, maxLength: 40 }),
    /** Where the range begins, and over how many degrees of the model's hue it rises, stays full and falls. */
    from: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
    fadeIn: hueDegrees,
    span: hueDegrees,
    fadeOut: hueDegrees,
    hue: turnDegrees,
    saturation: signedPercent,
    lightness: signedPercent,
  },
  strict,
);
export type RangeOfHues = Static<typeof range>;

const schema = Type.Object(
  {
    model: Type.Union([Type.Literal('oklch'), Type.Literal('hsl')]),
    /** Turn of the hue in degrees. */
    hue: turnDegrees,
    /** Percent: -100 takes all chroma away, +100 doubles it. */
    saturation: signedPercent,
    /** Percent of the way to black (below 0) or white (above 0). */
    lightness: signedPercent,
    /** Gives every pixel one hue instead of turning its own. */
    colourise: Type.Boolean(),
    /** The hue that colourising gives, in degrees of the model. */
    colouriseHue: hueDegrees,
    /** Its saturation, percent. */
    colouriseSaturation: percent,
    /** Changes of some hues, on top of that of all; left out: none. */
    ranges: Type.Optional(Type.Array(range, { maxItems: 12 })),
  },
  strict,
);
export type HueSaturationSettings = Static<typeof schema>;

/** Turns all around: a hue on the other side of the circle is not to be reached through grey. */
const TURNS = [-150, -120, -90, -60, -30, 0, 30, 60, 90, 120, 150, 180];

/** A hue, all around and on: where the circle is closed, the way goes on. @param from where its numbers begin */
const hueDial = (key: 'hue' | 'colouriseHue', from: number): Dial<HueSaturationSettings> => ({
  read: (settings) => settings[key],
  write: (settings, value) => void (settings[key] = rounded(((((value - from) % 360) + 360) % 360) + from, 0.01)),
  bounds: [from - 360, from + 720],
  step: 8,
});

const rangesOf = ({ colourise, ranges = [] }: HueSaturationSettings): RangeOfHues[] =>
  colourise ? [] : ranges.filter(({ hue, saturation, lightness }) => hue !== 0 || saturation !== 0 || lightness !== 0);

/** What the ranges together do to a hue. */
function changeAt(ranges: readonly RangeOfHues[], hue: number): HueChange {
  const sum = { hue: 0, saturation: 0, lightness: 0 };
  for (const one of ranges) {
    const share = hueMembership(one, hue);
    sum.hue += share * one.hue;
    sum.saturation += share * one.saturation;
    sum.lightness += share * one.lightness;
  }
  return sum;
}

const oklchTables = madeOnce((settings: HueSaturationSettings) => {
  const ranges = rangesOf(settings);
  return hueTables((hue) => changeAt(ranges, hue));
});
/** The same for HSL, by whole degrees. */
const hslTable = madeOnce((settings: HueSaturationSettings) => {
  const ranges = rangesOf(settings);
  return Array.from({ length: 361 }, (_, hue) => changeAt(ranges, hue % 360));
});

/**
 * OKLCh: the hue is a rotation of (a, b), saturation a factor on them, lightness a mix with white or black in OKLab.
 * Colourised chroma is largest at middle lightness and vanishes at black and white: 0.32 * s * 4 L (1 - L).
 */
function applyOklch(space: ColourSpace, s: HueSaturationSettings, pixels: Planes, n: number): void {
  const keep = 1 - Math.abs(s.lightness) / 100;
  const lift = s.lightness > 0 ? s.lightness / 100 : 0;
  if (s.colourise) {
    colouriseOklch(space, s, pixels, n, keep, lift);
    return;
  }
  if (rangesOf(s).length > 0) {
    rotateByHue(space, pixels, n, oklchTables(s));
    if (s.hue === 0 && s.saturation === 0 && s.lightness === 0) return;
  }
  const gain = (1 + s.saturation / 100) * keep;
  const [ca, cb] = [Math.cos(s.hue * RADIANS) * gain, Math.sin(s.hue * RADIANS) * gain];
  (acceleration?.rotateOklab ?? turnOklab)(space, pixels, n, ca, cb, keep, lift);
}

/** The definition of {@link Acceleration.turnOklab}. */
export function turnOklab(space: ColourSpace, { r, g, b }: Planes, n: number, ca: number, cb: number, keep: number, lift: number): void {
  const px = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    rgbToOklab(space, r[i]!, g[i]!, b[i]!, px);
    const a = px[1]!;
    const d = px[2]!;
    oklabToRgb(space, px[0]! * keep + lift, a * ca - d * cb, a * cb + d * ca, px);
    r[i] = px[0]!;
    g[i] = px[1]!;
    b[i] = px[2]!;
  }
}

function colouriseOklch(space: ColourSpace, s: HueSaturationSettings, pixels: Planes, n: number, keep: number, lift: number): void {
  const chroma = 0.32 * (s.colouriseSaturation / 100) * keep;
  const tintA = Math.cos(s.colouriseHue * RADIANS) * chroma;
  const tintB = Math.sin(s.colouriseHue * RADIANS) * chroma;
  planesToOklab(space, pixels, n);
  const { r, g, b } = pixels;
  for (let i = 0; i < n; i++) {
    const l = r[i]!;
    const amount = l > 0 && l < 1 ? 4 * l * (1 - l) : 0;
    r[i] = l * keep + lift;
    g[i] = tintA * amount;
    b[i] = tintB * amount;
  }
  planesFromOklab(space, pixels, n);
}

/** HSL: values outside 0..1 are brought inside first, for HSL knows nothing beyond. */
function applyHsl(s: HueSaturationSettings, { r, g, b }: Planes, n: number): void {
  const gain = 1 + s.saturation / 100;
  const keep = 1 - Math.abs(s.lightness) / 100;
  const lift = s.lightness > 0 ? s.lightness / 100 : 0;
  const byHue = rangesOf(s).length > 0 ? hslTable(s) : null;
  for (let i = 0; i < n; i++) {
    const x = unit(r[i]!);
    const y = unit(g[i]!);
    const z = unit(b[i]!);
    const max = x > y ? (x > z ? x : z) : y > z ? y : z;
    const min = x < y ? (x < z ? x : z) : y < z ? y : z;
    const d = max - min;
    let l = (max + min) / 2;
    let hue: number;
    let sat: number;
    if (s.colourise) {
      hue = s.colouriseHue;
      sat = s.colouriseSaturation / 100;
    } else {
      hue = s.hue;
      sat = 0;
      if (d > 0) {
        sat = (d / (l < 0.5 ? max + min : 2 - max - min)) * gain;
        const own = 60 * (max === x ? (y - z) / d : max === y ? (z - x) / d + 2 : (x - y) / d + 4);
        hue += own;
        if (byHue) {
          const change = byHue[((own < 0 ? own + 360 : own) + 0.5) | 0]!;
          hue += change.hue;
          sat *= change.saturation > -100 ? 1 + change.saturation / 100 : 0;
          const share = clamp(change.lightness / 100, -1, 1) * (d < 0.1 ? d / 0.1 : 1);
          l = share > 0 ? l + (1 - l) * share : l * (1 + share);
        }
      }
    }
    if (sat > 1) sat = 1;
    while (hue < 0) hue += 360;
    while (hue >= 360) hue -= 360;
    l = l * keep + lift;
    r[i] = hslChannel(hue, sat, l, 0);
    g[i] = hslChannel(hue, sat, l, 8);
    b[i] = hslChannel(hue, sat, l, 4);
  }
}

/** What a colourised middle grey becomes is shown. */
const GREY = [0.5, 0.5, 0.5] as const;

/** The range of one of the six families before anybody has moved it. */
export const familyRange = (model: HueSaturationSettings['model'], id: string): RangeOfHues => ({
  name: id,
  ...familySpan(SIX_FAMILIES, FAMILY_HUES[model], id),
  hue: 0,
  saturation: 0,
  lightness: 0,
});

/** The range that decides about a hue: of those that are there and the families that are not, the one that it is in most. */
function rangeFor(settings: HueSaturationSettings, hue: number): RangeOfHues {
  const { ranges = [], model } = settings;
  const families = SIX_FAMILIES.filter(({ id }) => !ranges.some(({ name }) => name === id)).map(({ id }) => familyRange(model, id));
  const share = (one: HueSpan): number => hueMembership(one, hue);
  return [...ranges, ...families].reduce((best, one) => (share(one) > share(best) ? one : best));
}

/** The name of the range that decides about a colour; null where none does. */
function rangeAt(settings: HueSaturationSettings, colour: Colour, space: ColourSpace): string | null {
  const { c, h } = rgbToOklch(space, ...colour);
  if (settings.colourise || c < 0.01) return null;
  return rangeFor(settings, settings.model === 'oklch' ? h : rgbToHsl(...colour).h).name;
}

/** Where every pixel gets one hue, a pull turns that, whatever the colour that it began on. */
function pullColourise(settings: HueSaturationSettings, quality: keyof typeof TURN, label: string, by: number): string {
  if (quality === 'hue') settings.colouriseHue = (((settings.colouriseHue + Math.round(by * TURN.hue)) % 360) + 360) % 360;
  else if (quality === 'saturation') settings.colouriseSaturation = Math.round(clamp(settings.colouriseSaturation + by * 100, 0, 100));
  else settings.lightness = Math.round(clamp(settings.lightness + by * TURN.lightness, -100, 100));
  const value =
    quality === 'hue' ? `${settings.colouriseHue}°` : quality === 'saturation' ? settings.colouriseSaturation : settings.lightness;
  return `One hue, ${label.toLowerCase()} ${String(value).replace('-', '−')}`;
}

const TURN = { hue: 180, saturation: 200, lightness: 100 } as const;
const QUALITIES = [
  ['hue', 'Hue'],
  ['saturation', 'Saturation'],
  ['lightness', 'Lightness'],
] as const;

export const hueSaturation: Adjustment<'hueSaturation', HueSaturationSettings> = {
  kind: 'hueSaturation',
  layerName: 'Layer',
  name: 'Hue & saturation',
  explains: 'Other hues, more or less colour, lighter or darker: all hues or one range',
  group: 'A hue',
  schema,
  defaults: { model: 'oklch', hue: 0, saturation: 0, lightness: 0, colourise: false, colouriseHue: 30, colouriseSaturation: 25 },
  controls: [
    {
      key: 'model',
      label: 'Model',
      options: [
        ['oklch', 'OKLCh'],
        ['hsl', 'HSL'],
      ],
    },
    { key: 'hue', label: 'Hue', step: 1, unit: '°', signed: true, when: (s) => !s.colourise },
    { key: 'saturation', label: 'Saturation', step: 1, unit: '', signed: true, when: (s) => !s.colourise },
    { key: 'colouriseHue', label: 'Hue', step: 1, unit: '°', shows: GREY, when: (s) => s.colourise },
    { key: 'colouriseSaturation', label: 'Saturation', step: 1, unit: '', shows: GREY, when: (s) => s.colourise },
    { key: 'lightness', label: 'Lightness', step: 1, unit: '', signed: true, shows: GREY },
    { key: 'colourise', label: 'One hue' },
  ],
  isNeutral: (s) => !s.colourise && s.hue === 0 && s.saturation === 0 && s.lightness === 0 && rangesOf(s).length === 0,
  dials: ({ colourise }) =>
    colourise
      ? [
          { ...hueDial('colouriseHue', 0), starts: TURNS.map((hue) => hue + 180) },
          ...dialsOf<HueSaturationSettings>(['colouriseSaturation'], [0, 100], 10),
          ...dialsOf<HueSaturationSettings>(['lightness'], [-100, 100], 5),
        ]
      : [
          { ...hueDial('hue', -180), starts: TURNS },
          ...dialsOf<HueSaturationSettings>(['saturation'], [-100, 100], 10),
          ...dialsOf<HueSaturationSettings>(['lightness'], [-100, 100], 5),
        ],
  apply: (s, pixels, n, { space }) => (s.model === 'oklch' ? applyOklch(space, s, pixels, n) : applyHsl(s, pixels, n)),
  pull: {
    qualities: QUALITIES,
    drag(settings, colour, quality, by, space) {
      const key = quality as keyof typeof TURN;
      const label = QUALITIES.find(([id]) => id === key)![1];
      if (settings.colourise) return pullColourise(settings, key, label, by);
      const name = rangeAt(settings, colour, space);
      if (name === null) return null;
      settings.ranges ??= [];
      let one = settings.ranges.find((range) => range.name === name);
      if (!one) settings.ranges.push((one = familyRange(settings.model, name)));
      const most = key === 'hue' ? 180 : 100;
      one[key] = Math.round(clamp(one[key] + by * TURN[key], -most, most));
      const value = `${one[key] > 0 ? '+' : ''}${one[key]}${key === 'hue' ? '°' : ''}`.replace('-', '−');
      return `${label} of ${one.name} ${value}`;
    },
    partAt: rangeAt,
  },
};
