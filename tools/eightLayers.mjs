/** An edit of eight layers of different kinds, for measuring and for pictures. Plain data, as documents hold it. */
const how = (mode = 'normal', opacity = 1, more = {}) => ({ mode, opacity, ...more });
const where = (parts = [], feather = 0) => ({
  parts,
  refine: feather > 0 ? [{ kind: 'feather', radius: feather }] : [],
  strength: 1,
  invert: false,
});
const hues = (id, from, span) => ({
  id,
  kind: 'hueRange',
  on: true,
  invert: false,
  combine: 'add',
  from,
  fadeIn: 15,
  span,
  fadeOut: 15,
  greys: 0.02,
});
const hueSaturation = (hue, saturation, lightness) => ({
  kind: 'hueSaturation',
  settings: { model: 'oklch', hue, saturation, lightness, colourise: false, colouriseHue: 40, colouriseSaturation: 30 },
});
const channel = (black, white, middle) => ({ black, white, middle, low: 0, high: 255 });
const fill = (width, height, colour, shape = 'colour') => ({
  kind: 'fill',
  settings: {
    shape,
    colour,
    stops: [
      { at: 0, colour, opacity: 0.8 },
      { at: 1, colour, opacity: 0 },
    ],
    from: { x: width / 2, y: 0 },
    to: { x: width / 2, y: height / 2 },
  },
});
const layer = (id, name, what, more = {}) => ({ id, name, on: true, where: where(), what, how: how(), ...more });

/** @param size of the photograph that the edit is for */
export function eightLayers({ width, height }) {
  const stroke = { id: 's', size: width / 16, hardness: 0.2, flow: 0.4, opacity: 0.6, erase: false, colour: [0.78, 0.42, 0.36] };
  const across = Array.from({ length: 40 }, (_, i) => [
    width * (0.35 + 0.3 * (i / 39)),
    height * (0.42 + 0.03 * Math.sin(i / 4)),
    1,
  ]).flat();
  return [
    layer('levels', 'Levels', {
      kind: 'levels',
      settings: { rgb: channel(6, 248, 1.08), r: channel(0, 255, 1), g: channel(0, 255, 1), b: channel(0, 255, 1) },
    }),
    layer('greens', 'Calm greens', hueSaturation(-8, -25, 0), { where: where([hues('g', 105, 60)]) }),
    layer('fall', 'Darker above', fill(width, height, [0.1, 0.12, 0.2], 'linear'), { how: how('multiply', 0.5) }),
    layer(
      'light',
      'Light',
      { kind: 'self', settings: { times: 1 } },
      {
        how: how('soft-light', 0.3, { limitsBelow: { low: [0, 20], high: [70, 95], smooth: true } }),
      },
    ),
    layer('skin', 'Skin', hueSaturation(-6, 4, 2), {
      where: where([hues('s', 20, 50)], 6),
      how: how('normal', 1, { letThrough: { lightness: 0.5, hue: 1, chroma: 0.7 } }),
    }),
    {
      ...layer('warm', 'Warmth', {
        kind: 'group',
        settings: { apart: true },
        layers: [
          layer('glow', 'Glow', fill(width, height, [0.98, 0.84, 0.76])),
          layer('less', 'Less of it', hueSaturation(0, -30, 0), { clip: true }),
        ],
      }),
      how: how('soft-light', 0.15),
    },
    {
      ...layer('lips', 'Cheeks and lips', { kind: 'paint', settings: { strokes: [{ ...stroke, points: across }] } }),
      how: how('color', 0.25),
    },
    layer('end', 'Finish', hueSaturation(0, 6, 0)),
  ];
}
