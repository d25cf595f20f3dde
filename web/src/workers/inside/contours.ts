import { contours } from 'd3-contour';
import type { Rect } from '@umbo/core/base';

/** Mask pixels per grid cell: lines need not follow every grain. */
const CELL = 3;
const CONTOUR_LEVELS = [0.1, 0.5, 0.9] as const;

/** A contour line in pixels of the picture. */
export interface ContourLine {
  level: number;
  path: Path2D;
}

/** Ticks towards the inside stand on the middle line, this many cells apart, and are this long. */
const TICK_EVERY = 14;
const TICK = 2;

/** Where a place of the photograph is in the picture. */
export type PlaceOf = (x: number, y: number) => [number, number];

/**
 * Lines around where values are high, with ticks towards the inside on the one at `ticked`.
 * @param levels shares of the most that values can be; left out: 10, 50 and 90 % of a mask
 */
export function maskContours(
  values: Uint16Array,
  area: Rect,
  place: PlaceOf,
  levels: readonly number[] = CONTOUR_LEVELS,
  ticked = 0.5,
): ContourLine[] {
  const width = Math.ceil(area.width / CELL);
  const height = Math.ceil(area.height / CELL);
  if (width < 2 || height < 2) return [];
  const grid = new Float64Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0;
      let n = 0;
      for (let j = y * CELL; j < Math.min(area.height, (y + 1) * CELL); j++)
        for (let i = x * CELL; i < Math.min(area.width, (x + 1) * CELL); i++, n++) sum += values[j * area.width + i]!;
      grid[y * width + x] = sum / n / 65535;
    }
  const generator = contours().size([width, height]);
  const smooth = Array.from(blur(grid, width, height));
  return levels.map((level) => {
    const path = new Path2D();
    // Where a mask runs out of the picture there is no edge to show.
    const onBorder = (x: number, y: number): boolean => x <= 0.5 || y <= 0.5 || x >= width - 0.5 || y >= height - 0.5;
    for (const polygon of generator.contour(smooth, level).coordinates)
      for (const ring of polygon) {
        let wasOnBorder = true;
        if (level === ticked) drawTicks(path, ring as [number, number][], smooth, width, area, place);
        for (const [k, [x, y]] of ring.entries()) {
          const border = onBorder(x!, y!);
          const [px, py] = place(area.x + x! * CELL, area.y + y! * CELL);
          if (k === 0 || (border && wasOnBorder)) path.moveTo(px, py);
          else path.lineTo(px, py);
          wasOnBorder = border;
        }
      }
    return { level, path };
  });
}

/** Short strokes from a ring to the side on which the mask is higher. */
function drawTicks(
  path: Path2D,
  ring: readonly [number, number][],
  grid: readonly number[],
  width: number,
  area: Rect,
  place: PlaceOf,
): void {
  const height = grid.length / width;
  const at = (x: number, y: number): number =>
    grid[Math.max(0, Math.min(height - 1, Math.floor(y))) * width + Math.max(0, Math.min(width - 1, Math.floor(x)))]!;
  for (let k = TICK_EVERY >> 1; k < ring.length - 1; k += TICK_EVERY) {
    const [[ax, ay], [x, y], [bx, by]] = [ring[k - 1]!, ring[k]!, ring[k + 1]!];
    const length = Math.hypot(bx - ax, by - ay);
    if (length === 0 || x <= 1 || y <= 1 || x >= width - 1 || y >= height - 1) continue;
    const [nx, ny] = [-(by - ay) / length, (bx - ax) / length];
    const inner = at(x + 2 * nx, y + 2 * ny) >= at(x - 2 * nx, y - 2 * ny) ? 1 : -1;
    path.moveTo(...place(area.x + x * CELL, area.y + y * CELL));
    path.lineTo(...place(area.x + (x + inner * TICK * nx) * CELL, area.y + (y + inner * TICK * ny) * CELL));
  }
}

/** A 3 x 3 average, against lines around single grains. */
function blur(grid: Float64Array, width: number, height: number): Float64Array {
  const out = new Float64Array(grid.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let j = -1; j <= 1; j++)
        for (let i = -1; i <= 1; i++)
          sum += grid[Math.max(0, Math.min(height - 1, y + j)) * width + Math.max(0, Math.min(width - 1, x + i))]!;
      out[y * width + x] = sum / 9;
    }
  return out;
}
