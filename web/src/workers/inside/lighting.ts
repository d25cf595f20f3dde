/** Which pixels of a viewport are lit up. */
import { createPlanes, readRaster } from '@umbo/core/base';
import { spaces } from '@umbo/core/colour';
import type { UmboDocument } from '@umbo/core/document';
import { litSteps, type LitBy } from '@umbo/core/measure';
import type { LitUp } from '../protocol';
import { renderBackdrop, resultAt, type Viewport } from './viewport';

/** The measures of a viewport's pixels: found once, while the range that is lit moves. */
interface Kept {
  readonly viewport: Viewport;
  readonly document: UmboDocument;
  readonly layerId: string | null;
  readonly of: LitUp['of'];
  readonly by: LitBy;
  readonly steps: Int16Array;
}
let kept: Kept | null = null;

/** How far each pixel of the viewport is lit, 0..65535; null where that is not known (yet). */
export function litPixels(
  viewport: Viewport,
  document: UmboDocument,
  layerId: string | null,
  { of, by, shares }: LitUp,
): Uint16Array | null {
  const now = { viewport, document, layerId, of, by };
  if (!kept || Object.entries(now).some(([key, value]) => kept![key as keyof Kept] !== value)) {
    const steps = stepsOf(now);
    if (!steps) return null;
    kept = { ...now, steps };
  }
  const table = Uint16Array.from(shares, (share) => share * 65535);
  const lit = new Uint16Array(kept.steps.length);
  for (let i = 0; i < lit.length; i++) lit[i] = kept.steps[i]! < 0 ? 0 : table[kept.steps[i]!]!;
  return lit;
}

function stepsOf({ viewport, document, layerId, of, by }: Omit<Kept, 'steps'>): Int16Array | null {
  const { area, source } = viewport;
  const space = spaces[document.workingSpace];
  const out = new Int16Array(area.width * area.height);
  if (of !== 'below') {
    const pixels = createPlanes(out.length);
    if (of === 'photograph') readRaster(source, area, pixels);
    else for (let i = 0; i < out.length; i++) for (const [c, plane] of PLANES) pixels[plane][i] = resultAt(viewport, i, c);
    litSteps(space, by, pixels, out.length, out);
    return out;
  }
  const isKnown =
    layerId !== null &&
    renderBackdrop(viewport, document, layerId, area, (tile, pixels) => {
      const n = tile.width * tile.height;
      const steps = new Int16Array(n);
      litSteps(space, by, pixels, n, steps);
      for (let y = 0; y < tile.height; y++)
        out.set(steps.subarray(y * tile.width, (y + 1) * tile.width), (tile.y - area.y + y) * area.width + tile.x - area.x);
    });
  return isKnown ? out : null;
}

const PLANES = [
  [0, 'r'],
  [1, 'g'],
  [2, 'b'],
] as const;
