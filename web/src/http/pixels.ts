import { setTimeout as sleep } from 'node:timers/promises';
import { levelCount, levelSize, PIXELS_FORMAT, Problem, type Size } from '@umbo/core/base';
import { photographContent, pixelsFor, wantLevels } from '@umbo/data';
import { arePixelsGone, levelFile, levelsAreThere, readLevelRows, type PixelsOf } from '@umbo/files';
import { number } from '@/http/handler';
import { cache, db } from '@/http/server';
import { spaceIn } from '@/http/spaceIn';

/** Bytes of one answer: 256 rows of the widest photograph there can be, and more of smaller ones. */
const ANSWER_LIMIT = 48e6;
const WAIT_MS = 10_000;
const LOOK_EVERY_MS = 200;

/** A photograph, or a mask. */
type Picture = Size & { readonly assetId: number };

/** Rows `from` to `to` of a pyramid level: 16 bits in the space that is asked for, interleaved, little-endian. */
export async function sendPixels(request: Request, picture: Picture, shown: 'own' | 'mask'): Promise<Response> {
  const query = new URL(request.url).searchParams;
  const [level, from, to] = ['level', 'from', 'to'].map((key) => number(query.get(key))) as [number, number, number];
  const sha256 = await photographContent(db(), picture);
  if (query.get('of') !== sha256) throw new Problem('not-found', 'This photograph has another content.');
  if ((query.get('as') ?? PIXELS_FORMAT) !== PIXELS_FORMAT)
    throw new Problem('not-found', 'Umbo was updated meanwhile. Load the page again.');
  const size = levelSize(picture, level);
  if (level >= levelCount(picture) || from >= to || to > size.height) throw new Problem('not-found', 'The photograph has no such rows.');
  if ((to - from) * size.width * 6 > ANSWER_LIMIT) throw new Problem('invalid', 'These are too many rows at once.');
  const of = { sha256, ...pixelsFor({ workingSpace: spaceIn(query, 'space') ?? 'srgb', readAs: spaceIn(query, 'readAs') }, shown) };
  const read = async (): Promise<Buffer<ArrayBuffer>> => {
    await waitForLevels(picture, of, request.signal);
    return readLevelRows(levelFile(cache(), of, level), size.width, from, to);
  };
  // What was forgotten in between is made again.
  const rows = await read().catch((error: Error) => (arePixelsGone(error) ? read() : Promise.reject(error)));
  return new Response(rows, {
    headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable' },
  });
}

/** @throws Problem 'later' while a render process makes them again */
async function waitForLevels(picture: Picture, of: PixelsOf, signal: AbortSignal): Promise<void> {
  for (const until = Date.now() + WAIT_MS; !(await levelsAreThere(cache(), of, picture));) {
    await wantLevels(db(), picture.assetId, of);
    if (Date.now() > until || signal.aborted) throw new Problem('later', 'The photograph’s pixels are being prepared.');
    await sleep(LOOK_EVERY_MS);
  }
}
