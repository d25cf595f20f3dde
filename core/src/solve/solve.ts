/**
 * Settings of a layer that bring readings to what they are to become, through everything above it. Found by Levenberg and Marquardt's
 * method on strips of the readings' pixels, then measured on the picture itself; where the two differ, the aim is moved by as much.
 */
import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { deltaE2000 } from '../colour/deltaE.ts';
import { labToLch, rgbToLab, type Lab } from '../colour/lab.ts';
import { spaceOf } from '../colour/spaces.ts';
import type { Dial } from '../base/dial.ts';
import { contentKind } from '../document/contentKind.ts';
import type { Reading } from '../document/reading.ts';
import { childrenOf, findLayer } from '../document/tree.ts';
import type { Layer, UmboDocument } from '../document/types.ts';
import type { Place } from './place.ts';
import { readAfter } from './read.ts';
import { inputOf, labOfStrip, pointwise, stripOf, type Strip } from './strip.ts';

/** What one reading is to become: a colour, what another reading is, which then stays as it is, grey as light as it is. Held: what it is. Of a colour, its lightness alone can be wanted. */
export type Aim =
  | { readonly kind: 'colour'; readonly lab: Lab; readonly only?: 'lightness' }
  | { readonly kind: 'reading'; readonly reading: string }
  | { readonly kind: 'neutral' | 'hold' };

export interface Wanted {
  readonly reading: Reading;
  readonly aim: Aim;
}

/** Which numbers of the layer are turned: those of its settings, or its opacity alone. */
export type Turned = 'settings' | 'opacity';

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
/** CIEDE2000 that turning a dial by its step has to gain: where several settings do the same, the smallest change is taken. */
const THRIFT = 0.04;
/** By how much of its step a dial is turned to feel what that does. */
const FEEL = 0.05;
/** Steps of one burst of the search, bursts at most, and the share of the squares that one has to take away for another to follow. */
const [BURST, BURSTS, GAIN] = [4, 6, 0.03];

/**
 * @param document with the layer in it
 * @param places for each wanted reading, and for each that is the aim of one
 * @param step called now and then. @throws what it throws when nobody waits any more
 * @throws RangeError when nothing of the layer can be solved for
 */
