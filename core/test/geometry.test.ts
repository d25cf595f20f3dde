/** Cutting the picture from the photograph: the resampling against libvips and against formulas, the projections against geometry. */
import { readFileSync } from 'node:fs';
import {
  accelerate,
  createRaster,
  composed,
  inverse,
  project,
  shift,
  wholeOf,
  type Framing,
  type Matrix,
  type Samples,
  type Scale,
  type Size,
  noPictures,
} from '@umbo/core/base';
import { adjustmentLayer, edit, emptyDocument, fitDocument, scaleOf, type UmboDocument } from '@umbo/core/document';
import {
  cropOf,
  cropWithin,
  framingAt,
  framingOf,
  isWithin,
  largestCrop,
  levelledBy,
  noGeometry,
  outlineOnPlane,
  photographArea,
  pictureSamples,
  sizeAt,
  toPlane,
  warpPixels,
  uprightFrom,
  type Geometry,
} from '@umbo/core/geometry';
import { measurement } from '@umbo/core/measure';
import { renderMask } from '@umbo/core/mask';
import { renderRegion } from '@umbo/core/render';
import { createKernels } from '@umbo/kernels';
import fc from 'fast-check';
import sharp, { type Sharp } from 'sharp';
import { afterEach, describe, expect, it } from 'vitest';

afterEach(() => accelerate(null));

const file = (name: string): Buffer => readFileSync(new URL(`../../demo/photographs/${name}`, import.meta.url));
const raw = async (image: Sharp): Promise<{ size: Size; samples: Samples }> => {
  const { data, info } = await image.removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const size = { width: info.width, height: info.height };
  return { size, samples: { area: wholeOf(size), channels: 3, values: new Uint8Array(data) } };
};
const empty = (area: Samples['area'], channels: number, of: typeof Uint8Array | typeof Uint16Array = Uint8Array): Samples => ({
  area,
  channels,
  values: new of(area.width * area.height * channels),
});
const whole = (size: Size, framing: Framing): Scale => ({ picture: size, full: size, framing });
/** All of the picture that a geometry makes of samples. */
const turned = (geometry: Geometry, size: Size, samples: Samples): { size: Size; values: Samples['values'] } => {
  const framing = framingOf(geometry, size)!;
  const out: Samples = { ...samples, area: wholeOf(framing.size), values: empty(wholeOf(framing.size), samples.channels).values };
  warpPixels(whole(size, framing), framing, samples, out, [0, 0, 0, 0]);
  return { size: framing.size, values: out.values };
};
/** A photograph of a formula. */
const drawn = (size: Size, f: (x: number, y: number) => number): Samples => {
  const out = empty(wholeOf(size), 1);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) out.values[y * size.width + x] = Math.round(f(x + 0.5, y + 0.5));
  return out;
};

