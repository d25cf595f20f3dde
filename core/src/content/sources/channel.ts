import type { ColourSpace } from '../../base/space.ts';
import { unit } from '../../base/number.ts';
import { Type, type Static } from '@sinclair/typebox';
import { HUE_INDEX_STEPS, hueIndex, hueOfIndex } from '../../colour/hueIndex.ts';
import { labOf } from '../../colour/lab.ts';
import { rgbToOklab } from '../../colour/oklab.ts';
import { heldIn } from '../../colour/betweenSpaces.ts';
import { srgb } from '../../colour/spaces.ts';
import { inksOf } from '../../colour/inks.ts';
import type { Source } from '../source.ts';

const CHANNELS = {
  rgb: [
    ['r', 'Red'],
    ['g', 'Green'],
    ['b', 'Blue'],
  ],
  hsl: [
    ['h', 'Hue'],
    ['s', 'Saturation'],
    ['l', 'Lightness'],
  ],
  lab: [
    ['l', 'Lightness'],
    ['a', 'a: green to magenta'],
    ['b', 'b: blue to yellow'],
  ],
  oklch: [
    ['l', 'Lightness'],
    ['c', 'Chroma'],
    ['h', 'Hue'],
  ],
  cmyk: [
    ['c', 'Cyan'],
    ['m', 'Magenta'],
    ['y', 'Yellow'],
    ['k', 'Black'],
  ],
} as const;
type Model = keyof typeof CHANNELS;

const schema = Type.Object(
  {
    model: Type.Union((Object.keys(CHANNELS) as Model[]).map((model) => Type.Literal(model))),
    /** A letter of the model's name; one that the model does not have stands for its first. */
    channel: Type.Unsafe<string>({ enum: ['r', 'g', 'b', 'h', 's', 'l', 'a', 'c', 'm', 'y', 'k'] }),
  },
  { additionalProperties: false },
);
export type ChannelSettings = Static<typeof schema>;

/** The OKLCh hue over the hue index, 0..1. */
const hues = Float32Array.from({ length: HUE_INDEX_STEPS + 1 }, (_, i) => hueOfIndex(i % HUE_INDEX_STEPS) / 360);

/** One channel of one colour, encoded RGB in, 0..1 out; `scratch` holds four values. */
const READ: Record<Model, (channel: number, r: number, g: number, b: number, scratch: Float64Array, space: ColourSpace) => number> = {
  rgb: (channel, r, g, b) => (channel === 0 ? r : channel === 1 ? g : b),
  hsl(channel, r, g, b) {
    [r, g, b] = [unit(r), unit(g), unit(b)];
    const max = Math.max(r, g, b);
    const min = Math.min(r, g, b);
    const d = max - min;
    if (channel === 2) return (max + min) / 2;
    if (d === 0) return 0;
    if (channel === 1) return d / (max + min <= 1 ? max + min : 2 - max - min);
    const sextant = max === r ? (g - b) / d + (g < b ? 6 : 0) : max === g ? (b - r) / d + 2 : (r - g) / d + 4;
    return sextant / 6;
  },
  lab(channel, r, g, b, scratch, space) {
    labOf(space, r, g, b, scratch);
    return channel === 0 ? scratch[0]! / 100 : (scratch[channel]! + 128) / 255;
  },
  oklch(channel, r, g, b, scratch, space) {
    rgbToOklab(space, r, g, b, scratch);
    if (channel === 0) return scratch[0]!;
    const [a, d] = [scratch[1]!, scratch[2]!];
    return channel === 1 ? Math.sqrt(a * a + d * d) / 0.4 : hues[hueIndex(a, d) | 0]!;
  },
  // Ink as a printing plate shows it: dark where there is much of it.
  cmyk(channel, r, g, b, scratch) {
    inksOf(unit(r), unit(g), unit(b), scratch);
    return 1 - scratch[channel]!;
  },
};

/** One channel of the picture below as a grey. */
export const channel: Source<'channel', ChannelSettings> = {
  kind: 'channel',
  name: 'Channel',
  schema,
  create: () => ({ model: 'rgb', channel: 'r' }),
  controls: [
    {
      key: 'model',
      label: 'Model',
      options: [
        ['rgb', 'RGB'],
        ['hsl', 'HSL'],
        ['lab', 'Lab'],
        ['oklch', 'OKLCh'],
        ['cmyk', 'CMYK'],
      ],
    },
    ...(Object.keys(CHANNELS) as Model[]).map((model) => ({
      key: 'channel' as const,
      label: 'Channel',
      options: CHANNELS[model],
      when: (settings: ChannelSettings) => settings.model === model,
    })),
  ],
  summary: ({ model, channel: letter }) => `${model.toUpperCase()} ${letter.toUpperCase()}`,
  draw({ model, channel: letter }, { space, tile }, below, own, cover) {
    const n = tile.width * tile.height;
    const read = READ[model];
    const index = Math.max(
      0,
      CHANNELS[model].findIndex(([id]) => id === letter),
    );
    const scratch = new Float64Array(4);
    const { r, g, b } = model === 'cmyk' ? heldIn(srgb, space, below, n) : below;
    const grey = own.r;
    for (let i = 0; i < n; i++) grey[i] = read(index, r[i]!, g[i]!, b[i]!, scratch, space);
    own.g.set(grey.subarray(0, n));
    own.b.set(grey.subarray(0, n));
    cover.fill(1, 0, n);
  },
};
