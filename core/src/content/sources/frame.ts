import { Type, type Static } from '@sinclair/typebox';
import { readSourceRaster } from '../../base/sourceRaster.ts';
import { needOf } from '../../base/need.ts';
import { clamp, toTenth } from '../../base/number.ts';
import { fitLaid, laidProperties, layPhotograph } from '../laid.ts';
import type { Source } from '../source.ts';

const schema = Type.Object(
  {
    ...laidProperties,
    /** Over how many pixels its edge fades into what is below; left out: not at all. */
    fade: Type.Optional(Type.Number({ minimum: 0, maximum: 1000 })),
  },
  { additionalProperties: false },
);
export type FrameSettings = Static<typeof schema>;

const [MIDDLE, RIM] = ['Frame’s middle', 'Frame’s turn and scale'];
/** How far the rim's handle is from the middle at 100 %, so that dragging it is in the scale's proportion. */
const rimReach = (width: number, height: number): number => Math.min(width, height) / 4;

/** Another photograph of the shoot, moved, turned and scaled. */
export const frame: Source<'frame', FrameSettings> = {
  kind: 'frame',
  name: 'Frame',
  explains: 'Another photograph over this one',
  schema,
  create: () => ({ photograph: '', x: 0, y: 0, rotate: 0, scale: 100, leanX: 0, leanY: 0, fade: 0 }),
  controls: [
    { key: 'x', label: 'Across', step: 1, unit: 'px', signed: true, usual: [-500, 500] },
    { key: 'y', label: 'Down', step: 1, unit: 'px', signed: true, usual: [-500, 500] },
    { key: 'rotate', label: 'Rotate', step: 0.1, unit: '°', signed: true, usual: [-45, 45] },
    { key: 'scale', label: 'Scale', step: 0.1, unit: '%', usual: [10, 300] },
    { key: 'leanX', label: 'Nearer right', step: 0.1, unit: '%', signed: true, usual: [-20, 20] },
    { key: 'leanY', label: 'Nearer below', step: 0.1, unit: '%', signed: true, usual: [-20, 20] },
    { key: 'fade', label: 'Soft edge', step: 1, unit: 'px', usual: [0, 200] },
  ],
  summary: () => 'another photograph of the shoot',
  draw: (_settings, { raster, tile }, _backdrop, source, cover) => readSourceRaster(raster!, tile, source, cover),
  raster: {
    render: (settings, view) => layPhotograph(settings, settings.fade ?? 0, view),
    changedArea: () => null,
  },
  needs: ({ photograph }) => needOf(photograph),
  handles(settings, { width, height }) {
    if (settings.photograph === '') return [];
    const [x, y] = [width / 2 + settings.x, height / 2 + settings.y];
    const angle = (settings.rotate * Math.PI) / 180;
    const reach = (rimReach(width, height) * settings.scale) / 100;
    return [
      { name: MIDDLE, x, y },
      { name: RIM, x: x + reach * Math.cos(angle), y: y + reach * Math.sin(angle) },
    ];
  },
  moveHandle(settings, name, x, y, { width, height }) {
    if (name === MIDDLE) return void Object.assign(settings, { x: toTenth(x - width / 2), y: toTenth(y - height / 2) });
    const [dx, dy] = [x - width / 2 - settings.x, y - height / 2 - settings.y];
    settings.rotate = toTenth((Math.atan2(dy, dx) * 180) / Math.PI);
    settings.scale = toTenth(clamp((Math.hypot(dx, dy) / rimReach(width, height)) * 100, 1, 1000));
  },
  fit(settings, fit) {
    fitLaid(settings, fit);
    if (settings.fade) settings.fade = Math.min(1000, fit.size(settings.fade));
  },
};
