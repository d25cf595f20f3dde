/** The channels of five models, each as a grey of 0..1. */
import { Type, type Static } from '@sinclair/typebox';
import { unit } from '../base/number.ts';
import type { Planes } from '../base/planes.ts';
import type { ColourSpace } from '../base/space.ts';
import { heldIn } from './betweenSpaces.ts';
import { HUE_INDEX_STEPS, hueIndex, hueOfIndex } from './hueIndex.ts';
import { inksOf } from './inks.ts';
import { labOf } from './lab.ts';
import { rgbToOklab } from './oklab.ts';
import { srgb } from './spaces.ts';

export const CHANNELS = {
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
export type ChannelModel = keyof typeof CHANNELS;
export const CHANNEL_MODELS = Object.keys(CHANNELS) as ChannelModel[];

export const channelSchema = Type.Object(
  {
    model: Type.Union(CHANNEL_MODELS.map((model) => Type.Literal(model))),
    /** A letter of the model's name; one that the model does not have stands for its first. */
    channel: Type.Unsafe<string>({ enum: ['r', 'g', 'b', 'h', 's', 'l', 'a', 'c', 'm', 'y', 'k'] }),
  },
  { additionalProperties: false },
);
export type Channel = Static<typeof channelSchema>;

/** Every channel, model after model. */
export const channels: readonly Channel[] = CHANNEL_MODELS.flatMap((model) => CHANNELS[model].map(([channel]) => ({ model, channel })));

const MODEL_NAMES: Record<ChannelModel, string> = { rgb: 'RGB', hsl: 'HSL', lab: 'Lab', oklch: 'OKLCh', cmyk: 'CMYK' };
export const modelName = (model: ChannelModel): string => MODEL_NAMES[model];
/** A few words, such as "Lab A". */
export const channelWords = ({ model, channel }: Channel): string => `${modelName(model)} ${channel.toUpperCase()}`;

/** The OKLCh hue over the hue index, 0..1. */
const hues = Float32Array.from({ length: HUE_INDEX_STEPS + 1 }, (_, i) => hueOfIndex(i % HUE_INDEX_STEPS) / 360);

/** One channel of one colour, encoded RGB in, 0..1 out; `scratch` holds four values. */
const READ: Record<ChannelModel, (index: number, r: number, g: number, b: number, scratch: Float64Array, space: ColourSpace) => number> = {
  rgb: (index, r, g, b) => (index === 0 ? r : index === 1 ? g : b),
  hsl(index, r, g, b) {
    [r, g, b] = [unit(r), unit(g), unit(b)];
    const max = Math.max(r, g, b);
    const min = Math.min(r, g, b);
    const d = max - min;
    if (index === 2) return (max + min) / 2;
    if (d === 0) return 0;
    if (index === 1) return d / (max + min <= 1 ? max + min : 2 - max - min);
    const sextant = max === r ? (g - b) / d + (g < b ? 6 : 0) : max === g ? (b - r) / d + 2 : (r - g) / d + 4;
    return sextant / 6;
  },
  lab(index, r, g, b, scratch, space) {
    labOf(space, r, g, b, scratch);
    return index === 0 ? scratch[0]! / 100 : (scratch[index]! + 128) / 255;
  },
  oklch(index, r, g, b, scratch, space) {
    rgbToOklab(space, r, g, b, scratch);
    if (index === 0) return scratch[0]!;
    const [a, d] = [scratch[1]!, scratch[2]!];
    return index === 1 ? Math.sqrt(a * a + d * d) / 0.4 : hues[hueIndex(a, d) | 0]!;
  },
  // Ink as a printing plate shows it: dark where there is much of it.
  cmyk(index, r, g, b, scratch) {
    inksOf(unit(r), unit(g), unit(b), scratch);
    return 1 - scratch[index]!;
  },
};

/**
 * Writes a channel of the first `n` pixels, encoded, as greys: the numbers of the model over their usual range, so nominal 0..1. Inks are those
 * of inks.ts.
 */
export function channelPlane(space: ColourSpace, { model, channel }: Channel, pixels: Planes, n: number, out: Float32Array): void {
  const read = READ[model];
  const index = Math.max(
    0,
    CHANNELS[model].findIndex(([id]) => id === channel),
  );
  const scratch = new Float64Array(4);
  const { r, g, b } = model === 'cmyk' ? heldIn(srgb, space, pixels, n) : pixels;
  for (let i = 0; i < n; i++) out[i] = read(index, r[i]!, g[i]!, b[i]!, scratch, space);
}