describe('a photograph that is turned', () => {
  it('freely is within 1 of 255 in the mean what libvips makes of it by its affine transform, with kernels and without', async () => {
    const { size, samples } = await raw(sharp(file('vases.jpg')).extract({ left: 300, top: 200, width: 420, height: 300 }));
    const angle = (7.3 * Math.PI) / 180;
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    const vips = await raw(
      sharp(Buffer.from(samples.values), { raw: { ...size, channels: 3 } }).affine([cos, -sin, sin, cos], {
        // The sharpest that libvips offers for this; Lanczos is a little sharper.
        interpolator: sharp.interpolators.bicubic,
      }),
    );
    const turn: Matrix = [
      [cos, -sin, 0],
      [sin, cos, 0],
      [0, 0, 1],
    ];
    // There, places are those of the pixels' middles, and the output begins at whole pixels.
    const toPicture = composed(shift(-0.5, -0.5), turn, shift(Math.round(sin * size.height) + 0.5, 0.5));
    const framing: Framing = {
      size: vips.size,
      toPicture,
      toPhotograph: inverse(toPicture),
      keepsPixels: false,
      outside: { colour: [0, 0, 0], fade: 0 },
    };
    const made = [null, createKernels()].map((kernels) => {
      accelerate(kernels);
      const out = empty(wholeOf(vips.size), 3);
      warpPixels(whole(size, framing), framing, samples, out, [0, 0, 0]);
      return out.values;
    });
    let [sum, n, apart] = [0, 0, 0];
    for (let y = 0; y < vips.size.height; y++)
      for (let x = 0; x < vips.size.width; x++) {
        const [u, v] = project(framing.toPhotograph, x + 0.5, y + 0.5);
        if (u < 6 || v < 6 || u > size.width - 6 || v > size.height - 6) continue;
        for (let i = (y * vips.size.width + x) * 3, end = i + 3; i < end; i++, n++) {
          sum += Math.abs(made[1]![i]! - vips.samples.values[i]!);
          apart = Math.max(apart, Math.abs(made[0]![i]! - made[1]![i]!));
        }
      }
    console.log(`against libvips: ${(sum / n).toFixed(3)} of 255 in the mean`);
    expect(n).toBeGreaterThan(200_000);
    expect(sum / n).toBeLessThan(1);
    expect(apart).toBeLessThanOrEqual(1);
  });

  it('in perspective is, within 1 of 255 in the mean, the formula that it was drawn by', () => {
    accelerate(createKernels());
    const size = { width: 300, height: 200 };
    const f = (x: number, y: number): number => 128 + 60 * Math.sin(x / 9) * Math.cos(y / 11) + 40 * Math.sin((x + y) / 23);
    const geometry: Geometry = { ...noGeometry, vertical: 35, horizontal: -20, angle: 4, skew: 5, stretch: -8 };
    const framing = framingOf(geometry, size)!;
    const { values } = turned(geometry, size, drawn(size, f));
    let sum = 0;
    for (let y = 0, i = 0; y < framing.size.height; y++)
      for (let x = 0; x < framing.size.width; x++, i++) sum += Math.abs(values[i]! - f(...project(framing.toPhotograph, x + 0.5, y + 0.5)));
    expect(sum / values.length).toBeLessThan(1);
  });

  it('by quarters, mirrored and cropped has the very pixels that libvips puts there', async () => {
    const { size, samples } = await raw(sharp(file('fruit.jpg')).resize(90, 60, { fit: 'fill' }));
    const input = (): Sharp => sharp(Buffer.from(samples.values), { raw: { ...size, channels: 3 } });
    const crop = { x: 7, y: 11, width: 31, height: 23 };
    for (let quarters = 0; quarters < 4; quarters++)
      for (const flipped of [false, true]) {
        const rotated = await raw(input().rotate(90 * quarters));
        const mirrored = await raw(sharp(Buffer.from(rotated.samples.values), { raw: { ...rotated.size, channels: 3 } }).flop(flipped));
        const expected = await raw(
          sharp(Buffer.from(mirrored.samples.values), { raw: { ...mirrored.size, channels: 3 } }).extract({
            left: crop.x,
            top: crop.y,
            width: crop.width,
            height: crop.height,
          }),
        );
        expect(turned({ ...noGeometry, quarters, flipped, crop }, size, samples).values).toEqual(expected.samples.values);
      }
  });

  it('comes out the same in whatever parts it is made, from no more than it says it needs', () => {
    accelerate(createKernels());
    const size = { width: 120, height: 90 };
    const source = drawn(size, (x, y) => 128 + 100 * Math.sin(x / 3) * Math.cos(y / 2));
    for (const geometry of [
      { ...noGeometry, angle: -11.5 },
      { ...noGeometry, vertical: 60, horizontal: 30 },
      { ...noGeometry, quarters: 3, crop: { x: -9, y: 4, width: 60, height: 70 }, outside: { colour: [0.2, 0.2, 0.2], fade: 12 } },
    ] as Geometry[]) {
      const framing = framingOf(geometry, size)!;
      const scale = whole(size, framing);
      const all = pictureSamples(scale, wholeOf(framing.size), () => source);
      for (const area of [
        { x: 0, y: 0, width: 17, height: 13 },
        { x: 21, y: 30, width: 25, height: 9 },
        { x: framing.size.width - 5, y: framing.size.height - 4, width: 5, height: 4 },
      ]) {
        const part = pictureSamples(scale, area, (needed) => {
          expect(needed).toEqual(photographArea(scale, area));
          const out = empty(needed, 1);
          for (let y = 0; y < needed.height; y++)
            for (let x = 0; x < needed.width; x++)
              out.values[y * needed.width + x] = source.values[(needed.y + y) * size.width + needed.x + x]!;
          return out;
        });
        for (let y = 0; y < area.height; y++)
          for (let x = 0; x < area.width; x++)
            expect(part.values[y * area.width + x]).toBe(all.values[(area.y + y) * framing.size.width + area.x + x]);
      }
    }
  });

  it('has the canvas’s colour around it, into which its edge fades without a step', () => {
    const size = { width: 60, height: 40 };
    const source = drawn(size, () => 200);
    const crop = { x: -40, y: 0, width: 100, height: 40 };
    const plain = turned({ ...noGeometry, crop }, size, source).values;
    expect([plain[0], plain[39], plain[40]]).toEqual([0, 0, 200]);
    const faded = turned({ ...noGeometry, crop, outside: { colour: [0, 0, 0], fade: 30 } }, size, source).values.subarray(0, 60);
    expect(faded[0]).toBe(0);
    for (let x = 1; x < 60; x++) {
      expect(faded[x]!).toBeGreaterThanOrEqual(faded[x - 1]!);
      expect(faded[x]! - faded[x - 1]!).toBeLessThan(200 / 30 + 6);
    }
  });
});

