/** From a plain picture in a working space to one in the colours of a profile. */
import { open, type FileHandle } from 'node:fs/promises';
import type { Size, SpaceId } from '@umbo/core/base';
import { ditherAt } from '@umbo/core/render';
import { type HandOverOptions } from '@umbo/data';
import { intoProfile, SAMPLES, type Press } from '@umbo/files';
import { PLAIN_HEADER, plainHeader } from './plainPicture.ts';

/** Pixels that go through LittleCMS at once. */
const SLICE = 1 << 16;

interface Printing {
  from: string;
  to: string;
  size: Size;
  space: SpaceId;
  press: Press;
  options: Pick<HandOverOptions, 'bits' | 'dither'>;
  /** The end of the file: its profile and metadata. */
  tail: string;
}

export async function print({ from, to, size, space, press, options, tail }: Printing): Promise<void> {
  const { bits, dither = false } = options;
  const bands = SAMPLES[press.colours].channels;
  const into = await intoProfile(press, space);
  const [source, target] = [await open(from), await open(to, 'w')];
  try {
    await target.write(plainHeader(size, bits, bands));
    const pixels = size.width * size.height;
    for (let at = 0; at < pixels; at += SLICE) {
      const rgb = new Uint16Array(Math.min(SLICE, pixels - at) * 3);
      const { bytesRead } = await source.read(rgb, 0, rgb.byteLength, PLAIN_HEADER + at * 6);
      if (bytesRead !== rgb.byteLength) throw new Error('The rendered pixels are shorter than they should be');
      const samples = into.convert(rgb);
      await writeAll(target, bits === 16 ? samples : narrow(samples, bands, at, size.width, dither));
    }
    await target.write(tail);
  } finally {
    into.close();
    await Promise.all([source.close(), target.close()]);
  }
}

/** To 8 bits. @param from the number of the first pixel */
function narrow(samples: Uint16Array, bands: number, from: number, width: number, dither: boolean): Uint8Array {
  const out = new Uint8Array(samples.length);
  for (let i = 0; i < out.length; i++) {
    const pixel = from + Math.floor(i / bands);
    const noise = dither ? ditherAt(pixel % width, Math.floor(pixel / width), i % bands) : 0;
    out[i] = Math.max(0, Math.min(255, Math.round(samples[i]! / 257 + noise)));
  }
  return out;
}

async function writeAll(file: FileHandle, samples: Uint8Array | Uint16Array): Promise<void> {
  const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
  for (let done = 0; done < bytes.length;) done += (await file.write(bytes, done, bytes.length - done)).bytesWritten;
}
