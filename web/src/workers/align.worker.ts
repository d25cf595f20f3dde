/** Finds how one photograph lies on another, away from the stage. One worker aligns once, and is ended. */
import { align, asFrame, type Grey } from '@umbo/core/align';
import { levelCount, levelSize, type Size } from '@umbo/core/base';
import { pixelsAddress, type PixelSpace } from '../ui/addresses';
import type { FromAligner, ToAligner } from './alignProtocol';
import type { Other } from './protocol';
import { reach } from '../ui/reach';

const send = (message: FromAligner): void => postMessage(message);

addEventListener('message', ({ data }: MessageEvent<ToAligner>) => {
  find(data).then(send, (error: Error) => send({ type: 'failed', message: error.message }));
});

/** Longer side that is enough: what is found is exact to a small part of its pixels. */
const SIDE = 2048;
/** Rows that are asked for at once. */
const ROWS = 256;

/** The level of a photograph that is aligned. */
function levelOf(full: Size): number {
  let level = 0;
  while (level + 1 < levelCount(full) && Math.max(levelSize(full, level).width, levelSize(full, level).height) > SIDE) level++;
  return level;
}

async function find({ photograph, readAs, other, perspective }: ToAligner): Promise<FromAligner> {
  const [first, second] = await Promise.all([
    readGrey(photograph, { workingSpace: 'srgb', readAs }),
    readGrey(other, { workingSpace: 'srgb' }),
  ]);
  const found = align(first, second, (share) => send({ type: 'progress', share }), { perspective });
  if (!found) return { type: 'aligned', aligned: null };
  const [own, others] = [photograph.width / first.width, other.width / second.width];
  const { places, agree, residual } = found;
  return {
    type: 'aligned',
    aligned: { ...asFrame(found, own, others, Math.max(photograph.width, photograph.height)), places, agree, residual: residual * own },
  };
}

async function readGrey(photograph: Other, space: PixelSpace): Promise<Grey> {
  const level = levelOf(photograph);
  const { width, height } = levelSize(photograph, level);
  const values = new Float32Array(width * height);
  for (let from = 0; from < height; from += ROWS) {
    const response = await reach(pixelsAddress(photograph, space, level, from, Math.min(height, from + ROWS)));
    if (!response.ok) throw new Error('The photographs’ pixels could not be loaded.');
    const rows = new Uint16Array(await response.arrayBuffer());
    for (let i = 0, o = from * width; i < rows.length; i += 3, o++) values[o] = (rows[i]! + 2 * rows[i + 1]! + rows[i + 2]!) / (4 * 65535);
  }
  return { width, height, values };
}
