/** Settings found anew the way that they were found: on another photograph, or after what is below has changed. */
import { produce } from 'immer';
import { onLayer } from '../document/edit.ts';
import { readingsOf, type FoundBySolver } from '../document/foundBy.ts';
import { TOLERANCE, type Reading } from '../document/reading.ts';
import { findResolved, resolveLayers, showing, stackBackdrop } from '../document/resolve.ts';
import { findLayer, repeatable } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';
import { coversAll } from '../mask/mask.ts';
import { measurement, type MeasurementKind } from '../measure/registry.ts';
import { findMask } from '../render/backdrop.ts';
import { writeRaster, createRaster } from '../base/planes.ts';
import { renderRegion } from '../render/region.ts';
import type { Wanted } from './aim.ts';
import { changeable, withLayer } from './layerDials.ts';
import type { ReadingPlace } from './place.ts';
import { solve, type Reached } from './solve.ts';

/** What became of one reading. */
export interface AimReached extends Reached {
  readonly letter: string;
  readonly name: string;
  /** Whether it was to stay as it is. */
  readonly held: boolean;
  /** Whether it is within its tolerance. */
  readonly passes: boolean;
}

/** What became of one layer. */
export interface Answered {
  readonly layerId: string;
  readonly name: string;
  /** What it was solved for; nothing of what was measured. */
  readonly reached: readonly AimReached[];
  /** Why nothing was found; null: it was. */
  readonly problem: string | null;
}

/** Where pixels come from, for an edit as it is by then. */
export interface Places {
  /** Null where nothing of the reading lies on the photograph. */
  reading: (document: UmboDocument, reading: Reading) => ReadingPlace | null;
  /** The whole picture, small. */
  whole: (document: UmboDocument) => ReadingPlace;
}

/**
 * Finds the settings of layers anew, one after the other from below; of an alternative that does not show, as if it did.
 * @param which the ids of layers; those of which nothing says how their settings were found are left as they are
 * @param step called now and then. @throws what it throws when nobody waits any more
 */
export function findAnew(
  document: UmboDocument,
  which: readonly string[],
  places: Places,
  step: () => void,
): { document: UmboDocument; answered: Answered[] } {
  const answered: Answered[] = [];
  let next = document;
  for (const { id, foundBy } of repeatable(document).filter((layer) => which.includes(layer.id))) {
    const layer = findLayer(next, id)!;
    const shown = showing(next, id);
    step();
    try {
      const found =
        foundBy.kind === 'solver'
          ? solveAnew(shown, layer, foundBy, places, step)
          : { layer: measureAnew(shown, layer, foundBy.measurement as MeasurementKind, places.whole(shown)), reached: [] };
      next = withLayer(next, found.layer);
      if (foundBy.kind === 'solver') next = withFoundBy(next, id, { ...foundBy, off: farthest(foundBy, found.reached) });
      answered.push({ layerId: id, name: layer.name, reached: found.reached, problem: null });
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      answered.push({ layerId: id, name: layer.name, reached: [], problem: error.message });
    }
  }
  return { document: next, answered };
}

/** By how much the farthest of what was to become something missed that. */
export const farthest = ({ readings }: FoundBySolver, reached: readonly { id: string; after: number }[]): number => {
  const held = new Set(readings.filter(({ aim }) => aim.kind === 'hold').map(({ id }) => id));
  const moved = readings.map(({ id }) => id).filter((id) => !held.has(id));
  return Math.max(0, ...reached.filter(({ id }) => moved.includes(id)).map(({ after }) => Math.round(after * 100) / 100));
};

const withFoundBy = (document: UmboDocument, id: string, foundBy: FoundBySolver): UmboDocument =>
  produce(
    document,
    onLayer(id, (layer) => void (layer.foundBy = foundBy)),
  );

function solveAnew(
  document: UmboDocument,
  layer: Layer,
  foundBy: FoundBySolver,
  places: Places,
  step: () => void,
): { layer: Layer; reached: AimReached[] } {
  const involved = (document.readings ?? []).filter(({ id }) => readingsOf(foundBy).includes(id));
  const found = involved.map((reading) => [reading.id, places.reading(document, reading)] as const);
  const known = new Map(found.flatMap(([id, place]) => (place ? [[id, place] as const] : [])));
  const wanted = foundBy.readings.flatMap(({ id, aim }): Wanted[] => {
    const reading = involved.find((one) => one.id === id);
    return reading ? [{ reading, aim }] : [];
  });
  const limit = foundBy.clips === undefined ? undefined : { share: foundBy.clips, whole: places.whole(document) };
  const solved = solve(document, layer.id, foundBy.turned, wanted, involved, known, step, limit);
  const reached = solved.reached.map((one): AimReached => {
    const { id } = one;
    const { letter, name, tolerance = TOLERANCE } = involved.find((reading) => reading.id === id)!;
    const aim = wanted.find(({ reading }) => reading.id === id)?.aim;
    return { ...one, letter, name, held: !aim || aim.kind === 'hold', passes: one.after <= tolerance };
  });
  return { layer: solved.layer, reached };
}

/** What a measurement finds of what a layer's mask lets in of the picture below it, in the layer. */
function measureAnew(document: UmboDocument, layer: Layer, kind: MeasurementKind, place: ReadingPlace): Layer {
  const { scale, area, photograph, pictures } = place;
  const { measure, apply } = measurement(kind);
  if (!apply) throw new RangeError(`Nothing is made of a measurement “${kind}”.`);
  const picture = createRaster(area);
  renderRegion(stackBackdrop(document, layer.id), scale, area, photograph, pictures, (tile, pixels) => writeRaster(picture, tile, pixels));
  const node = findResolved(resolveLayers(document), layer.id)!;
  const weight = coversAll(node.where) ? null : findMask(document, node, scale, area, photograph, pictures);
  const copy = changeable(layer);
  apply(measure({} as never, { picture, weight, scale }) as never, {} as never, copy);
  return copy;
}
