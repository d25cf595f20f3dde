/** What warnings are made from: the picture before and after, small, and what masks let in of it. */
import type { Scale } from '../base/geometry.ts';
import type { Pictures } from '../base/pictures.ts';
import { createPlanes, readRaster, writePlanes, type Planes, type Raster } from '../base/planes.ts';
import type { ColourSpace } from '../base/space.ts';
import { pixelsInPicture } from '../geometry/framing.ts';
import { rgbToLab, type Lab } from '../colour/lab.ts';
import { spaceOf } from '../colour/spaces.ts';
import type { Region, Role } from '../document/region.ts';
import { findResolved, resolveLayers, type ResolvedLayer } from '../document/resolve.ts';
import type { UmboDocument } from '../document/types.ts';
import { valuesOf } from '../measure/areaValues.ts';
import type { Spreads } from '../measure/spreads.ts';
import { findMask } from '../render/backdrop.ts';
import { acts } from '../render/prepare.ts';
import { renderRegion } from '../render/region.ts';

/** Of what is cut away with the photograph's edges nothing is said: its pixels are left out of all of these. */
export interface WarningView {
  readonly document: UmboDocument;
  readonly space: ColourSpace;
  /** How many pixels there are. */
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
export function noteView(document: UmboDocument, scale: Scale, photograph: Raster, pictures: Pictures, step: () => void): WarningView {
  const { area } = photograph;
  const all = area.width * area.height;
  const inside = pixelsInPicture(scale, area);
  const kept = <T extends Uint16Array | Float32Array>(values: T): T => (inside ? (values.filter((_, i) => inside[i] === 1) as T) : values);
  const keptPlanes = ({ r, g, b }: Planes): Planes => ({ r: kept(r), g: kept(g), b: kept(b) });
  const [before, after] = [createPlanes(all), createPlanes(all)];
  readRaster(photograph, area, before);
  const rows = Math.max(16, Math.ceil(65536 / area.width));
  for (let y = 0; y < area.height; y += rows) {
    step();
    const band = { ...area, y, height: Math.min(rows, area.height - y) };
    renderRegion(document, scale, band, photograph, pictures, (tile, pixels) => writePlanes(after, area, tile, pixels));
  }
  const roots = resolveLayers(document);
  const masks = new Map<string, Uint16Array>();
  const actingIn = (nodes: readonly ResolvedLayer[]): ResolvedLayer[] =>
    nodes.filter(acts).flatMap((node) => [node, ...actingIn(node.layers)]);
  const left = keptPlanes(before);
  const n = left.r.length;
  return {
    document,
    space: spaceOf(scale),
    n,
    photograph: inside
      ? { area: { x: 0, y: 0, width: n, height: 1 }, r: kept(photograph.r), g: kept(photograph.g), b: kept(photograph.b) }
      : photograph,
    before: left,
    after: keptPlanes(after),
    acting: actingIn(roots),
    maskOf(id) {
      let mask = masks.get(id);
      if (!mask) {
        step();
        masks.set(id, (mask = kept(findMask(document, findResolved(roots, id)!, scale, area, photograph, pictures))));
      }
      return mask;
    },
  };
}

export const regionsOf = ({ document }: WarningView, role: Role): Region[] =>
  (document.regions ?? []).filter((region) => region.role === role);

/** Pixels of which a mask lets in less than this tell nothing. */
const LEAST = 8;

/** The mean and the spread of what a mask lets in; null where that is next to nothing. */
export function within({ space, n }: WarningView, pixels: Planes, mask: Uint16Array): { mean: Lab; spread: Spreads } | null {
  if (mask.reduce((sum, v) => sum + v, 0) < LEAST * 65535) return null;
  const values = valuesOf(space, pixels, n, mask);
  return values && { mean: rgbToLab(space, ...values.mean), spread: values.spread };
}