export function solve(
  document: UmboDocument,
  layerId: string,
  turned: Turned,
  wanted: readonly Wanted[],
  readings: readonly Reading[],
  places: ReadonlyMap<string, Place>,
  step: () => void,
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
  const strips = new Map<string, Strip>();
  for (const reading of involved) {
    step();
    const strip = stripOf(acting, layerId, reading, places.get(reading.id)!);
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
        return [id, plus(labOfStrip(pointwise(shown, strip.scale), strip), off.get(id) ?? NOTHING)];
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
  return {
    layer: best!.layer,
    reached: known.map((one) => {
      const { id } = one.reading;
      const [was, is] = [now.get(id)!, best!.found.get(id)!];
      return { id, before: distance(one, now, was), after: distance(one, now, is), was, is, aim: aimOf(one, now, is) };
    }),
  };
}

const NOTHING: Lab = { l: 0, a: 0, b: 0 };
const plus = (x: Lab, y: Lab): Lab => ({ l: x.l + y.l, a: x.a + y.a, b: x.b + y.b });

/** The edit with other settings of a layer, and of those that share them. */
function withLayer(document: UmboDocument, { id, shared, what, how }: Layer): UmboDocument {
  const visit = (layer: Layer): Layer => {
    if (layer.id === id) return { ...layer, on: true, what, how };
    if (shared !== undefined && layer.shared === shared && layer.what.kind === what.kind) return { ...layer, what };
    const inside = childrenOf(layer);
    if (inside.length === 0) return layer;
    const next = inside.map(visit);
    return next.every((child, i) => child === inside[i]) ? layer : ({ ...layer, what: { ...layer.what, layers: next } } as Layer);
  };
  return { ...document, layers: document.layers.map(visit) };
}

/** A copy whose settings can be changed. */
const changeable = (layer: Layer): Layer => ({ ...layer, what: structuredClone(layer.what), how: { ...layer.how } }) as Layer;

/** The settings of a layer as dials. @param strips what it begins from */
function dialsOfLayer(layer: Layer, turned: Turned, strips: readonly Strip[]): Dial<Layer>[] {
  if (turned === 'opacity')
    return [
      {
        read: ({ how }) => how.opacity,
        write: ({ how }, value) => void (how.opacity = Math.round(Math.min(1, Math.max(0, value)) * 1000) / 1000),
        bounds: [0, 1],
        step: 0.1,
      },
    ];
  const dials = contentKind(layer.what)?.dials;
  if (!dials || strips.length === 0) return [];
  const view = { space: spaceOf(strips[0]!.scale), colours: strips.map(inputOf) };
  return dials(layer.what.settings, view).map(({ read, write, ...dial }) => ({
    ...dial,
    read: ({ what }) => read(what.settings),
    write: ({ what }, value) => write(what.settings, value),
  }));
}

/** The edit with the layer changed a little where it changes nothing yet: so that what it needs is found. */
function nudged(document: UmboDocument, layer: Layer, turned: Turned): UmboDocument {
  const copy = changeable(layer);
  if (turned === 'opacity') copy.how.opacity ||= 0.5;
  else
    for (const { read, write, bounds, step } of contentKind(copy.what)?.dials?.(copy.what.settings, {
      space: spaceOf({ picture: document.photo, full: document.photo }),
      colours: [[0.5, 0.5, 0.5]],
    }) ?? []) {
      const value = read(copy.what.settings);
      write(copy.what.settings, value + (value + step > bounds[1] ? -step : step));
    }
  return withLayer(document, copy);
}

/** What is the aim of another stays as it is, unless it is to become something itself. */
function withHeld(wanted: readonly Wanted[], readings: readonly Reading[]): Wanted[] {
  const held = wanted.flatMap(({ aim }) => readings.filter(({ id }) => aim.kind === 'reading' && aim.reading === id));
  const free = [...new Set(held)].filter((reading) => !wanted.some((one) => one.reading.id === reading.id));
  return [...wanted, ...free.map((reading): Wanted => ({ reading, aim: { kind: 'hold' } }))];
}

/** What a reading is to become. @param now what all were at first @param is what it is */
function aimOf({ reading, aim }: Wanted, now: ReadonlyMap<string, Lab>, is: Lab): Lab {
  if (aim.kind === 'colour') return aim.only ? { ...is, l: aim.lab.l } : aim.lab;
  if (aim.kind === 'reading') return now.get(aim.reading)!;
  const was = now.get(reading.id)!;
  return aim.kind === 'hold' ? was : { l: was.l, a: 0, b: 0 };
}

const distance = (wanted: Wanted, now: ReadonlyMap<string, Lab>, is: Lab): number => deltaE2000(aimOf(wanted, now, is), is);

/**
 * How far readings are from their aims: three numbers each, the squares of which together are about the square of CIEDE2000. About the aim
 * its terms of lightness, chroma and hue are nearly even; near grey its a* is stretched.
 */
function residuals(wanted: readonly Wanted[], now: ReadonlyMap<string, Lab>, found: ReadonlyMap<string, Lab>): number[] {
  return wanted.flatMap((one) => {
    const is = found.get(one.reading.id)!;
    const aim = aimOf(one, now, is);
    const { c } = labToLch(aim);
    const stretch = 1 + 0.5 * (1 - Math.sqrt(c ** 7 / (c ** 7 + 25 ** 7)));
    const [da, db] = [(is.a - aim.a) * stretch, is.b - aim.b];
    const [cos, sin] = c > 0 ? [aim.a / c, aim.b / c] : [1, 0];
    const sl = 1 + (0.015 * (aim.l - 50) ** 2) / Math.sqrt(20 + (aim.l - 50) ** 2);
    return [(is.l - aim.l) / sl, (da * cos + db * sin) / (1 + 0.045 * c), (db * cos - da * sin) / (1 + 0.015 * c)];
  });
}

/** Turns dials until the residuals are smallest, from where they stand. @param rest where a dial costs nothing */
function search(from: Layer, dials: readonly Dial<Layer>[], rest: Layer, residualsOf: (layer: Layer) => number[], step: () => void): Layer {
  const origin = dials.map((dial) => dial.read(rest));
  const turnedTo = (turns: readonly number[]): Layer => {
    const layer = changeable(from);
    dials.forEach((dial, i) => dial.write(layer, origin[i]! + turns[i]! * dial.step));
    return layer;
  };
  const count = residualsOf(from).length + dials.length;
  const all = (turns: readonly number[]): number[] => {
    step();
    return [...residualsOf(turnedTo(turns)), ...turns.map((turn) => turn * THRIFT)];
  };
  const x = Array.from({ length: count }, (_, i) => i);
  const minValues = dials.map(({ bounds, step: by }, i) => (bounds[0] - origin[i]!) / by);
  const maxValues = dials.map(({ bounds, step: by }, i) => (bounds[1] - origin[i]!) / by);
  // At its upper end a dial seems to do nothing: the search asks what turning it up does.
  let turns = dials.map((dial, i) => Math.min(maxValues[i]! - 2 * FEEL, (dial.read(from) - origin[i]!) / dial.step));
  const costAt = (tried: readonly number[]): number => all(tried).reduce((sum, v) => sum + v * v, 0);
  for (const [i, { starts = [], step: by }] of dials.entries()) {
    let least = starts.length > 0 ? costAt(turns) : 0;
    for (const start of starts) {
      const tried = turns.with(i, (start - origin[i]!) / by);
      const cost = costAt(tried);
      if (cost < least) [turns, least] = [tried, cost];
    }
  }
  let error = Infinity;
  // The method itself ends only at nothing, or after so many steps: in bursts it ends where nothing is gained any more.
  for (let burst = 0; burst < BURSTS; burst++) {
    const { parameterValues, parameterError } = levenbergMarquardt(
      { x, y: x.map(() => 0) },
      (tried) => {
        const values = all(tried);
        return (i) => values[i]!;
      },
      { initialValues: turns, minValues, maxValues, gradientDifference: FEEL, damping: 0.01, maxIterations: BURST, errorTolerance: 1e-6 },
    );
    if (parameterError < error) turns = parameterValues;
    if (!(parameterError < error * (1 - GAIN))) break;
    error = parameterError;
  }
  return turnedTo(turns);
}
