/** What is asked of an edit beside its picture on the stage: answered in a worker of its own, in small steps that an edit can stop. */
import { createRaster, withOverview, writeRaster, type Pictures, type Raster, type Rect, type Scale } from '@umbo/core/base';
import type { Colour } from '@umbo/core/colour';
import {
  findResolved,
  patch,
  peekAt,
  resolveLayers,
  showing,
  stackBackdrop,
  stackWith,
  waysOf,
  type Peek,
  type ResolvedLayer,
  type UmboDocument,
} from '@umbo/core/document';
import { pixelsInPicture } from '@umbo/core/geometry';
import { coversAll, readsLayers, type Mask } from '@umbo/core/mask';
import { measurement, type Measured } from '@umbo/core/measure';
import { findMask, findPixels, renderRegion } from '@umbo/core/render';
import { findWarnings, layerBehind } from '@umbo/core/warnings';
import { read, solve, type ReadingPlace, type ReadingValues } from '@umbo/core/solve';
import type {
  MaskThumbnail,
  MeasuredOf,
  PictureMeasure,
  PictureThumbnail,
  PlacedAsk,
  PlacedQuestion,
  Question,
  RegionMeasure,
  Thumbnails,
} from '../protocol';
import { maskThumbnail, pictureThumbnail } from './thumbnails';

/** What the worker knows of the edit. */
export interface Known {
  document: UmboDocument;
  peek: Peek;
  pictures: Pictures;
}

export interface Steps {
  /** Called between steps, with how far it is. @throws when nobody waits for the answer any more */
  step: (share: number) => void;
}

/** Pixels of one step. */
const STEP = 1 << 16;

function inBands(area: Rect, { step }: Steps, work: (band: Rect) => void): void {
  const rows = Math.max(16, Math.ceil(STEP / area.width));
  for (let y = 0; y < area.height; y += rows) {
    step(y / area.height);
    work({ ...area, y: area.y + y, height: Math.min(rows, area.height - y) });
  }
}

/** The mean colour of an area, from the photograph's own pixels. */
function sample(document: UmboDocument, scale: Scale, area: Rect, level: Raster, pictures: Pictures, steps: Steps): Colour {
  const sum: Colour = [0, 0, 0];
  inBands(area, steps, (band) =>
    renderRegion(document, scale, band, level, pictures, (tile, { r, g, b }) => {
      for (let i = 0; i < tile.width * tile.height; i++) {
        sum[0] += r[i]!;
        sum[1] += g[i]!;
        sum[2] += b[i]!;
      }
    }),
  );
  return sum.map((v) => Math.max(0, Math.min(1, v / (area.width * area.height)))) as Colour;
}

/** All of a layer's mask, step by step. */
function wholeMask(
  document: UmboDocument,
  node: ResolvedLayer,
  scale: Scale,
  source: Raster,
  pictures: Pictures,
  steps: Steps,
): Uint16Array {
  const { area } = source;
  const mask = new Uint16Array(area.width * area.height);
  inBands(area, steps, (band) => mask.set(findMask(document, node, scale, band, source, pictures), (band.y - area.y) * area.width));
  return mask;
}

/** All of an edit's picture, step by step. */
function wholePicture(document: UmboDocument, scale: Scale, source: Raster, pictures: Pictures, steps: Steps): Raster {
  const picture = createRaster(source.area);
  inBands(source.area, steps, (band) =>
    renderRegion(document, scale, band, source, pictures, (tile, pixels) => writeRaster(picture, tile, pixels)),
  );
  return picture;
}

/** What a layer's mask lets in of the picture below it. @param node the layer; null for the result of all layers */
function regionOf(
  document: UmboDocument,
  node: ResolvedLayer | null,
  scale: Scale,
  source: Raster,
  pictures: Pictures,
  steps: Steps,
  seen: MeasuredOf = 'below',
): Measured {
  const stack = seen === 'own' ? stackWith : stackBackdrop;
  const shown = node ? stack(document, node.layer.id) : document;
  const picture = seen === 'photograph' ? source : wholePicture(shown, scale, source, pictures, steps);
  const weight = !node || coversAll(node.where) ? null : wholeMask(document, node, scale, source, pictures, steps);
  return { picture, weight: inPicture(scale, source.area, weight), scale };
}

