/** What a layer itself shows, for masks that look at it. */
import { isPictureNeed, OVERVIEW } from '../base/need.ts';
import type { Framing, Rect, Scale } from '../base/geometry.ts';
import type { SourceRaster } from '../base/sourceRaster.ts';
import type { FindPicture, RenderedPicture } from '../base/pictures.ts';
import { createPlanes, readRaster, type Raster } from '../base/planes.ts';
import { isSource, sourceKind } from '../content/registry.ts';
import type { Layer } from '../document/types.ts';
import { viewOfPhotograph } from '../mask/mask.ts';

interface Kept {
  readonly from: readonly (Raster | undefined)[];
  readonly framing: Framing | undefined;
  readonly raster: SourceRaster;
}
/** Overviews, by the settings of what they show; a picture is rendered in many pieces, and each asks for it. */
const overviews = new WeakMap<object, Kept>();

/** @returns null where what it shows depends on what is below, or is nothing by itself */
export function sourcePicture(layer: Layer | undefined, scale: Scale, photograph: Raster, find: FindPicture): RenderedPicture | null {
  const what = layer?.what;
  if (!what || !isSource(what)) return null;
  const { raster, needs } = sourceKind(what.kind);
  if (!raster) return null;
  const { settings } = what;
  const render = (of: Scale, area: Rect, from: Raster): SourceRaster => raster.render(settings, viewOfPhotograph(of, area, from, find));
  return {
    pixels(area) {
      const planes = createPlanes(area.width * area.height);
      readRaster(render(scale, area, photograph), area, planes);
      return planes;
    },
    overview() {
      const { level } = find(OVERVIEW)!;
      const from = [level, ...(needs?.(settings) ?? []).filter(isPictureNeed).map((need) => find(need)?.level)];
      const kept = overviews.get(settings);
      if (kept && kept.framing === scale.framing && kept.from.every((one, i) => one === from[i])) return kept.raster;
      const made = render({ ...scale, picture: level.area }, level.area, level);
      overviews.set(settings, { from, framing: scale.framing, raster: made });
      return made;
    },
  };
}
