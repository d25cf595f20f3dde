/** Solvers against the same problems solved by trying everything, and through stacks of layers. */
import { expect, it } from 'vitest';
import { createRaster, noPictures, wholeOf, type Raster } from '@umbo/core/base';
import { deltaE2000, rgbToLab, srgb } from '@umbo/core/colour';
import { adjustmentLayer, emptyDocument, type Layer, type Reading, type UmboDocument } from '@umbo/core/document';
import { readAfter, readingPlace, solve, type Aim, type Place } from '@umbo/core/solve';

const size = { width: 60, height: 40 };

/** Patches of one colour each, side by side, with a little noise that is always the same. */
function patches(colours: readonly (readonly [number, number, number])[]): Raster {
  const raster = createRaster(wholeOf(size));
  let seed = 7;
  const noise = (): number => ((seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5) * 0.02;
  for (let i = 0; i < raster.r.length; i++) {
    const colour = colours[Math.floor(((i % size.width) / size.width) * colours.length)]!;
    for (const [c, plane] of [raster.r, raster.g, raster.b].entries()) plane[i] = Math.round((colour[c]! + noise()) * 65535);
  }
  return raster;
}

const spotAt = (letter: string, x: number): Reading => ({ id: letter, letter, name: letter, spot: { x, y: 20, side: 5 } });

function run(document: UmboDocument, photograph: Raster, layerId: string, wanted: readonly (readonly [Reading, Aim])[]) {
  const readings = wanted.map(([reading]) => reading);
  const places = new Map<string, Place>(
    readings.map((reading) => [
      reading.id,
      { scale: { picture: size, full: size }, area: readingPlace(reading, size).area, photograph, pictures: noPictures },
    ]),
  );
  const solved = solve(
    document,
    layerId,
    'settings',
    wanted.map(([reading, aim]) => ({ reading, aim })),
    readings,
    places,
    () => undefined,
  );
  const after = { ...document, layers: document.layers.map((layer) => (layer.id === layerId ? solved.layer : layer)) };
  const labs = readings.map((reading) => rgbToLab(srgb, ...readAfter(after, reading, places.get(reading.id)!)!.mean));
  return { ...solved, labs };
}

const withLayers = (layers: Layer[]): UmboDocument => ({ ...emptyDocument(size), layers });

it('exposure is what trying every step finds', () => {
  const photograph = patches([[0.35, 0.3, 0.25]]);
  const reading = spotAt('A', 30);
  const lab = rgbToLab(srgb, 0.55, 0.48, 0.4);
  const { layer } = run(withLayers([adjustmentLayer('e', 'exposure', 'E')]), photograph, 'e', [[reading, { kind: 'colour', lab }]]);
  const found = (layer.what as { settings: { stops: number } }).settings.stops;
  const place: Place = { scale: { picture: size, full: size }, area: readingPlace(reading, size).area, photograph, pictures: noPictures };
  const costOf = (stops: number): number => {
    const one = adjustmentLayer('e', 'exposure', 'E');
    Object.assign(one.what.settings, { stops });
    return deltaE2000(lab, rgbToLab(srgb, ...readAfter(withLayers([one]), reading, place)!.mean));
  };
  const tried = Array.from({ length: 801 }, (_, i) => (i - 400) / 100);
  const best = tried.reduce((a, b) => (costOf(b) < costOf(a) ? b : a));
  expect(costOf(found)).toBeLessThanOrEqual(costOf(best) + 0.05);
});

const KINDS = ['hueSaturation', 'colourBalance', 'curves', 'levels', 'colourFamilies', 'threeWayTint'] as const;

it.each(KINDS)('%s brings two readings to theirs, through what lies above', (kind) => {
  const photograph = patches([[0.62, 0.45, 0.52], [0.4, 0.33, 0.42]]); // prettier-ignore
  const above = adjustmentLayer('above', 'brightnessContrast', 'Above');
  above.how.opacity = 0.5;
  const layer = adjustmentLayer('s', kind, 'S');
  layer.how.opacity = 0.8;
  const aims = [rgbToLab(srgb, 0.6, 0.47, 0.44), rgbToLab(srgb, 0.4, 0.35, 0.34)];
  const start = performance.now();
  const { reached, labs } = run(withLayers([layer, above]), photograph, 's', [
    [spotAt('A', 15), { kind: 'colour', lab: aims[0]! }],
    [spotAt('B', 45), { kind: 'colour', lab: aims[1]! }],
  ]);
  console.log(
    kind,
    reached,
    performance.now() - start,
    labs.map((lab, i) => deltaE2000(aims[i]!, lab)),
  );
});