/** What of a weight lies in the picture that is cut from the photograph. */
function inPicture(scale: Scale, area: Rect, weight: Uint16Array | null): Uint16Array | null {
  const inside = pixelsInPicture(scale, area);
  return inside ? new Uint16Array(inside).map((one, i) => one * (weight?.[i] ?? 65535)) : weight;
}

const measurePicture = (of: Measured): PictureMeasure => ({
  census: measurement('census').measure({}, of),
  histogram: measurement('histogram').measure({}, of),
});

function measureRegion(
  document: UmboDocument,
  node: ResolvedLayer,
  scale: Scale,
  source: Raster,
  pictures: Pictures,
  steps: Steps,
): RegionMeasure {
  const below = regionOf(document, node, scale, source, pictures, steps);
  const own = wholePicture(stackWith(document, node.layer.id), scale, source, pictures, steps);
  const everywhere = measurePicture({ ...below, weight: inPicture(scale, source.area, null) });
  const within = coversAll(node.where) ? everywhere : measurePicture(below);
  return { layerId: node.layer.id, ...within, below: everywhere, own: measurement('histogram').measure({}, { ...below, picture: own }) };
}

const masksMade = new Map<string, Mask>();

/** How the picture lay on the photograph when they were made, and how large. */
let madeFor = '';

/** What the picture after a layer was rendered from last, by the layer. */
const cardsMade = new Map<string, readonly ResolvedLayer[]>();

/** Everything that the picture after a layer depends on: what acts up to it, as resolved layers, which stay the same while nothing in them changes. */
function upTo(nodes: readonly ResolvedLayer[], id: string): ResolvedLayer[] | null {
  for (const [i, node] of nodes.entries()) {
    const inside = node.layer.id === id ? [] : upTo(node.layers, id);
    if (inside) return [...nodes.slice(0, i + 1), ...inside];
  }
  return null;
}

/** The pictures after those layers that look otherwise than when they were made last. */
function cardPictures(
  { document, pictures }: Known,
  roots: readonly ResolvedLayer[],
  ids: readonly string[],
  source: Raster,
  steps: Steps,
): { made: [string, ResolvedLayer[]][]; cards: { id: string; picture: PictureThumbnail }[] } {
  const made: [string, ResolvedLayer[]][] = [];
  const cards = ids.flatMap((id) => {
    const of = upTo(roots, id);
    const before = cardsMade.get(id);
    if (!of || (before?.length === of.length && of.every((node, i) => node === before[i]))) return [];
    steps.step(0);
    made.push([id, of]);
    return [{ id, picture: pictureThumbnail(peekAt(showing(document, id), { solo: null, upTo: id }), source, pictures) }];
  });
  return { made, cards };
}

function thumbnails(
  known: Known,
  ask: { layerId: string | null; cards: readonly string[] },
  scale: Scale,
  source: Raster,
  steps: Steps,
): Thumbnails {
  const { document, peek, pictures } = known;
  const { layerId } = ask;
  const lies = JSON.stringify([scale.framing, source.area]);
  if (lies !== madeFor) {
    masksMade.clear();
    cardsMade.clear();
    madeFor = lies;
  }
  const masks: { id: string; mask: MaskThumbnail | null }[] = [];
  const made: [string, Mask][] = [];
  const finder = findPixels(document, scale, source.area, source, pictures);
  const roots = resolveLayers(document);
  const visit = (node: ResolvedLayer): void => {
    const { layer, where } = node;
    // One that looks at what is below may be another without being changed.
    if (masksMade.get(layer.id) !== where || readsLayers(where)) {
      steps.step(0);
      masks.push({ id: layer.id, mask: coversAll(where) ? null : maskThumbnail(finder.pixelsOf(node).mask!, scale) });
      made.push([layer.id, where]);
    }
    node.layers.forEach(visit);
  };
  roots.forEach(visit);
  const result = pictureThumbnail(peekAt(document, peek), source, pictures);
  steps.step(0.5);
  const original = pictureThumbnail({ ...document, layers: [] }, source, pictures);
  const { made: madeCards, cards } = cardPictures(known, roots, ask.cards, source, steps);
  const node = layerId === null ? undefined : findResolved(roots, layerId);
  const region = node ? measureRegion(document, node, scale, source, pictures, steps) : null;
  const whole = measurePicture(regionOf(document, null, scale, source, pictures, steps));
  // Nobody gets what is called off: only now it is known to them.
  for (const [id, where] of made) masksMade.set(id, where);
  for (const [id, of] of madeCards) cardsMade.set(id, of);
  return { masks, cards, original, result, region, whole };
}

