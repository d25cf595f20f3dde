/** Aligning photographs: the demo's two exposures, whose motion is known, and pairs that are made by known motions. */
import { join } from 'node:path';
import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { align, asFrame, coveredByBoth, type Grey, type Motion } from '@umbo/core/align';

const demo = join(import.meta.dirname, '../../demo/photographs');

async function greyOf(name: string, width?: number): Promise<Grey> {
  const image = sharp(join(demo, name));
  const { data, info } = await (width ? image.resize(width) : image).toColourspace('b-w').raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, values: new Float32Array(data).map((v) => v / 255) };
}

function placeOf({ dx, dy, turn, scale, lean = [0, 0] }: Motion, px: number, py: number): [number, number] {
  const [x, y] = [px, py].map((v) => v / (1 + lean[0] * px + lean[1] * py)) as [number, number];
  return [scale * (Math.cos(turn) * x - Math.sin(turn) * y) + dx, scale * (Math.sin(turn) * x + Math.cos(turn) * y) + dy];
}

/** How far two motions are apart at the worst corner, in pixels. */
function apart({ width, height }: Grey, a: Motion, b: Motion): number {
  const corners = [-1, 1].flatMap((x) => [-1, 1].map((y) => [(x * width) / 2, (y * height) / 2] as const));
  return Math.max(
    ...corners.map(([x, y]) => {
      const [[ax, ay], [bx, by]] = [placeOf(a, x, y), placeOf(b, x, y)];
      return Math.hypot(ax - bx, ay - by);
    }),
  );
}

/** Noise that is the same in every run: N. Metropolis and S. Ulam's idea by a linear congruence (Numerical Recipes' constants, from memory). */
let seed = 7;
const random = (): number => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 4294967296;

/** A photograph moved by a known motion, darkened by stops in light, and made noisy and 8 bits again. */
function moved({ width, height, values }: Grey, { dx, dy, turn, scale, lean = [0, 0] }: Motion, stops: number): Grey {
  const out = new Float32Array(width * height);
  const [cos, sin] = [Math.cos(turn) / scale, Math.sin(turn) / scale];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [px, py] = [x + 0.5 - width / 2 - dx, y + 0.5 - height / 2 - dy];
      const [qx, qy] = [cos * px + sin * py, cos * py - sin * px];
      const nearer = 1 - lean[0] * qx - lean[1] * qy;
      const [u, v] = [qx / nearer + width / 2 - 0.5, qy / nearer + height / 2 - 0.5];
      const [x0, y0] = [Math.floor(u), Math.floor(v)];
      if (x0 < 0 || y0 < 0 || x0 >= width - 1 || y0 >= height - 1) continue;
      const [fx, fy, i] = [u - x0, v - y0, y0 * width + x0];
      const mixed =
        (values[i]! * (1 - fx) + values[i + 1]! * fx) * (1 - fy) + (values[i + width]! * (1 - fx) + values[i + width + 1]! * fx) * fy;
      const noise = Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
      out[y * width + x] = Math.max(0, Math.min(255, Math.round(255 * Math.min(1, mixed ** 2.2 * 2 ** stops) ** (1 / 2.2) + noise))) / 255;
    }
  return { width, height, values: out };
}

describe('photographs of the same thing', () => {
  it('seven stops apart: the two exposures of the workshop are found within 0.3 px and 0.02° of how they were made', async () => {
    const [short, long] = await Promise.all([greyOf('workshop-short.jpg'), greyOf('workshop-long.jpg')]);
    const found = align(short, long)!;
    // demo/CREDITS.md: moved by dx 6.3, dy -4.1 px and turned 0.25 degrees about the centre.
    expect(Math.abs(found.dx - 6.3)).toBeLessThan(0.3);
    expect(Math.abs(found.dy + 4.1)).toBeLessThan(0.3);
    expect(Math.abs((found.turn * 180) / Math.PI - 0.25)).toBeLessThan(0.02);
    expect(found.agree / found.places).toBeGreaterThan(0.9);
  });

  it.each([
    ['vases.jpg', { dx: 14.3, dy: -9.7, turn: 0.045, scale: 1.027 }, -6.5, false],
    ['lane-sodium.jpg', { dx: -3.3, dy: -18.2, turn: -0.03, scale: 1.012 }, -3, true],
    ['vases.jpg', { dx: 5.2, dy: -3.4, turn: 0.012, scale: 1.006, lean: [0.08 / 640, -0.05 / 640] }, -2, true],
  ] as const)('%s, moved by %j, within half a pixel at every corner', async (name, motion, stops, perspective) => {
    const first = await greyOf(name, 640);
    const found = align(first, moved(first, motion, stops), undefined, { perspective })!;
    expect(apart(first, found, motion)).toBeLessThan(0.5);
    expect(found.residual).toBeLessThan(0.3);
  });

  it('that do not belong together are refused, and so is a picture of nothing', async () => {
    const [vases, fruit] = await Promise.all([greyOf('vases.jpg', 640), greyOf('fruit.jpg', 640)]);
    expect(
      align(vases, { ...fruit, width: vases.width, height: vases.height, values: fruit.values.slice(0, vases.values.length) }),
    ).toBeNull();
    expect(align(vases, { ...vases, values: new Float32Array(vases.values.length).fill(0.5) })).toBeNull();
  });
});

it('an alignment as the place of a frame leads from each place to the same one', () => {
  const signed = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
  fc.assert(
    fc.property(
      signed(40),
      signed(40),
      signed(0.06),
      signed(0.03),
      signed(10),
      signed(300),
      signed(200),
      (dx, dy, turn, larger, leaning, x, y) => {
        const motion = { dx, dy, turn, scale: 1 + larger, lean: [leaning / 40_000, leaning / 60_000] as const };
        const laid = asFrame(motion, 2, 3, 1000);
        const [u, v] = placeOf(motion, x / 2, y / 2);
        // Where the frame puts that place of the other photograph on this one.
        const angle = (laid.rotate * Math.PI) / 180;
        const [cos, sin] = [(Math.cos(angle) * laid.scale) / 100, (Math.sin(angle) * laid.scale) / 100];
        const nearer = 1 + (laid.leanX! * x + laid.leanY! * y) / 100_000;
        expect(cos * u * 3 - sin * v * 3 + laid.x).toBeCloseTo(x / nearer, 1);
        expect(sin * u * 3 + cos * v * 3 + laid.y).toBeCloseTo(y / nearer, 1);
      },
    ),
  );
  const still = { x: 10, y: -4, rotate: 0, scale: 100 };
  const size = { width: 100, height: 80 };
  expect(coveredByBoth(still, size, size)).toEqual({ x: 10, y: 0, width: 90, height: 76 });
  expect(coveredByBoth({ ...still, x: 200 }, size, size)).toBeNull();
});
