/** What layers make of every colour, as a table. */
import { identityLut } from '../adjust/lut3d.ts';
import { adjustment, reachOfFilter } from '../adjust/registry.ts';
import { isSource, sourceKind } from '../content/registry.ts';
import { everywhere, emptyDocument } from '../document/defaults.ts';
import { childrenOf } from '../document/tree.ts';
import type { Layer } from '../document/types.ts';
import type { SpaceId } from '../base/space.ts';
import type { CubeLut } from '../format/cube.ts';
import { wholeOf } from '../base/geometry.ts';
import { renderRegion } from './region.ts';
import { noPictures } from '../base/pictures.ts';
import { createRaster } from '../base/planes.ts';

/** What looks around at one scale does so at this one, too. */
const ANY_SCALE = { picture: { width: 1000, height: 1000 }, full: { width: 1000, height: 1000 } };

/** Why a layer's change cannot be a table, as the end of a sentence; null when it can. */
function faultAsLut(layer: Layer): string | null {
  const { what } = layer;
  if ('layers' in what)
    return (
      childrenOf(layer)
        .map(faultAsLut)
        .find((fault) => fault !== null) ?? null
    );
  if (isSource(what)) return sourceKind(what.kind).byColour?.(what.settings) ? null : `“${layer.name}” brings a picture of its own`;
  if (adjustment(what.kind).placed || reachOfFilter(what, ANY_SCALE) > 0)
    return `what “${layer.name}” does depends on where a pixel is, or on its neighbours`;
  return null;
}

/** Without masks: a table knows colours, not places. */
const unmasked = (layer: Layer): Layer => ({
  ...layer,
  where: everywhere(),
  what: 'layers' in layer.what ? ({ ...layer.what, layers: layer.what.layers.map(unmasked) } as Layer['what']) : layer.what,
});

/**
 * What layers make of every colour, without their masks.
 * @param size points along each side, 2..65
 * @param space in which the layers act
 * @throws RangeError where a layer's change is none of colours alone
 * @example
 * const { size, values } = lutOfLayers([adjustmentLayer('a', 'invert', 'Negative')], 'Negative', 2, 'srgb');
 * [size, ...values.slice(0, 3)]; // → [2, 1, 1, 1]
 */
export function lutOfLayers(layers: readonly Layer[], title: string, size: number, space: SpaceId): CubeLut {
  for (const layer of layers) {
    const fault = faultAsLut(layer);
    if (fault) throw new RangeError(`This cannot be a table: ${fault}.`);
  }
  const lut = identityLut(size);
  const picture = { width: size * size, height: size };
  const raster = createRaster(wholeOf(picture));
  for (let i = 0; i < size ** 3; i++)
    for (const [c, plane] of [raster.r, raster.g, raster.b].entries()) plane[i] = Math.round(lut.values[i * 3 + c]! * 65535);
  const values = new Float32Array(lut.values.length);
  renderRegion(
    { ...emptyDocument(picture, space), layers: layers.map(unmasked) },
    { picture, full: picture, space },
    raster.area,
    raster,
    noPictures,
    (tile, pixels) => {
      for (let y = 0, i = 0; y < tile.height; y++)
        for (let x = 0, o = ((tile.y + y) * picture.width + tile.x) * 3; x < tile.width; x++, i++, o += 3) {
          values[o] = pixels.r[i]!;
          values[o + 1] = pixels.g[i]!;
          values[o + 2] = pixels.b[i]!;
        }
    },
  );
  return { ...lut, title, values: values.map((v) => Math.max(0, Math.min(1, v))) };
}
