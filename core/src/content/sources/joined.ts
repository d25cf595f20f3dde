/** Several frames as one picture: the mean of them has less noise, the median also leaves out what is only in some of them. */
import { Type, type Static } from '@sinclair/typebox';
import { needOf } from '../../base/need.ts';
import { createOwnRaster, readSourceRaster } from '../../base/sourceRaster.ts';
import { writeRaster } from '../../base/planes.ts';
import { fitLaid, laidSchema, layPhotograph } from '../laid.ts';
import type { Source } from '../source.ts';

/** As many as fit into the memory of a browser at the size of a stage. */
export const MOST_FRAMES = 16;
const schema = Type.Object(
  {
    by: Type.Union([Type.Literal('mean'), Type.Literal('median')]),
    /** Those that are joined with the photograph in work. */
    frames: Type.Array(laidSchema, { maxItems: MOST_FRAMES }),
  },
  { additionalProperties: false },
);
export type JoinedSettings = Static<typeof schema>;

const PLANES = ['r', 'g', 'b'] as const;
const HALF = 32_768;

/** The middle of the first `n` values, which are sorted in place; of an even number the mean of both. */
function median(values: Float64Array, n: number): number {
  // Few values: what is in order already stays where it is.
  for (let i = 1; i < n; i++) {
    const v = values[i]!;
    let j = i - 1;
    for (; j >= 0 && values[j]! > v; j--) values[j + 1] = values[j]!;
    values[j + 1] = v;
  }
  return n % 2 === 1 ? values[n >> 1]! : (values[n / 2 - 1]! + values[n / 2]!) / 2;
}

/** The mean or median, channel by channel, of all frames that cover a pixel, the photograph in work always among them. */
export const joined: Source<'joined', JoinedSettings> = {
  kind: 'joined',
  name: 'Frames joined',
  explains: 'Several photographs joined as one',
  schema,
  create: () => ({ by: 'median', frames: [] }),
  controls: [
    {
      key: 'by',
      label: 'Joined by',
      options: [
        ['mean', 'Mean'],
        ['median', 'Median'],
      ],
    },
  ],
  summary: ({ by, frames }) => `${by} of ${frames.length + 1}`,
  draw: (_settings, { raster, tile }, _backdrop, source, cover) => readSourceRaster(raster!, tile, source, cover),
  raster: {
    render({ by, frames }, view) {
      const out = createOwnRaster(view.region);
      writeRaster(out, view.region, view.photograph());
      out.a.fill(65535);
      const laid = frames.map((frame) => layPhotograph(frame, 0, view));
      const values = new Float64Array(laid.length + 1);
      for (const plane of PLANES) {
        const into = out[plane];
        for (let i = 0; i < into.length; i++) {
          let n = 0;
          let sum = (values[n++] = into[i]!);
          for (const frame of laid)
            if (frame.a[i]! >= HALF) {
              const v = frame[plane][i]!;
              values[n++] = v;
              sum += v;
            }
          into[i] = (by === 'mean' ? sum / n : median(values, n)) + 0.5;
        }
      }
      return out;
    },
    changedArea: () => null,
  },
  needs: ({ frames }) => frames.flatMap(({ photograph }) => needOf(photograph)),
  fit: ({ frames }, fit) => frames.forEach((frame) => fitLaid(frame, fit)),
};
