/** Finds regions of a photograph, away from the stage. One worker finds once, and is ended. */
import { levelSize, type Size } from '@umbo/core/base';
import { findingLevel, findRegions, loadNets, startRuntime, type FoundRegion, type Picture } from '@umbo/find';
import { modelAddress, pixelsAddress } from '../ui/addresses';
import type { Found, FromFinder, ToFinder } from './findProtocol';
import { reach } from '../ui/reach';

const ROWS = 256;

const send = (message: FromFinder): void => postMessage(message);

addEventListener('message', ({ data }: MessageEvent<ToFinder>) => {
  find(data).then(send, (error: Error) => send({ type: 'failed', message: error.message }));
});

async function find({ photograph, readAs, wanted }: ToFinder): Promise<FromFinder> {
  const progress = (share: number): Promise<void> => {
    send({ type: 'progress', share });
    return Promise.resolve();
  };
  await startRuntime(modelAddress(''));
  const [nets, picture] = await Promise.all([loadNets(readModel), readPicture(photograph, readAs)]);
  await progress(0.05);
  const came = async (regions: readonly FoundRegion[]): Promise<void> =>
    send({ type: 'came', regions: await Promise.all(regions.map(asFile)) });
  const found = await findRegions(picture, nets, (share) => progress(0.05 + 0.95 * share), wanted, came);
  return { type: 'found', regions: found.regions.length, hasFaces: found.hasFaces };
}

async function asFile({ role, person, sure, mask }: FoundRegion): Promise<Found> {
  const { width, height } = mask;
  const rounded = new Uint8ClampedArray(width * height);
  for (let i = 0; i < rounded.length; i++) rounded[i] = mask.data[i]! * 255;
  const grey = new Uint8Array(rounded.buffer);
  return { role, person, sure, width, height, grey, file: await fileOf({ width, height }, grey) };
}

async function readModel(name: string): Promise<Uint8Array> {
  const response = await reach(modelAddress(name));
  if (!response.ok) throw new Error('The models that regions are found with could not be loaded.');
  return new Uint8Array(await response.arrayBuffer());
}

/** The photograph's own pixels in sRGB, which the nets know, from the largest level of its pyramid that is not too large. */
async function readPicture(photograph: ToFinder['photograph'], readAs: ToFinder['readAs']): Promise<Picture> {
  const level = findingLevel(photograph);
  const { width, height } = levelSize(photograph, level);
  const data = new Float32Array(width * height * 3);
  for (let from = 0; from < height; from += ROWS) {
    const response = await reach(pixelsAddress(photograph, { workingSpace: 'srgb', readAs }, level, from, Math.min(height, from + ROWS)));
    if (!response.ok) throw new Error('The photograph’s pixels could not be loaded.');
    const rows = new Uint16Array(await response.arrayBuffer());
    for (let i = 0; i < rows.length; i++) data[from * width * 3 + i] = rows[i]! / 65535;
  }
  return { width, height, data };
}

/** A mask as a grey picture, 8 bits: its edges are wider than a step of that. */
function fileOf({ width, height }: Size, grey: Uint8Array): Promise<Blob> {
  const pixels = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < grey.length; i++) {
    pixels[4 * i] = pixels[4 * i + 1] = pixels[4 * i + 2] = grey[i]!;
    pixels[4 * i + 3] = 255;
  }
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}
