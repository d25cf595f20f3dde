import { stretchOf } from '../../base/stretch.ts';
import { Type, type Static } from '@sinclair/typebox';
import { colourSchema, type Colour } from '../../colour/colour.ts';
import { GRADIENT_STEPS as STEPS, gradientRamp, gradientStop } from '../../colour/gradient.ts';
import { colourDials } from '../../base/dial.ts';
import { lineNumbers } from '../../base/line.ts';
import { toTenth } from '../../base/number.ts';
import type { Size } from '../../base/geometry.ts';
import { madeOnceIn } from '../../base/madeOnce.ts';
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

const rampOf = madeOnceIn((space, { stops }: FillSettings) => gradientRamp(space, stops));

function drawGradient(
  settings: FillSettings,
  { scale, space, tile }: SourceView,
  source: { r: Float32Array; g: Float32Array; b: Float32Array },
  cover: Float32Array,
): void {
  const ramp = rampOf(space, settings);
  const { toPhotograph } = stretchOf(scale);
  const { from, to, shape } = settings;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const length2 = Math.max(1e-6, dx * dx + dy * dy);
  const toLength = 1 / Math.sqrt(length2);
  for (let y = 0, i = 0; y < tile.height; y++) {
    for (let x = 0; x < tile.width; x++, i++) {
      const [cx, cy] = [tile.x + x + 0.5, tile.y + y + 0.5];
      const px = cx * toPhotograph.x - from.x;
      const py = cy * toPhotograph.y - from.y;
      const t = shape === 'linear' ? (px * dx + py * dy) / length2 : Math.sqrt(px * px + py * py) * toLength;
      const k = t > 0 ? (t < 1 ? (t * STEPS + 0.5) | 0 : STEPS) : 0;
      source.r[i] = ramp.r[k]!;
      source.g[i] = ramp.g[k]!;
      source.b[i] = ramp.b[k]!;
      cover[i] = ramp.a[k]!;
    }
  }
}

const [BEGINS, ENDS] = ['Gradient begins', 'Gradient ends'];
/** A middle grey, before anyone has sampled a colour. */
const GREY: Colour = [0.5, 0.5, 0.5];

const NUMBERS = lineNumbers<FillSettings>();

/** A colour, or a gradient between colours. */
export const fill: Source<'fill', FillSettings> = {
  kind: 'fill',
  name: 'Fill',
  explains: 'A colour or gradient over the picture',
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
  byColour: ({ shape }) => shape === 'colour',
  oneColour: ({ shape, colour }) => (shape === 'colour' ? colour : null),
  colours: ({ shape, colour, stops }) => (shape === 'colour' ? [colour] : stops.map((stop) => stop.colour)),
  takeColour({ shape, colour, stops }, taken, chosen) {
    Object.assign(shape === 'colour' ? colour : (stops[chosen] ?? stops[0]!).colour, taken);
  },
  summary: ({ shape }) => (shape === 'colour' ? 'one colour' : `${shape} gradient`),
  dials: ({ shape }) => (shape === 'colour' ? colourDials<FillSettings>((settings) => settings.colour) : []),
  draw(settings, view, _backdrop, source, cover) {
    if (settings.shape !== 'colour') return drawGradient(settings, view, source, cover);
    const n = view.tile.width * view.tile.height;
    source.r.fill(settings.colour[0], 0, n);
    source.g.fill(settings.colour[1], 0, n);
    source.b.fill(settings.colour[2], 0, n);
    cover.fill(1, 0, n);
  },
  handles: ({ shape, from, to }) =>
    shape === 'colour'
      ? []
      : [
          { name: BEGINS, ...from },
          { name: ENDS, ...to },
        ],
  moveHandle(settings, name, x, y) {
    settings[name === BEGINS ? 'from' : 'to'] = { x: toTenth(x), y: toTenth(y) };
  },
  numbers: ({ shape }) => (shape === 'colour' ? [] : NUMBERS),
  fit(settings, fit) {
    for (const point of [settings.from, settings.to]) Object.assign(point, { x: fit.x(point.x), y: fit.y(point.y) });
  },
};
