import { Type, type Static } from '@sinclair/typebox';
import { colourSchema, type Colour } from '../../colour/colour.ts';
import { GRADIENT_STEPS as STEPS, gradientRamp, gradientStop, type Ramp } from '../../colour/gradient.ts';
import type { Size } from '../../base/geometry.ts';
import type { Source, SourceView } from '../source.ts';

const place = Type.Object(
  { x: Type.Number({ minimum: -1e6, maximum: 1e6 }), y: Type.Number({ minimum: -1e6, maximum: 1e6 }) },
  { additionalProperties: false },
);
const schema = Type.Object(
  {
    shape: Type.Union([Type.Literal('colour'), Type.Literal('linear'), Type.Literal('radial')]),
    /** The colour of a fill that is no gradient. */
    colour: colourSchema,
    stops: Type.Array(gradientStop, { minItems: 2, maxItems: 16 }),
    /** Where a gradient begins and ends, in pixels of the full photograph; a radial one runs from its centre to a point of its rim. */
    from: place,
    to: place,
  },
  { additionalProperties: false },
);
export type FillSettings = Static<typeof schema>;

const ramps = new WeakMap<FillSettings, Ramp>();

function drawGradient(
  settings: FillSettings,
  { scale, tile }: SourceView,
  own: { r: Float32Array; g: Float32Array; b: Float32Array },
  cover: Float32Array,
): void {
  let ramp = ramps.get(settings);
  if (!ramp) ramps.set(settings, (ramp = gradientRamp(settings.stops)));
  const perX = scale.full.width / scale.picture.width;
  const perY = scale.full.height / scale.picture.height;
  const { from, to, shape } = settings;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const length2 = Math.max(1e-6, dx * dx + dy * dy);
  const toLength = 1 / Math.sqrt(length2);
  for (let y = 0, i = 0; y < tile.height; y++) {
    const py = (tile.y + y + 0.5) * perY - from.y;
    for (let x = 0; x < tile.width; x++, i++) {
      const px = (tile.x + x + 0.5) * perX - from.x;
      const t = shape === 'linear' ? (px * dx + py * dy) / length2 : Math.sqrt(px * px + py * py) * toLength;
      const k = t > 0 ? (t < 1 ? (t * STEPS + 0.5) | 0 : STEPS) : 0;
      own.r[i] = ramp.r[k]!;
      own.g[i] = ramp.g[k]!;
      own.b[i] = ramp.b[k]!;
      cover[i] = ramp.a[k]!;
    }
  }
}

/** A middle grey, before anyone has sampled a colour. */
const GREY: Colour = [0.5, 0.5, 0.5];

/** A colour, or a gradient between colours. */
export const fill: Source<'fill', FillSettings> = {
  kind: 'fill',
  name: 'Fill',
  schema,
  create: ({ width, height }: Size) => ({
    shape: 'colour',
    colour: [...GREY],
    stops: [
      { at: 0, colour: [0, 0, 0], opacity: 1 },
      { at: 1, colour: [1, 1, 1], opacity: 1 },
    ],
    from: { x: width / 2, y: height * 0.25 },
    to: { x: width / 2, y: height * 0.75 },
  }),
  controls: [
    {
      key: 'shape',
      label: 'Shape',
      options: [
        ['colour', 'Colour'],
        ['linear', 'Linear'],
        ['radial', 'Radial'],
      ],
    },
  ],
  summary: ({ shape }) => (shape === 'colour' ? 'one colour' : `${shape} gradient`),
  draw(settings, view, _below, own, cover) {
    if (settings.shape !== 'colour') return drawGradient(settings, view, own, cover);
    const n = view.tile.width * view.tile.height;
    own.r.fill(settings.colour[0], 0, n);
    own.g.fill(settings.colour[1], 0, n);
    own.b.fill(settings.colour[2], 0, n);
    cover.fill(1, 0, n);
  },
  fit(settings, fit) {
    for (const point of [settings.from, settings.to]) Object.assign(point, { x: fit.x(point.x), y: fit.y(point.y) });
  },
};
