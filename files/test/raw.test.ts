/** Raw files: a DNG is made of a picture through the sensor of a made-up camera, and has to become that picture again. */
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import { multiply, times, type Matrix, type Row } from '@umbo/core/base';
import { srgb } from '@umbo/core/colour';
import { decodeAll, type Pixels } from './decodeAll';

const size = { width: 480, height: 320 };
const [BLACK, WHITE] = [512, 16_383];
/** From XYZ (D65) to the sensor, as DNG 1.7 has ColorMatrix1; the camera is made up. */
const CAMERA: Matrix = [
  [0.9, -0.25, -0.1],
  [-0.45, 1.25, 0.22],
  [-0.08, 0.2, 0.62],
];

type Tag = readonly [tag: number, type: 1 | 2 | 3 | 4 | 5 | 10, values: readonly number[] | string];
const BYTES = { 1: 1, 2: 1, 3: 2, 4: 4, 5: 4, 10: 4 } as const;

function bytesOf([, type, values]: Tag): Buffer {
  if (typeof values === 'string') return Buffer.from(`${values}\0`, 'latin1');
  const out = Buffer.alloc(values.length * BYTES[type]);
  for (const [i, v] of values.entries()) {
    if (type === 1) out.writeUInt8(v, i);
    else if (type === 3) out.writeUInt16LE(v, 2 * i);
    else if (type === 10) out.writeInt32LE(v, 4 * i);
    else out.writeUInt32LE(v, 4 * i);
  }
  return out;
}

/** A DNG (Digital Negative 1.7) of a mosaic of 16-bit samples, red at the top left. */
function dng(samples: Uint16Array, neutral: Row): Buffer {
  const fraction = (v: number): number[] => [Math.round(v * 1e6), 1_000_000];
  const tags: Tag[] = [
    [254, 4, [0]], [256, 4, [size.width]], [257, 4, [size.height]], [258, 3, [16]], [259, 3, [1]], [262, 3, [32_803]],
    [271, 2, 'Umbo'], [272, 2, 'Made-up sensor'], [273, 4, [0]], [274, 3, [1]], [277, 3, [1]], [278, 4, [size.height]],
    [279, 4, [samples.byteLength]], [284, 3, [1]], [33_421, 3, [2, 2]], [33_422, 1, [0, 1, 1, 2]], [50_706, 1, [1, 4, 0, 0]],
    [50_707, 1, [1, 1, 0, 0]], [50_708, 2, 'Umbo made-up sensor'], [50_713, 3, [1, 1]], [50_714, 3, [BLACK]], [50_717, 4, [WHITE]],
    [50_721, 10, CAMERA.flat().flatMap(fraction)], [50_728, 5, neutral.flatMap(fraction)], [50_778, 3, [21]],
  ]; // prettier-ignore
  const head = 8 + 2 + 12 * tags.length + 4;
  const long = tags.map(bytesOf).filter(({ length }) => length > 4);
  const strip = head + long.reduce((sum, { length }) => sum + length + (length & 1), 0);
  const directory = Buffer.alloc(head);
  directory.write('II*\0', 'latin1');
  directory.writeUInt32LE(8, 4);
  directory.writeUInt16LE(tags.length, 8);
  let at = head;
  for (const [i, [tag, type, values]] of tags.entries()) {
    const bytes = bytesOf([tag, type, tag === 273 ? [strip] : values]);
    const entry = 10 + 12 * i;
    directory.writeUInt16LE(tag, entry);
    directory.writeUInt16LE(type, entry + 2);
    directory.writeUInt32LE(type === 5 || type === 10 ? bytes.length / 8 : bytes.length / BYTES[type], entry + 4);
    if (bytes.length <= 4) bytes.copy(directory, entry + 8);
    else {
      directory.writeUInt32LE(at, entry + 8);
      at += bytes.length + (bytes.length & 1);
    }
  }
  const padded = long.map((bytes) => Buffer.concat([bytes, Buffer.alloc(bytes.length & 1)]));
  return Buffer.concat([directory, ...padded, Buffer.from(samples.buffer)]);
}

let file: Buffer;
/** The picture that it is made of, encoded sRGB 0..1. */
let truth: Float64Array;
beforeAll(async () => {
  const picture = await sharp(join(import.meta.dirname, '../../demo/photographs/vases.jpg')).resize({ ...size, fit: 'cover' }).raw().toBuffer(); // prettier-ignore
  truth = Float64Array.from(picture, (v) => v / 255);
  const toCamera = multiply(CAMERA, srgb.toXyz);
  const white = times(toCamera, [1, 1, 1]);
  const samples = new Uint16Array(size.width * size.height);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const i = y * size.width + x;
      const light = [0, 1, 2].map((c) => srgb.toLight(truth[i * 3 + c]!)) as unknown as Row;
      const seen = times(toCamera, light)[((y & 1) + (x & 1)) as 0 | 1 | 2] / white[1];
      samples[i] = Math.max(0, Math.min(WHITE, Math.round(BLACK + seen * (WHITE - BLACK))));
    }
  file = dng(samples, white.map((v) => v / white[1]) as unknown as Row);
});

let n = 0;
async function decoded(bytes: Uint8Array, space?: 'srgb'): Promise<Pixels> {
  const path = join(inject('folder'), `raw-${n++}`);
  await writeFile(path, bytes);
  return decodeAll(path, { space });
}

describe('a raw file', () => {
  it('is developed with the camera’s white balance and matrix, exposed as it was, in wide colour', async () => {
    const own = await decoded(file);
    expect(own).toMatchObject({ ...size, bits: 16, space: 'prophoto-rgb', profile: 'the camera’s sensor' });
    const { pixels } = await decoded(file, 'srgb');
    // Away from the rim, which no mosaic tells. As PSNR: what its decoder reaches on such pictures is 38 dB, measured apart from this.
    let [squares, sum, count] = [0, 0, 0];
    for (let y = 8; y < size.height - 8; y++)
      for (let x = 8; x < size.width - 8; x++)
        for (let c = 0; c < 3; c++) {
          const i = (y * size.width + x) * 3 + c;
          const off = pixels[i]! / 65_535 - truth[i]!;
          squares += off * off;
          sum += off;
          count++;
        }
    const decibels = -10 * Math.log10(squares / count);
    console.log(`a raw file against its truth: ${decibels.toFixed(1)} dB, ${((sum / count) * 255).toFixed(2)} of 255 lighter`);
    expect(decibels).toBeGreaterThan(33);
    expect(Math.abs(sum / count)).toBeLessThan(0.5 / 255);
  });

  it('that is cut short, or only calls itself one, is refused in a sentence, and the next is developed as ever', async () => {
    for (const bytes of [file.subarray(0, 20_000), Buffer.concat([Buffer.from('FUJIFILMCCD-RAW 0201'), Buffer.alloc(500, 3)])])
      await expect(decoded(bytes)).rejects.toMatchObject({ kind: 'refused', message: expect.stringContaining('raw file') as string });
    expect((await decoded(file)).width).toBe(size.width);
  });
});
