import { lumOf } from '../colour/luminosity.ts';
import { Type, type Static, type TNumber } from '@sinclair/typebox';
import type { Adjustment } from './adjustment.ts';
import { dialsOf } from '../base/dial.ts';
import { signedPercent, strict } from './range.ts';
import { madeOnce } from '../base/madeOnce.ts';
import { toneZones, zoneIndex } from './zones.ts';

const ZONES = ['shadows', 'midtones', 'highlights'] as const;
/** Opposite pairs, common practice, no source: more of the second is less of the first. */
const PAIRS = [
  ['CyanRed', 'Cyan/red'],
  ['MagentaGreen', 'Magenta/green'],
  ['YellowBlue', 'Yellow/blue'],
] as const;
type Key = `${(typeof ZONES)[number]}${(typeof PAIRS)[number][0]}`;
const KEYS = ZONES.flatMap((zone) => PAIRS.map(([pair]): Key => `${zone}${pair}`));

const schema = Type.Object(
  {
    ...(Object.fromEntries(KEYS.map((key) => [key, signedPercent])) as Record<Key, TNumber>),
    /** Whether the luminosity (Lum of W3C Compositing and Blending Level 1) stays as it is. */
    keepLightness: Type.Boolean(),
  },
  strict,
);
export type ColourBalanceSettings = Static<typeof schema>;

/** A setting of 100 moves a channel by this much where its zone is full. */
const MOST = 0.3;

/** The shift of each channel over the tones. */
const shiftsOf = madeOnce((settings: ColourBalanceSettings) => {
  const zones = toneZones(0, 0.75);
  return PAIRS.map(([pair]) => {
    const [low, middle, high] = ZONES.map((zone) => settings[`${zone}${pair}`] / 100) as [number, number, number];
    return zones.shadows.map((share, i) => share * low * MOST + zones.midtones[i]! * middle * MOST + zones.highlights[i]! * high * MOST);
  }) as [Float32Array, Float32Array, Float32Array];
});

/** Red, green and blue moved against their opposites, in shadows, midtones and highlights. */
export const colourBalance: Adjustment<'colourBalance', ColourBalanceSettings> = {
  kind: 'colourBalance',
  name: 'Colour balance',
  explains: 'Towards red or cyan, green or magenta, blue or yellow, in shadows, midtones, highlights',
  group: 'A cast',
  schema,
  defaults: { ...(Object.fromEntries(KEYS.map((key) => [key, 0])) as Record<Key, number>), keepLightness: true },
  controls: [
    ...ZONES.flatMap((zone) =>
      PAIRS.map(([pair, label]) => ({
        key: `${zone}${pair}` as Key,
        label,
        step: 1,
        signed: true,
        section: { shadows: 'Shadows', midtones: 'Midtones', highlights: 'Highlights' }[zone],
      })),
    ),
    { key: 'keepLightness', label: 'Keep lightness' },
  ],
  isNeutral: (settings) => KEYS.every((key) => settings[key] === 0),
  dials: () => dialsOf<ColourBalanceSettings>(KEYS, [-100, 100], 10),
  solvable: (settings) => void (settings.keepLightness = false),
  apply(settings, { r, g, b }, n) {
    const [red, green, blue] = shiftsOf(settings);
    for (let i = 0; i < n; i++) {
      const k = zoneIndex(lumOf(r[i]!, g[i]!, b[i]!));
      const [x, y, z] = [red[k]!, green[k]!, blue[k]!];
      const light = settings.keepLightness ? lumOf(x, y, z) : 0;
      r[i] = r[i]! + x - light;
      g[i] = g[i]! + y - light;
      b[i] = b[i]! + z - light;
    }
  },
};
