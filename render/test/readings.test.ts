/** What a sheet says of readings: against values of CSS Color 4. */
import { createRaster, noPictures } from '@umbo/core/base';
import { adjustmentLayer, emptyDocument, type Reading, type UmboDocument } from '@umbo/core/document';
import { expect, it } from 'vitest';
import { readingFacts } from '../src/readings.ts';

const size = { width: 60, height: 40 };
const spot = (letter: string, x: number, more: Partial<Reading> = {}): Reading => ({
  id: letter,
  letter,
  name: `Reading ${letter}`,
  spot: { x, y: 20, side: 5 },
  ...more,
});

it('says what they are after the layers, how far from their targets, and whether that will do', () => {
  // The left half is sRGB red, the right one middle grey.
  const document: UmboDocument = {
    ...emptyDocument(size),
    layers: [adjustmentLayer('a', 'invert', 'Negative')],
    readings: [
      spot('A', 10),
      spot('B', 50, { target: { kind: 'neutral' } }),
      spot('C', 12, { target: { kind: 'reading', reading: 'A' } }),
      spot('D', 50, { target: { kind: 'reading', reading: 'A' } }),
    ],
  };
  const facts = readingFacts(document, size, noPictures, (_level, _size, area) => {
    const raster = createRaster(area);
    for (let y = 0, i = 0; y < area.height; y++)
      for (let x = area.x; x < area.x + area.width; x++, i++)
        for (const [c, plane] of [raster.r, raster.g, raster.b].entries()) plane[i] = x < 30 ? [65535, 0, 0][c]! : 32768;
    return raster;
  });
  // Of the negative of red, cyan: lab(91.115% -50.82 -14.95), as browsers give it for CSS Color 4 (from memory).
  const [a, b, c, d] = facts;
  expect(Math.abs(a!.lab.l - 91.1)).toBeLessThan(0.5);
  expect(Math.abs(a!.lab.a + 50.8)).toBeLessThan(1);
  expect(Math.abs(a!.lab.b + 15)).toBeLessThan(1);
  expect(a).toMatchObject({ letter: 'A', off: null, passes: null });
  expect(b!.off).toBeLessThan(0.2);
  expect([b!.passes, c!.passes, d!.passes]).toEqual([true, true, false]);
  // One that is not on the photograph says nothing.
  expect(readingFacts({ ...document, readings: [spot('E', 900)] }, size, noPictures, (_level, _size, area) => createRaster(area))).toEqual(
    [],
  );
});
