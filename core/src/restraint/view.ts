/** What notes are made from: the picture before and after, small, and what masks let in of it. */
import type { Scale } from '../base/geometry.ts';
import type { Pictures } from '../base/pictures.ts';
import { createPlanes, readRaster, type Planes, type Raster } from '../base/planes.ts';
import type { ColourSpace } from '../base/space.ts';
import { rgbToLab, type Lab } from '../colour/lab.ts';
import { spaceOf } from '../colour/spaces.ts';
import type { Region, Role } from '../document/region.ts';
import { findResolved, resolveLayers, type ResolvedLayer } from '../document/resolve.ts';
import type { UmboDocument } from '../document/types.ts';
import { spreadsOf, type Spreads } from '../measure/spreads.ts';
import { findMask } from '../render/below.ts';
import { acts } from '../render/prepare.ts';
import { renderRegion } from '../render/region.ts';

export interface NoteView {
  readonly document: UmboDocument;
  readonly space: ColourSpace;
  readonly n: number;
  readonly photograph: Raster;
  /** Encoded; after the layers not held within 0..1. */
  readonly before: Planes;
  readonly after: Planes;
  /** The mask of a layer or a region, 0..65535. */
  readonly maskOf: (id: string) => Uint16Array;
  /** The layers that act. */
  readonly acting: readonly ResolvedLayer[];
}

/**
 * @param photograph all of it, at a small level
 * @param step called now and then. @throws what it throws when nobody waits any more
 */
export function noteView(document: UmboDocument, scale: Scale, photograph: Raster, pictures: Pictures, step: () => void): NoteView {
  const { area } = photograph;
  const n = area.width * area.height;
  const [before, after] = [createPlanes(n), createPlanes(n)];
  readRaster(photograph, area, before);
  const rows = Math.max(16, Math.ceil(65536 / area.width));
  for (let y = 0; y < area.height; y += rows) {
    step();
    const band = { ...area, y, height: Math.min(rows, area.height - y) };
    renderRegion(document, scale, band, photograph, pictures, (tile, pixels) => {
      for (const plane of ['r', 'g', 'b'] as const)
        for (let row = 0; row < tile.height; row++)
          after[plane].set(pixels[plane].subarray(row * tile.width, (row + 1) * tile.width), (tile.y + row) * area.width + tile.x);
    });
  }
  const roots = resolveLayers(document);
  const masks = new Map<string, Uint16Array>();
  const all = (nodes: readonly ResolvedLayer[]): ResolvedLayer[] => nodes.filter(acts).flatMap((node) => [node, ...all(node.layers)]);
  return {
    document,
    space: spaceOf(scale),
    n,
    photograph,
    before,
    after,
    acting: all(roots),
    maskOf(id) {
      let mask = masks.get(id);
      if (!mask) {
        step();
        masks.set(id, (mask = findMask(document, findResolved(roots, id)!, scale, area, photograph, pictures)));
      }
      return mask;
    },
  };
}

export const regionsOf = ({ document }: NoteView, role: Role): Region[] =>
  (document.regions ?? []).filter((region) => region.role === role);

/** The mean and the spread of what a mask lets in; null where that is next to nothing. */
export function within({ space, n }: NoteView, { r, g, b }: Planes, mask: Uint16Array): { mean: Lab; spread: Spreads } | null {
  const lab = [new Float64Array(n), new Float64Array(n), new Float64Array(n)] as const;
  const sum = { l: 0, a: 0, b: 0 };
  let total = 0;
  for (let i = 0; i < n; i++) {
    const share = mask[i]! / 65535;
    if (share === 0) continue;
    const held = (v: number): number => Math.min(1, Math.max(0, v));
    const found = rgbToLab(space, held(r[i]!), held(g[i]!), held(b[i]!));
    lab[0][i] = found.l;
    lab[1][i] = found.a;
    lab[2][i] = found.b;
    for (const axis of ['l', 'a', 'b'] as const) sum[axis] += share * found[axis];
    total += share;
  }
  const spread = spreadsOf(lab, n, (i) => mask[i]! / 65535);
  return total < 8 || !spread ? null : { mean: { l: sum.l / total, a: sum.a / total, b: sum.b / total }, spread };
}
