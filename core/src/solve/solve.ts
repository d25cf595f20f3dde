/**
 * Settings of a layer that bring readings to what they are to become, through everything above it. Found by Levenberg and Marquardt's
 * method on strips of the readings' pixels, then measured on the picture itself; where the two differ, the aim is moved by as much.
 */
import { deltaE2000 } from '../colour/deltaE.ts';
import { rgbToLab, type Lab } from '../colour/lab.ts';
import { spaceOf } from '../colour/spaces.ts';
import type { Turned } from '../document/foundBy.ts';
import type { Reading } from '../document/reading.ts';
import { findLayer } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';
import { aimOf, distance, residuals, withHeld, type Wanted } from './aim.ts';
import { withinLimit, type ClipLimit } from './limit.ts';
import { dialsOfLayer, nudged, withLayer } from './layerDials.ts';
import type { ReadingPlace } from './place.ts';
import { readAfter } from './read.ts';
import { search } from './search.ts';
import { labOfSamples, pointwise, sampleSetOf, type SampleSet } from './sampleSet.ts';

export interface Reached {
  readonly id: string;
  /** CIEDE2000 to the aim, before and after. */
  readonly before: number;
  readonly after: number;
  /** The colours themselves: what it was, is, and was to become. */
  readonly was: Lab;
  readonly is: Lab;
  readonly aim: Lab;
}

export interface Solved {
  /** The layer with its new settings. */
  readonly layer: Layer;
  readonly reached: readonly Reached[];
}

/** How far what was found on strips is from the picture before it is looked for again, in CIEDE2000, and how often that is done. */
const NEAR = 0.3;
const ROUNDS = 3;
/**
 * @param document with the layer in it
 * @param places for each wanted reading, and for each that is the aim of one
 * @param limit how much of the picture the layer may newly clip; left out: as much as it takes
 * @param step called now and then. @throws what it throws when nobody waits any more
 * @throws RangeError when nothing of the layer can be solved for
 */
export function solve(
  document: UmboDocument,
  layerId: string,
  turned: Turned,
  wanted: readonly Wanted[],
  readings: readonly Reading[],
  places: ReadonlyMap<string, ReadingPlace>,
  step: () => void,
  limit?: ClipLimit,
): Solved {
  const start = findLayer(document, layerId)!;
  const involved = readings.filter(({ id }) => places.has(id));
  const now = new Map<string, Lab>();
  const measure = (shown: UmboDocument): Map<string, Lab> => {
    const found = new Map<string, Lab>();
    for (const reading of involved) {
      step();
      const place = places.get(reading.id)!;
      const values = readAfter(shown, reading, place);
      if (values) found.set(reading.id, rgbToLab(spaceOf(place.scale), ...values.mean));
    }
    return found;
  };
  for (const [id, lab] of measure(document)) now.set(id, lab);
  const known = withHeld(wanted, readings).filter(
    ({ reading, aim }) => now.has(reading.id) && (aim.kind !== 'reading' || now.has(aim.reading)),
  );
  if (known.length === 0) throw new RangeError('Nothing of these readings lies on the photograph.');

  const acting = nudged(document, start, turned);
  const strips = new Map<string, SampleSet>();
  for (const reading of involved) {
    step();
    const strip = sampleSetOf(acting, layerId, reading, places.get(reading.id)!);
    if (strip) strips.set(reading.id, strip);
  }
  const dials = dialsOfLayer(
    start,
    turned,
    known.flatMap(({ reading }) => strips.get(reading.id) ?? []),
  );
  if (dials.length === 0) throw new RangeError(`“${start.name}” has no settings that could be solved for.`);
  const touched = known.map(({ reading }) => reading).filter(({ id }) => strips.has(id));

  /** How far the picture is from what the strips say, by reading. */
  const off = new Map<string, Lab>();
  const model = (layer: Layer): Map<string, Lab> => {
    const shown = withLayer(document, layer);
    return new Map(
      touched.map(({ id }) => {
        const strip = strips.get(id)!;
        return [id, plus(labOfSamples(pointwise(shown, strip.scale), strip), off.get(id) ?? NOTHING)];
      }),
    );
  };
  let best: { layer: Layer; found: Map<string, Lab>; cost: number } | null = null;
  const costOf = (found: ReadonlyMap<string, Lab>): number =>
    known.reduce((sum, one) => sum + distance(one, now, found.get(one.reading.id)!) ** 2, 0);
  let layer = start;
  for (let round = 0; round < ROUNDS; round++) {
    layer = search(layer, dials, start, (turnedTo) => residuals(known, now, model(turnedTo)), step);
    const found = measure(withLayer(document, layer));
    const cost = costOf(found);
    if (!best || cost < best.cost) best = { layer, found, cost };
    const said = model(layer);
    let farthest = 0;
    for (const { id } of touched) {
      const [is, was] = [found.get(id)!, said.get(id)!];
      farthest = Math.max(farthest, deltaE2000(is, was));
      off.set(id, plus(off.get(id) ?? NOTHING, { l: is.l - was.l, a: is.a - was.a, b: is.b - was.b }));
    }
    if (farthest < NEAR) break;
  }
  // What makes it worse than it was is not done.
  if (best!.cost > costOf(now)) best = { layer: start, found: now, cost: 0 };
  if (limit) {
    const eased = withinLimit(document, best!.layer, limit, step);
    if (eased !== best!.layer) best = { layer: eased, found: measure(withLayer(document, eased)), cost: 0 };
  }
  return {
    layer: best!.layer,
    reached: known.map((one) => {
      const { id } = one.reading;
      const [was, is] = [now.get(id)!, best!.found.get(id)!];
      return { id, before: distance(one, now, was), after: distance(one, now, is), was, is, aim: aimOf(one, now) };
    }),
  };
}

const NOTHING: Lab = { l: 0, a: 0, b: 0 };
const plus = (x: Lab, y: Lab): Lab => ({ l: x.l + y.l, a: x.a + y.a, b: x.b + y.b });
