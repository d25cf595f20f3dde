import { mappingOf, mapX, mapY } from '../../base/mapping.ts';
import { Type, type Static } from '@sinclair/typebox';
import { createOwnRaster, readOwnRaster } from '../../base/ownRaster.ts';
import { needOf, photographName } from '../../base/need.ts';
import { clamp, toTenth } from '../../base/number.ts';
import type { Source } from '../source.ts';

const schema = Type.Object(
  {
    photograph: photographName,
    /** How far its centre lies from the centre of the photograph in work, in pixels of the latter. */
    x: Type.Number({ minimum: -100_000, maximum: 100_000 }),
    y: Type.Number({ minimum: -100_000, maximum: 100_000 }),
    /** Degrees, clockwise. */
    rotate: Type.Number({ minimum: -180, maximum: 180 }),
    /** Percent of its own size. */
    scale: Type.Number({ minimum: 1, maximum: 1000 }),
    /** Over how many pixels its edge fades into what is below; left out: not at all. */
    fade: Type.Optional(Type.Number({ minimum: 0, maximum: 1000 })),
  },
  { additionalProperties: false },
);
export type FrameSettings = Static<typeof schema>;

/** Weights of the four neighbours at `t` past the second: R. Keys, "Cubic convolution interpolation" (1981), a = -1/2. */
function cubic(t: number, out: Float64Array): void {
  out[0] = ((-0.5 * t + 1) * t - 0.5) * t;
  out[1] = (1.5 * t - 2.5) * t * t + 1;
  out[2] = ((-1.5 * t + 2) * t + 0.5) * t;
  out[3] = (0.5 * t - 0.5) * t * t;
}

const [MIDDLE, RIM] = ['Frame’s middle', 'Frame’s turn and scale'];
/** How far the rim's handle is from the middle at 100 %, so that dragging it is in the scale's proportion. */
const rimReach = (width: number, height: number): number => Math.min(width, height) / 4;

/** Another photograph of the shoot, moved, turned and scaled. */
export const frame: Source<'frame', FrameSettings> = {
  kind: 'frame',
  name: 'Frame',
  schema,
  create: () => ({ photograph: '', x: 0, y: 0, rotate: 0, scale: 100, fade: 0 }),
  controls: [
    { key: 'x', label: 'Across', step: 1, unit: 'px', signed: true, usual: [-500, 500] },
    { key: 'y', label: 'Down', step: 1, unit: 'px', signed: true, usual: [-500, 500] },
    { key: 'rotate', label: 'Rotate', step: 0.1, unit: '°', signed: true, usual: [-45, 45] },
    { key: 'scale', label: 'Scale', step: 0.1, unit: '%', usual: [10, 300] },
    { key: 'fade', label: 'Soft edge', step: 1, unit: 'px', usual: [0, 200] },
  ],
  summary: () => 'another photograph of the shoot',
  draw: (_settings, { raster, tile }, _below, own, cover) => readOwnRaster(raster!, tile, own, cover),
  raster: {
    render(settings, view) {
      const { region, full: whole } = view;
      const out = createOwnRaster(region);
      const [need] = needOf(settings.photograph);
      const other = need ? view.find(need) : null;
      if (!other) return out;
      const { level, full } = other;
      const { width, height } = level.area;
      const angle = (settings.rotate * Math.PI) / 180;
      // From a pixel of the picture in work to the level: first into full pixels about the centre, then turned and scaled back.
      const { toPhotograph } = mappingOf(view);
      const k = 100 / settings.scale;
      const [cos, sin] = [Math.cos(angle) * k, Math.sin(angle) * k];
      const [lx, ly] = [width / full.width, height / full.height];
      // A rim of one pixel at least, so that turned edges stay smooth.
      const rim = Math.max(1, (settings.fade ?? 0) * k * lx);
      const wx = new Float64Array(4);
      const wy = new Float64Array(4);
      for (let y = 0, i = 0; y < region.height; y++) {
        for (let x = 0; x < region.width; x++, i++) {
          const [cx, cy] = [region.x + x + 0.5, region.y + y + 0.5];
          const dx = mapX(toPhotograph, cx, cy) - whole.width / 2 - settings.x;
          const dy = mapY(toPhotograph, cx, cy) - whole.height / 2 - settings.y;
          const px = (dx * cos + dy * sin + full.width / 2) * lx - 0.5;
          const py = (dy * cos - dx * sin + full.height / 2) * ly - 0.5;
          const inside = Math.min(px + 1, width - px, py + 1, height - py);
          if (!(inside > 0)) continue;
          const x0 = Math.floor(px);
          const y0 = Math.floor(py);
          cubic(px - x0, wx);
          cubic(py - y0, wy);
          let r = 0;
          let g = 0;
          let b = 0;
          for (let j = 0; j < 4; j++) {
            const row = y0 - 1 + j;
            const start = (row < 0 ? 0 : row >= height ? height - 1 : row) * width;
            for (let c = 0; c < 4; c++) {
              const column = x0 - 1 + c;
              const at = start + (column < 0 ? 0 : column >= width ? width - 1 : column);
              const w = wx[c]! * wy[j]!;
              r += level.r[at]! * w;
              g += level.g[at]! * w;
              b += level.b[at]! * w;
            }
          }
          out.r[i] = r > 0 ? (r < 65535 ? r + 0.5 : 65535) : 0;
          out.g[i] = g > 0 ? (g < 65535 ? g + 0.5 : 65535) : 0;
          out.b[i] = b > 0 ? (b < 65535 ? b + 0.5 : 65535) : 0;
          out.a[i] = inside < rim ? (inside / rim) * 65535 + 0.5 : 65535;
        }
      }
      return out;
    },
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
    settings.x = fit.x(settings.x);
    settings.y = fit.y(settings.y);
    settings.scale = Math.max(1, Math.min(1000, fit.size(settings.scale)));
    if (settings.fade) settings.fade = Math.min(1000, fit.size(settings.fade));
  },
};
