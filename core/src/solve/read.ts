/** What readings are: before, after, and below a layer. */
import { spaceOf } from '../colour/spaces.ts';
import type { Rect } from '../base/geometry.ts';
import { mappingOf, mapX, mapY } from '../base/mapping.ts';
import { createPlanes, readRaster, type Planes } from '../base/planes.ts';
import type { Reading } from '../document/reading.ts';
import { findResolved, peekAt, resolveLayers } from '../document/resolve.ts';
import type { UmboDocument } from '../document/types.ts';
import { valuesOf, type AreaValues } from '../measure/areaValues.ts';
import { findMask } from '../render/below.ts';
import { renderRegion } from '../render/region.ts';
import { samplesOf, type Place } from './place.ts';

/** What one reading is; null where nothing of it lies on the photograph. */
export interface ReadingValues {
  readonly before: AreaValues | null;
  readonly after: AreaValues | null;
  /** Below the layer in work; null also where none was asked for. */
  readonly below: AreaValues | null;
  /** Places of the photograph whose pixels stand for all of it: x, y; x, y; ... */
  readonly samples: readonly number[];
}

/** How much each pixel of the place counts for a reading, 0..65535; null: all alike. */
export function readingWeight(
  document: UmboDocument,
  { id, where }: Reading,
  { scale, area, photograph, pictures }: Place,
): Uint16Array | null {
  const node = where && findResolved(resolveLayers(document), id);
  return node ? findMask(document, node, scale, area, photograph, pictures) : null;
}

/** All pixels of a place, as an edit shows them. */
export function pixelsOf(document: UmboDocument, { scale, area, photograph, pictures }: Place): Planes {
  const out = createPlanes(area.width * area.height);
  renderRegion(document, scale, area, photograph, pictures, (tile, pixels) => putTile(pixels, tile, out, area));
  return out;
}

function putTile(from: Planes, tile: Rect, to: Planes, area: Rect): void {
  for (const plane of ['r', 'g', 'b'] as const)
    for (let y = 0; y < tile.height; y++) {
      const row = from[plane].subarray(y * tile.width, (y + 1) * tile.width);
      to[plane].set(row, (tile.y - area.y + y) * area.width + tile.x - area.x);
    }
}

/** What a reading is after all layers. */
export function readAfter(document: UmboDocument, reading: Reading, place: Place): AreaValues | null {
  return valuesOf(
    spaceOf(place.scale),
    pixelsOf(document, place),
    place.area.width * place.area.height,
    readingWeight(document, reading, place),
  );
}

/** @param layerId below which it is read, too; null: below none */
export function read(document: UmboDocument, reading: Reading, layerId: string | null, place: Place): ReadingValues {
  const { scale, area, photograph } = place;
  const n = area.width * area.height;
  const weight = readingWeight(document, reading, place);
  const values = (pixels: Planes): AreaValues | null => valuesOf(spaceOf(scale), pixels, n, weight);
  const before = createPlanes(n);
  readRaster(photograph, area, before);
  const { toPhotograph } = mappingOf(scale);
  const samples = samplesOf(area, weight).flatMap((i) => {
    const [x, y] = [area.x + (i % area.width) + 0.5, area.y + Math.floor(i / area.width) + 0.5];
    return [mapX(toPhotograph, x, y), mapY(toPhotograph, x, y)];
  });
  const below = layerId === null ? null : { ...peekAt(document, { solo: null, upTo: null, below: layerId }), strength: 1 };
  return { before: values(before), after: values(pixelsOf(document, place)), below: below && values(pixelsOf(below, place)), samples };
}
