/** What readings are: before, after, and below a layer. */
import { spaceOf } from '../colour/spaces.ts';
import { stretchOf } from '../base/stretch.ts';
import { createPlanes, readRaster, writePlanes, type Planes } from '../base/planes.ts';
import type { Reading } from '../document/reading.ts';
import { findResolved, peekAt, resolveLayers } from '../document/resolve.ts';
import type { UmboDocument } from '../document/types.ts';
import { valuesOf, type AreaValues } from '../measure/areaValues.ts';
import { findMask } from '../render/backdrop.ts';
import { renderRegion } from '../render/region.ts';
import { samplesOf, type ReadingPlace } from './place.ts';

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
  { scale, area, photograph, pictures }: ReadingPlace,
): Uint16Array | null {
  const node = where && findResolved(resolveLayers(document), id);
  return node ? findMask(document, node, scale, area, photograph, pictures) : null;
}

/** All pixels of a place, as an edit shows them. */
export function pixelsOf(document: UmboDocument, { scale, area, photograph, pictures }: ReadingPlace): Planes {
  const out = createPlanes(area.width * area.height);
  renderRegion(document, scale, area, photograph, pictures, (tile, pixels) => writePlanes(out, area, tile, pixels));
  return out;
}

/** What a reading is after all layers. */
export function readAfter(document: UmboDocument, reading: Reading, place: ReadingPlace): AreaValues | null {
  return valuesOf(
    spaceOf(place.scale),
    pixelsOf(document, place),
    place.area.width * place.area.height,
    readingWeight(document, reading, place),
  );
}

/** @param layerId below which it is read, too; null: below none */
export function read(document: UmboDocument, reading: Reading, layerId: string | null, place: ReadingPlace): ReadingValues {
  const { scale, area, photograph } = place;
  const n = area.width * area.height;
  const weight = readingWeight(document, reading, place);
  const values = (pixels: Planes): AreaValues | null => valuesOf(spaceOf(scale), pixels, n, weight);
  const before = createPlanes(n);
  readRaster(photograph, area, before);
  const { toPhotograph } = stretchOf(scale);
  const samples = samplesOf(area, weight).flatMap((i) => {
    const [x, y] = [area.x + (i % area.width) + 0.5, area.y + Math.floor(i / area.width) + 0.5];
    return [x * toPhotograph.x, y * toPhotograph.y];
  });
  const below = layerId === null ? null : { ...peekAt(document, { solo: null, upTo: null, below: layerId }), strength: 1 };
  return { before: values(before), after: values(pixelsOf(document, place)), below: below && values(pixelsOf(below, place)), samples };
}