describe('a crop', () => {
  const angles = fc.record({
    angle: fc.double({ min: -45, max: 45, noNaN: true }),
    vertical: fc.integer({ min: -60, max: 60 }),
    horizontal: fc.integer({ min: -60, max: 60 }),
  });

  it('that nobody made is the largest of the photograph’s ratio within it', () => {
    // A square turned by 45°: the largest square within has half of its area.
    const side = cropOf({ ...noGeometry, angle: 45 }, { width: 1000, height: 1000 }).width;
    expect(Math.abs(side - 1000 / Math.SQRT2)).toBeLessThan(2);
    const size = { width: 900, height: 600 };
    fc.assert(
      fc.property(angles, (values) => {
        const geometry = { ...noGeometry, ...values };
        const outline = outlineOnPlane(geometry, size);
        const crop = cropOf(geometry, size);
        expect(isWithin(outline, crop)).toBe(true);
        // There is no room for one that is clearly larger, wherever it lies.
        const larger = { width: crop.width * 1.03 + 3, height: crop.height * 1.03 + 3 };
        expect(largestCrop(outline, larger).width).toBeLessThan(larger.width);
      }),
      { numRuns: 60 },
    );
  });

  it('is kept within the photograph with its ratio', () => {
    const size = { width: 900, height: 600 };
    fc.assert(
      fc.property(angles, fc.integer({ min: -200, max: 700 }), fc.integer({ min: -200, max: 500 }), (values, x, y) => {
        const outline = outlineOnPlane({ ...noGeometry, ...values }, size);
        const crop = cropWithin(outline, { x, y, width: 400, height: 300 });
        expect(isWithin(outline, crop)).toBe(true);
        expect(Math.abs(crop.width / crop.height - 4 / 3)).toBeLessThan(0.05);
      }),
      { numRuns: 60 },
    );
  });

  it('comes along to a photograph of another size', () => {
    const document: UmboDocument = {
      ...emptyDocument({ width: 600, height: 400 }),
      geometry: { ...noGeometry, quarters: 1, crop: { x: 40, y: 60, width: 200, height: 300 } },
    };
    const { geometry } = fitDocument(document, { width: 1200, height: 800 });
    expect(geometry!.crop).toEqual({ x: 80, y: 120, width: 400, height: 600 });
    // On its side, the crop's width is along the photograph's height.
    const longer = fitDocument(document, { width: 1200, height: 400 });
    expect(longer.geometry!.crop).toEqual({ x: 40, y: 120, width: 200, height: 600 });
  });
});

