/** Pictures and planes, against brute force and against libvips. */
import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { boxMean } from '../src/guide.ts';
import { connected, crop, createPlane, pyramidOf, resized, resizedPicture, whole, type Picture, type Plane } from '../src/picture.ts';

const planes = fc
  .record({ width: fc.integer({ min: 1, max: 14 }), height: fc.integer({ min: 1, max: 12 }), seed: fc.nat(1000) })
  .map(({ width, height, seed }): Plane => {
    const plane = createPlane(width, height);
    for (let i = 0; i < plane.data.length; i++) plane.data[i] = ((i * 7919 + seed * 104729) % 997) / 997;
    return plane;
  });
/** A picture without fine detail, 0..1, at any place. */
const gentleAt = (x: number, y: number, c: number): number => 0.5 + 0.4 * Math.sin((x * (c + 1)) / 37 + (y * (3 - c)) / 29);
function gentle(width: number, height: number): Picture {
  const data = new Float32Array(width * height * 3);
  for (let y = 0, i = 0; y < height; y++) for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) data[i++] = gentleAt(x, y, c);
  return { width, height, data };
}
const meanOf = (values: Float32Array, of: (value: number, i: number) => number): number =>
  values.reduce((sum, value, i) => sum + of(value, i), 0) / values.length;

describe('planes', () => {
  it('have means over squares as they are added up one by one', () => {
    fc.assert(
      fc.property(planes, fc.nat(6), (plane, radius) => {
        const out = boxMean(plane, radius);
        for (let y = 0; y < plane.height; y++)
          for (let x = 0; x < plane.width; x++) {
            let [sum, n] = [0, 0];
            for (let v = Math.max(0, y - radius); v <= Math.min(plane.height - 1, y + radius); v++)
              for (let u = Math.max(0, x - radius); u <= Math.min(plane.width - 1, x + radius); u++) {
                sum += plane.data[v * plane.width + u]!;
                n++;
              }
            expect(out.data[y * plane.width + x]!).toBeCloseTo(sum / n, 5);
          }
      }),
    );
  });

  it('are connected where a way of neighbours leads from pixel to pixel', () => {
    fc.assert(
      fc.property(planes, (plane) => {
        const { labels, sizes } = connected(plane, (i) => plane.data[i]! > 0.45);
        for (let i = 0; i < labels.length; i++) {
          expect(labels[i]! > 0).toBe(plane.data[i]! > 0.45);
          const [x, right, below] = [i % plane.width, i + 1, i + plane.width];
          if (labels[i]! > 0 && x < plane.width - 1 && labels[right]! > 0) expect(labels[right]).toBe(labels[i]);
          if (labels[i]! > 0 && below < labels.length && labels[below]! > 0) expect(labels[below]).toBe(labels[i]);
        }
        for (const [label, size] of sizes.entries()) if (label > 0) expect(labels.filter((one) => one === label).length).toBe(size);
      }),
    );
  });

  it('keep their mean at any smaller size, and their values at their own', () => {
    const plane: Plane = { width: 64, height: 48, data: gentle(64, 48).data.filter((_, i) => i % 3 === 0) };
    const mean = ({ data }: Plane): number => data.reduce((sum, v) => sum + v, 0) / data.length;
    expect([...resized(plane, 64, 48).data]).toEqual([...plane.data]);
    for (const [width, height] of [
      [32, 24],
      [16, 12],
    ] as const)
      expect(mean(resized(plane, width, height))).toBeCloseTo(mean(plane), 4);
  });
});

describe('pictures', () => {
  it('are made smaller as libvips does it, and larger as what they are of is between its pixels', async () => {
    const picture = gentle(240, 180);
    const bytes = Uint8Array.from(picture.data, (v) => Math.round(v * 255));
    const smaller = resizedPicture(picture, 60, 45).data;
    const theirs = await sharp(bytes, { raw: { width: 240, height: 180, channels: 3 } })
      .resize(60, 45, { kernel: 'mitchell' })
      .raw()
      .toBuffer();
    expect(meanOf(smaller, (v, i) => Math.abs(v * 255 - theirs[i]!))).toBeLessThan(0.8);
    for (const [width, height] of [
      [480, 360],
      [300, 225],
    ] as const) {
      const larger = resizedPicture(picture, width, height).data;
      const step = 240 / width;
      const apart = meanOf(larger, (v, i) => {
        const [x, y] = [Math.floor(i / 3) % width, Math.floor(i / 3 / width)];
        if (x < 4 || y < 4 || x >= width - 4 || y >= height - 4) return 0;
        return Math.abs(v - gentleAt((x + 0.5) * step - 0.5, (y + 0.5) * step - 0.5, i % 3)) * 255;
      });
      expect(apart).toBeLessThan(0.1);
    }
  });

  it('are cropped turned: a crop, cropped back, is where it was', () => {
    const picture = gentle(200, 160);
    const pyramid = pyramidOf(picture);
    const same = crop(pyramid, whole(picture), 200, 160);
    for (let i = 0; i < same.length; i += 7) expect(same[i]!).toBeCloseTo(picture.data[i]!, 5);
    fc.assert(
      fc.property(fc.double({ min: -3, max: 3, noNaN: true }), (angle) => {
        const turned = { cx: 100, cy: 80, width: 60, height: 60, angle };
        const cut: Picture = { width: 60, height: 60, data: crop(pyramid, turned, 60, 60, { beside: 'edge' }) };
        const back = crop(pyramidOf(cut), { cx: 30, cy: 30, width: 30, height: 30, angle: -angle }, 30, 30, { beside: 'edge' });
        const straight = crop(pyramid, { cx: 100, cy: 80, width: 30, height: 30, angle: 0 }, 30, 30);
        for (let i = 0; i < back.length; i += 11) expect(Math.abs(back[i]! - straight[i]!)).toBeLessThan(0.02);
      }),
      { numRuns: 20 },
    );
  });

  it('have something beside them, or their edge again', () => {
    const picture = gentle(20, 20);
    const far = { cx: -50, cy: 10, width: 10, height: 10, angle: 0 };
    expect(new Set(crop([picture], far, 4, 4, { beside: 0.25 }))).toEqual(new Set([0.25]));
    const edge = crop([picture], far, 4, 4, { beside: 'edge', low: -1, high: 1 });
    for (let y = 0; y < 4; y++) {
      const row = Math.min(19, Math.max(0, (y + 0.5) * 2.5 + 5 - 0.5));
      const at = (v: number): number => picture.data[v * 20 * 3]!;
      const wanted = at(Math.floor(row)) * (1 - (row % 1)) + at(Math.min(19, Math.floor(row) + 1)) * (row % 1);
      expect(edge[y * 4 * 3]!).toBeCloseTo(wanted * 2 - 1, 4);
    }
  });
});
