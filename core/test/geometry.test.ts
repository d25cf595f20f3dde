import { readFileSync } from 'node:fs';
import {
  accelerate,
  inTurn,
  inverse,
  shift,
  wholeOf,
  type Framing,
  type Matrix,
  type Samples,
  type Scale,
  type Size,
} from '@umbo/core/base';
import { turnPixels } from '@umbo/core/geometry';
import { createKernels } from '@umbo/kernels';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';

const photograph = async (name: string): Promise<{ size: Size; samples: Samples }> => {
  const { data, info } = await sharp(readFileSync(new URL(`../../demo/photographs/${name}`, import.meta.url)))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const size = { width: info.width, height: info.height };
  return { size, samples: { area: wholeOf(size), channels: 3, values: new Uint8Array(data) } };
};

describe('a turned photograph', () => {
  it('is what libvips makes of it', async () => {
    const { size, samples } = await photograph('vases.jpg');
    const angle = (7.3 * Math.PI) / 180;
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    const turn: Matrix = [
      [cos, -sin, 0],
      [sin, cos, 0],
      [0, 0, 1],
    ];
    const { data, info } = await sharp(Buffer.from(samples.values), { raw: { ...size, channels: 3 } })
      .affine(
        [
          [cos, -sin],
          [sin, cos],
        ],
        { interpolator: sharp.interpolators.bicubic },
      )
      .raw()
      .toBuffer({ resolveWithObject: true });
    for (const kernels of [null, createKernels()])
      for (const dx of [-1, 0, 1])
        for (const dy of [0]) {
          accelerate(kernels);
          const toPicture = inTurn(shift(-0.5, -0.5), turn, shift(Math.round(sin * size.height) + 0.5 + dx, 0.5 + dy));
          const framing: Framing = {
            size: { width: info.width, height: info.height },
            toPicture,
            toPhotograph: inverse(toPicture),
            keepsPixels: false,
            outside: { colour: [0, 0, 0], fade: 0 },
          };
          const scale: Scale = { picture: size, full: size, framing };
          const out: Samples = { area: wholeOf(framing.size), channels: 3, values: new Uint8Array(info.width * info.height * 3) };
          const t = performance.now();
          turnPixels(scale, framing, samples, out, [0, 0, 0]);
          const ms = performance.now() - t;
          let sum = 0,
            n = 0;
          for (let y = 200; y < info.height - 200; y++)
            for (let x = 200; x < info.width - 200; x++)
              for (let c = 0; c < 3; c++) {
                const i = (y * info.width + x) * 3 + c;
                sum += Math.abs(out.values[i]! - data[i]!);
                n++;
              }
          console.log(dx, dy, info.width, info.height, sum / n, ms, 'ms');
        }
    expect(1).toBe(1);
  });
});
