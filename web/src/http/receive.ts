import 'server-only';
import { randomUUID } from 'node:crypto';
import { open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Problem } from '@umbo/data';

/** 200 megapixels of uncompressed 16-bit RGB, with room for metadata. */
const BYTE_LIMIT = 1.5 * 2 ** 30;

/** Puts the body of a request into a file for as long as `use` runs. */
export async function receiveFile<T>(request: Request, use: (path: string) => Promise<T>): Promise<T> {
  const announced = Number(request.headers.get('content-length') ?? NaN);
  if (announced > BYTE_LIMIT) throw new Problem('refused', 'The file is larger than 1.5 GB.');
  const path = join(tmpdir(), `umbo-${randomUUID()}`);
  try {
    const file = await open(path, 'wx', 0o600);
    let bytes = 0;
    try {
      if (request.body)
        for await (const part of request.body as unknown as AsyncIterable<Uint8Array>) {
          bytes += part.length;
          if (bytes > BYTE_LIMIT) throw new Problem('refused', 'The file is larger than 1.5 GB.');
          await file.write(part);
        }
    } finally {
      await file.close();
    }
    if (!Number.isNaN(announced) && bytes !== announced) throw new Problem('refused', 'The file did not arrive completely. Try it again.');
    return await use(path);
  } finally {
    await rm(path, { force: true });
  }
}
