/** Drawing another photograph as it lies on the one in work. */
import { Type, type Static } from '@sinclair/typebox';
import type { Fit } from '../base/fit.ts';
import { clamp } from '../base/number.ts';
import { stretchOf } from '../base/stretch.ts';
import { needOf, photographName } from '../base/need.ts';
import { createOwnRaster, type SourceRaster } from '../base/sourceRaster.ts';
import type { RasterView } from './source.ts';

const lean = Type.Number({ minimum: -60, maximum: 60 });

/** Which photograph, and where it lies. */
export const laidProperties = {
  photograph: photographName,
  /** How far its centre lies from the centre of the photograph in work, in pixels of the latter. */
  x: Type.Number({ minimum: -100_000, maximum: 100_000 }),
  y: Type.Number({ minimum: -100_000, maximum: 100_000 }),
  /** Degrees, clockwise. */
  rotate: Type.Number({ minimum: -180, maximum: 180 }),
  /** Percent of its own size. */
  scale: Type.Number({ minimum: 1, maximum: 1000 }),
  /** Perspective: how much nearer it is, in percent, over the longer side of the photograph in work, to the right and down; left out: no. */
  leanX: Type.Optional(lean),
  leanY: Type.Optional(lean),
};
export const laidSchema = Type.Object(laidProperties, { additionalProperties: false });
export type LaidPhotograph = Static<typeof laidSchema>;

export function fitLaid(laid: LaidPhotograph, fit: Fit): void {
  laid.x = fit.x(laid.x);
  laid.y = fit.y(laid.y);
  laid.scale = clamp(fit.size(laid.scale), 1, 1000);
}

/** Weights of the four neighbours at `t` past the second: R. Keys, "Cubic convolution interpolation" (1981), a = -1/2. */
function cubic(t: number, out: Float64Array): void {
  out[0] = ((-0.5 * t + 1) * t - 0.5) * t;
  out[1] = (1.5 * t - 2.5) * t * t + 1;
  out[2] = ((-1.5 * t + 2) * t + 0.5) * t;
  out[3] = (0.5 * t - 0.5) * t * t;
}

/** @param fade over how many pixels its edge fades, in pixels of the photograph in work */
export function layPhotograph(laid: LaidPhotograph, fade: number, view: RasterView): SourceRaster {
  const { region, full: whole } = view;
  const out = createOwnRaster(region);
  const [need] = needOf(laid.photograph);
  const other = need ? view.find(need) : null;
  if (!other) return out;
  const { level, full } = other;
  const { width, height } = level.area;
  const angle = (laid.rotate * Math.PI) / 180;
  // From a pixel of the picture in work to the level: first into full pixels about the centre, then turned and scaled back.
  const { toPhotograph } = stretchOf(view);
  const longer = 100 * Math.max(whole.width, whole.height);
  const [leanX, leanY] = [(laid.leanX ?? 0) / longer, (laid.leanY ?? 0) / longer];
  const k = 100 / laid.scale;
  const [cos, sin] = [Math.cos(angle) * k, Math.sin(angle) * k];
  const [lx, ly] = [width / full.width, height / full.height];
  // A rim of one pixel at least, so that turned edges stay smooth.
  const rim = Math.max(1, fade * k * lx);
  const wx = new Float64Array(4);
  const wy = new Float64Array(4);
  for (let y = 0, i = 0; y < region.height; y++) {
    for (let x = 0; x < region.width; x++, i++) {
      const [cx, cy] = [region.x + x + 0.5, region.y + y + 0.5];
      const [qx, qy] = [cx * toPhotograph.x - whole.width / 2, cy * toPhotograph.y - whole.height / 2];
      const nearer = 1 + leanX * qx + leanY * qy;
      const [dx, dy] = [qx / nearer - laid.x, qy / nearer - laid.y];
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
}