describe('what is to be upright', () => {
  const size = { width: 1200, height: 800 };

  it('is a rectangle with level sides, whatever four corners it had', () => {
    // Corners of a real rectangle, seen through a projection: so that there is one to find.
    fc.assert(
      fc.property(
        fc.record({
          angle: fc.double({ min: -20, max: 20, noNaN: true }),
          vertical: fc.integer({ min: -50, max: 50 }),
          horizontal: fc.integer({ min: -50, max: 50 }),
          skew: fc.integer({ min: -20, max: 20 }),
        }),
        (seen) => {
          const away = inverse(toPlane({ ...noGeometry, ...seen }, size));
          const corners = [
            [400, 300],
            [800, 300],
            [800, 560],
            [400, 560],
          ].map(([x, y]) => project(away, x!, y!));
          const made = uprightFrom(noGeometry, size, corners);
          expect(made).not.toBeNull();
          const [a, b, c, d] = corners.map((corner) => project(toPlane(made!, size), ...corner));
          for (const off of [a![1] - b![1], b![0] - c![0], c![1] - d![1], d![0] - a![0]]) expect(Math.abs(off)).toBeLessThan(1e-6);
          expect(b![0]).toBeGreaterThan(a![0]);
          expect(d![1]).toBeGreaterThan(a![1]);
        },
      ),
      { numRuns: 100 },
    );
    // What crosses itself is no rectangle.
    expect(uprightFrom(noGeometry, size, [[0, 0], [100, 100], [100, 0], [0, 100]])).toBeNull(); // prettier-ignore
  });

  it('is level along a line, at any perspective', () => {
    const geometry: Geometry = { ...noGeometry, vertical: 30, quarters: 1, flipped: true };
    const [from, to] = [[100, 400], [1000, 460]] as const; // prettier-ignore
    const plane = toPlane({ ...geometry, angle: levelledBy(geometry, size, from, to) }, size);
    const [[x0], [x1]] = [project(plane, ...from), project(plane, ...to)];
    // Quarter-turned, what was level is upright.
    expect(Math.abs(x0 - x1)).toBeLessThan(1e-6);
  });

  it('is found by the lines of a photograph that libvips turned', async () => {
    const levelOf = async (degrees: number): Promise<number> => {
      const small = await raw(sharp(file('workshop-short.jpg')).resize(800, 800, { fit: 'inside' }));
      const rotated = await raw(sharp(Buffer.from(small.samples.values), { raw: { ...small.size, channels: 3 } }).rotate(degrees));
      const [width, height] = [Math.floor(small.size.width * 0.8), Math.floor(small.size.height * 0.8)];
      const { values } = (
        await raw(
          sharp(Buffer.from(rotated.samples.values), { raw: { ...rotated.size, channels: 3 } }).extract({
            left: (rotated.size.width - width) >> 1,
            top: (rotated.size.height - height) >> 1,
            width,
            height,
          }),
        )
      ).samples;
      const picture = createRaster(wholeOf({ width, height }));
      for (let i = 0; i < width * height; i++)
        for (const [c, plane] of [picture.r, picture.g, picture.b].entries()) plane[i] = values[i * 3 + c]! * 257;
      return measurement('level').measure({}, { picture, weight: null, scale: { picture: picture.area, full: picture.area } })!.angle;
    };
    const [level, ...others] = await Promise.all([levelOf(0), levelOf(3), levelOf(-4.5)]);
    expect(Math.abs(level)).toBeLessThan(0.3);
    expect(Math.abs(others[0]! - level + 3)).toBeLessThan(0.4);
    expect(Math.abs(others[1]! - level - 4.5)).toBeLessThan(0.4);
    // Noise has no lines.
    const noise = createRaster(wholeOf({ width: 200, height: 150 }));
    let state = 1;
    for (const plane of [noise.r, noise.g, noise.b])
      for (let i = 0; i < plane.length; i++) plane[i] = (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 16;
    expect(measurement('level').measure({}, { picture: noise, weight: null, scale: { picture: noise.area, full: noise.area } })).toBeNull();
  });
});

describe('an edit', () => {
  const size = { width: 96, height: 64 };
  const photograph = createRaster(wholeOf(size));
  for (const plane of [photograph.r, photograph.g, photograph.b]) plane.fill(40_000);
  const rendered = (document: UmboDocument): Uint8Array => {
    const scale = scaleOf(document, size);
    const { values } = pictureSamples(scale, wholeOf(sizeAt(scale)), (area) => {
      const out = empty(area, 1);
      renderRegion(document, scale, area, photograph, noPictures, (tile, { r }) => {
        for (let y = 0, i = 0; y < tile.height; y++)
          for (let x = 0; x < tile.width; x++, i++)
            out.values[(tile.y - area.y + y) * area.width + tile.x - area.x + x] = Math.round(r[i]! * 255);
      });
      return out;
    });
    return values as Uint8Array;
  };
  const withVignette = (): UmboDocument => ({ ...emptyDocument(size), layers: [adjustmentLayer('v', 'vignette', 'Corners')] });

  it('has its vignette about the middle of the crop: each corner is as dark as the others, as on a photograph of that size', () => {
    const crop = { x: 40, y: 10, width: 48, height: 32 };
    const values = rendered({ ...withVignette(), geometry: { ...noGeometry, crop } });
    const corners = [0, 47, 31 * 48, 32 * 48 - 1].map((i) => values[i]!);
    for (const corner of corners) expect(Math.abs(corner - corners[0]!)).toBeLessThanOrEqual(1);
    expect(values[16 * 48 + 24]! - corners[0]!).toBeGreaterThan(10);
    const middleOfAll = rendered(withVignette());
    expect(middleOfAll[0]).toBe(corners[0]);
  });

  it('keeps its masks on their objects: of an ellipse, cut from the photograph before or after, 99 % is the same', () => {
    accelerate(createKernels());
    const { document } = edit(emptyDocument(size), (draft) => void draft.layers.push(adjustmentLayer('a', 'invert', 'Negative')));
    const where = {
      ...document.layers[0]!.where,
      parts: [
        {
          kind: 'ellipse' as const,
          id: 'e',
          on: true,
          invert: false,
          combine: 'add' as const,
          x: 500,
          y: 300,
          rx: 230,
          ry: 120,
          rotate: 20,
          soft: 0,
        },
      ],
    };
    const big = { width: 960, height: 640 };
    const source = createRaster(wholeOf(big));
    const mask = renderMask(where as never, { picture: big, full: big }, wholeOf(big), source, noPictures);
    const geometry: Geometry = { ...noGeometry, angle: 8, vertical: 20 };
    const framing = framingOf(geometry, big)!;
    const scale = whole(big, framing);
    const cut = pictureSamples(
      scale,
      wholeOf(sizeAt(scale)),
      () => ({ area: wholeOf(big), channels: 1, values: mask }),
      () => [0],
    );
    const { toPhotograph } = framingAt(scale, framing);
    const [sin, cos] = [Math.sin(Math.PI / 9), Math.cos(Math.PI / 9)];
    let [both, either] = [0, 0];
    for (let y = 0, i = 0; y < cut.area.height; y++)
      for (let x = 0; x < cut.area.width; x++, i++) {
        const [u, v] = project(toPhotograph, x + 0.5, y + 0.5);
        const [dx, dy] = [u - 500, v - 300];
        const inside = ((dx * cos + dy * sin) / 230) ** 2 + ((dy * cos - dx * sin) / 120) ** 2 <= 1;
        const has = cut.values[i]! > 32768;
        both += inside && has ? 1 : 0;
        either += inside || has ? 1 : 0;
      }
    console.log(`an ellipse in perspective: IoU ${(both / either).toFixed(4)}`);
    expect(both / either).toBeGreaterThan(0.99);
  });
});
