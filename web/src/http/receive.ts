import 'server-only';
import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import { Problem } from '@umbo/core/base';
import { scratchFolder } from '@umbo/files';
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

/** A file of a form. */
export interface ReceivedFile {
  name: string;
  path: string;
}

/** Puts the files of a form into files for as long as `use` runs. @param limit bytes of all of them together */
export async function receiveFiles<T>(request: Request, limit: number, use: (files: ReceivedFile[]) => Promise<T>): Promise<T> {
  const announced = Number(request.headers.get('content-length') ?? NaN);
  if (!(announced <= limit)) throw new Problem('refused', `These files are larger than ${limit / 1e6} MB together.`);
  const form = await request.formData().catch(() => {
    throw new Problem('invalid', 'The files did not arrive completely. Try it again.');
  });
  const folder = scratchFolder(cache());
  await mkdir(folder, { recursive: true });
  const files: ReceivedFile[] = [];
  try {
    for (const part of form.values()) {
      if (typeof part === 'string') throw new Problem('invalid', 'The request holds something that is no file.');
      const path = join(folder, randomUUID());
      files.push({ name: part.name, path });
      await writeFile(path, Buffer.from(await part.arrayBuffer()), { flag: 'wx', mode: 0o600 });
    }
    return await use(files);
  } finally {
    await Promise.all(files.map(({ path }) => rm(path, { force: true })));
  }
}