const GONE = 'The layer is gone.';

/** The edit that a question about readings is about: where a new layer is solved for, that is in it. */
export const documentOf = (document: UmboDocument, ask: PlacedAsk): UmboDocument =>
  ask.kind === 'solve' && ask.put ? patch(document, ask.put) : document;

function answerPlaced({ document, pictures }: Known, { ask, places, whole }: PlacedQuestion, { step }: Steps): unknown {
  const asked = new Map(
    Array.from(places, ([id, { scale, area, source }]): [string, ReadingPlace] => [id, { scale, area, photograph: source, pictures }]),
  );
  const readings = (document.readings ?? []).filter(({ id }) => asked.has(id));
  if (ask.kind === 'read')
    return readings.map((reading, i): [string, ReadingValues] => {
      step(i / readings.length);
      return [reading.id, read(document, reading, ask.below, asked.get(reading.id)!)];
    });
  const wanted = ask.wanted.flatMap(({ id, aim }) => {
    const reading = readings.find((one) => one.id === id);
    return reading ? [{ reading, aim }] : [];
  });
  const limit =
    ask.clips === undefined || !whole
      ? undefined
      : { share: ask.clips, whole: { scale: whole.scale, area: whole.source.area, photograph: whole.source, pictures } };
  return solve(documentOf(document, ask), ask.layer.id, ask.turned, wanted, readings, asked, () => step(0.5), limit);
}

/** @throws Error when there is nothing to answer */
export function answer(known: Known, question: Question, steps: Steps): unknown {
  const { document, pictures } = known;
  if ('places' in question) return answerPlaced(known, question, steps);
  const { ask, scale, source } = question;
  if (ask.kind === 'sample') {
    const shown = ask.below === null ? document : peekAt(document, { solo: null, upTo: null, below: ask.below });
    return sample(shown, scale, ask.area, source, pictures, steps);
  }
  if (ask.kind === 'thumbnails') return thumbnails(known, ask, scale, source, steps);
  if (ask.kind === 'alternative') {
    const way = waysOf(document, ask.setId).find(({ id }) => id === ask.id);
    if (!way) throw new Error(GONE);
    return pictureThumbnail(way.document, source, pictures);
  }
  if (ask.kind === 'warnings') return findWarnings(document, scale, source, pictures, () => steps.step(0.5));
  if (ask.kind === 'behind') return layerBehind(ask.key, document, scale, source, pictures, () => steps.step(0.5))?.id ?? null;
  const node = ask.layerId === null ? undefined : findResolved(resolveLayers(document), ask.layerId);
  // The overview is what masks look at as a whole; here it is the picture itself.
  const looked = withOverview(pictures, source);
  const { needs, measure } = measurement(ask.task.kind);
  if (needs === 'mask' && !node) throw new Error(GONE);
  const of =
    needs === 'mask'
      ? { picture: source, weight: wholeMask(document, node!, scale, source, looked, steps), scale }
      : regionOf(document, node ?? null, scale, source, looked, steps, ask.of);
  return measure(ask.task.settings as never, of);
}
