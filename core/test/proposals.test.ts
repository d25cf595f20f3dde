/** What is proposed for a faded print: true to what was done to it. */
import { expect, it } from 'vitest';
import { createRaster, noPictures, wholeOf, type Raster } from '@umbo/core/base';
import { emptyDocument } from '@umbo/core/document';
import { measurement } from '@umbo/core/measure';
import { renderRegion } from '@umbo/core/render';

const size = { width: 256, height: 8 };
const scale = { picture: size, full: size };
const tones = (at: (x: number) => number): Raster => {
  const raster = createRaster(wholeOf(size));
  for (let i = 0; i < raster.r.length; i++)
    for (const plane of [raster.r, raster.g, raster.b]) plane[i] = Math.round(at((i % 256) / 255) * 65535);
  return raster;
};
const { measure, layers } = measurement('proposals');
const propose = (picture: Raster) => measure({}, { picture, weight: null, scale });
const find = (picture: Raster, id: string) => propose(picture).filter((one) => one.id === id);

/** The picture with one proposal taken. */
function taken(picture: Raster, id: string): Raster {
  const document = { ...emptyDocument(size), layers: layers!(find(picture, id), () => 'p') };
  const out = createRaster(wholeOf(size));
  renderRegion(document, scale, wholeOf(size), picture, noPictures, (_tile, pixels) => {
    for (const plane of ['r', 'g', 'b'] as const)
      for (let i = 0; i < out.r.length; i++) out[plane][i] = Math.round(pixels[plane][i]! * 65535);
  });
  return out;
}

it('ends and middle bring back a picture whose tones were narrowed and lightened', () => {
  const faded = tones((x) => 0.25 + 0.6 * x);
  expect(find(faded, 'ends')[0]!.words).toBe('Ends: 64 to 217');
  const [first, last] = [taken(faded, 'ends').r[0]!, taken(faded, 'ends').r[255]!];
  expect([first / 65535, last / 65535]).toEqual([expect.closeTo(0, 2), expect.closeTo(1, 2)]);
  const pale = tones((x) => x ** 0.5);
  const middle = taken(pale, 'middle');
  // Half of the pixels of the even ramp that it was are darker than the middle.
  expect(middle.r[128]! / 65535).toBeCloseTo(0.46, 1);
  // An even ramp asks for neither.
  expect(propose(tones((x) => x)).filter(({ id }) => id !== 'contrast')).toEqual([]);
});

it('multiplying is proposed as often as brings its darks down, and not where there are some', () => {
  const pale = tones((x) => 0.5 + 0.5 * x);
  const [once] = find(pale, 'multiply');
  expect(once).toMatchObject({ times: 2 });
  const darks = Array.from(taken(pale, 'multiply').r).sort((a, b) => a - b)[Math.round(0.02 * pale.r.length)]! / 65535;
  expect(Math.abs(darks - 0.15)).toBeLessThan(0.02);
  expect(find(tones((x) => 0.05 + 0.5 * x), 'multiply')).toEqual([]); // prettier-ignore
});
