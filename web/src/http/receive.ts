import 'server-only';
import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import { Problem, scratchFolder } from '@umbo/data';
import { cache } from './server';

/** 200 megapixels of uncompressed 16-bit RGB, with room for metadata. */
const BYTE_LIMIT = 1.5 * 2 ** 30;

const tooLarge = (): Problem => new Problem('refused', 'The file is larger than 1.5 GB.');

/** Puts the body of a request into a file for as long as `use` runs. */
export async function receiveFile<T>(request: Request, use: (path: string) => Promise<T>): Promise<T> {
  const announced = Number(request.headers.get('content-length') ?? NaN);
  if (announced > BYTE_LIMIT) throw tooLarge();
  const folder = scratchFolder(cache());
  await mkdir(folder, { recursive: true });
  const path = join(folder, randomUUID());
  let bytes = 0;
  const measure = new Transform({
    transform(part: Buffer, _encoding, done) {
      bytes += part.length;
      if (bytes > BYTE_LIMIT) done(tooLarge());
      else done(null, part);
    },
  });
  try {
    const body = request.body ? Readable.fromWeb(request.body as ReadableStream) : Readable.from([]);
    await pipeline(body, measure, createWriteStream(path, { flags: 'wx', mode: 0o600 }));
    const { size } = await stat(path);
    if (size !== bytes || (!Number.isNaN(announced) && bytes !== announced))
      throw new Problem('refused', 'The file did not arrive completely. Try it again.');
    return await use(path);
  } finally {
    await rm(path, { force: true });
  }
}
