import { Type, type Static } from '@sinclair/typebox';
import { stretchOf } from '../../base/stretch.ts';
import type { Adjustment } from '../adjustment.ts';
import { percent, strict } from '../range.ts';

const schema = Type.Object(
  {
    /** How far dots are apart, in pixels of the full photograph. */
    size: Type.Number({ minimum: 2, maximum: 100 }),
    /** Degrees by which all screens are turned. */
    turn: Type.Number({ minimum: -45, maximum: 45 }),
    /** How softly dots end. */
    soft: percent,
    inks: Type.Union([Type.Literal('three'), Type.Literal('black')]),
  },
  strict,
);
export type PrintScreenSettings = Static<typeof schema>;

/** Angles of the screens of cyan, magenta and yellow, and of black alone: common practice, no source. */
const ANGLES = { three: [15, 75, 0], black: [45, 45, 45] } as const;

const STEPS = 1024;
/** A period of a cosine, as a table: the same in every engine. */
const wave = Float32Array.from({ length: STEPS + 1 }, (_, i) => Math.round(Math.cos((2 * Math.PI * i) / STEPS) * 1e6) / 1e6);
const waveAt = (turns: number): number => wave[((turns - Math.floor(turns)) * STEPS) | 0]!;

/** From dots that a picture can still show, in pixels of it, to none: finer ones are their own mean. */
const [SHOWN, MEAN] = [3, 1.5];

/**
 * A printed screen: in place of tones, dots of one ink that grow with its amount, each ink's at an angle of its own. Dots end where a sum of
 * cosines, which has the same share of every height, is as high as the tone (a cosine spot: common practice, no source).
 */
export const printScreen: Adjustment<'printScreen', PrintScreenSettings> = {
  kind: 'printScreen',
  name: 'Printed screen',
  explains: 'Dots as in print',
  group: 'A look',
  schema,
  defaults: { size: 12, turn: 0, soft: 20, inks: 'three' },
  controls: [
    { key: 'size', label: 'Dots apart', step: 0.5, unit: 'px', usual: [2, 40] },
    { key: 'turn', label: 'Turned', step: 1, unit: '°', signed: true },
    { key: 'soft', label: 'Soft', step: 1 },
    {
      key: 'inks',
      label: 'Inks',
      options: [
        ['three', 'Three'],
        ['black', 'Black'],
      ],
    },
  ],
  isNeutral: () => false,
  placed: true,
  apply({ size, turn, soft, inks }, pixels, _n, { scale, tile }) {
    const perPixel = stretchOf(scale).toPhotograph.x;
    const shown = (size / perPixel - MEAN) / (SHOWN - MEAN);
    const strength = shown > 0 ? Math.min(1, shown) : 0;
    if (strength === 0) return;
    const steep = 1 / (0.02 + (soft / 100) * 0.5);
    const dotted = (plane: Float32Array, angle: number): void => {
      const [cos, sin] = [Math.cos(((angle + turn) * Math.PI) / 180) / size, Math.sin(((angle + turn) * Math.PI) / 180) / size];
      for (let row = 0, i = 0; row < tile.height; row++) {
        const y = (tile.y + row + 0.5) * perPixel;
        for (let column = 0; column < tile.width; column++, i++) {
          const x = (tile.x + column + 0.5) * perPixel;
          const height = heightOf(0.5 + 0.25 * (waveAt(cos * x + sin * y) + waveAt(cos * y - sin * x)));
          const tone = plane[i]!;
          const dot = (tone - height) * steep + 0.5;
          const made = dot > 0 ? (dot < 1 ? dot : 1) : 0;
          plane[i] = tone + (made - tone) * strength;
        }
      }
    };
    if (inks === 'black') {
      const { r, g, b } = pixels;
      for (let i = 0; i < tile.width * tile.height; i++) r[i] = 0.3 * r[i]! + 0.59 * g[i]! + 0.11 * b[i]!;
      dotted(r, ANGLES.black[0]);
      g.set(r.subarray(0, tile.width * tile.height));
      b.set(r.subarray(0, tile.width * tile.height));
    } else for (const [c, plane] of [pixels.r, pixels.g, pixels.b].entries()) dotted(plane, ANGLES.three[c]!);
  },
  fit: (settings, fit) => void (settings.size = Math.max(2, Math.min(100, fit.size(settings.size)))),
};

/** The share of a cell that lies lower than each height, so that a tone covers as much of it as it is light; found once, by counting. */
let made: Float32Array | undefined;
function sharesBelow(): Float32Array {
  const counts = new Float64Array(STEPS + 2);
  const N = 512;
  for (let y = 0; y < N; y++)
    for (let x = 0; x < N; x++) {
      const height = 0.5 + 0.25 * (waveAt((x + 0.5) / N) + waveAt((y + 0.5) / N));
      counts[Math.floor(height * STEPS) + 1]! += 1 / (N * N);
    }
  for (let i = 1; i < counts.length; i++) counts[i]! += counts[i - 1]!;
  return Float32Array.from(counts);
}
const heightOf = (height: number): number => {
  const shares = (made ??= sharesBelow());
  const at = height * STEPS;
  const k = at | 0;
  return shares[k]! + (shares[k + 1]! - shares[k]!) * (at - k);
};
