import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { Problem } from '@umbo/core/base';
import { MODEL_FILES } from '@umbo/find/files';
import { handler } from '@/http/handler';

const WASM = ['tfjs-backend-wasm-simd.wasm', 'tfjs-backend-wasm.wasm'];
const NAMES: readonly string[] = [...Object.values(MODEL_FILES), ...WASM];
const folder = join(process.cwd(), 'dist', 'models');

/** The models that regions are found with, and what runs them. */
export const GET = handler<{ file: string }>(async (_request, { file }) => {
  if (!NAMES.includes(file)) throw new Problem('not-found', 'There is no such model.');
  const path = join(folder, file);
  const { size } = await stat(path).catch(() => {
    throw new Problem('not-found', 'The models are not there: build Umbo anew.');
  });
  return new Response(Readable.toWeb(createReadStream(path)) as ReadableStream, {
    headers: {
      'Content-Type': file.endsWith('.wasm') ? 'application/wasm' : 'application/octet-stream',
      'Content-Length': String(size),
      'Cache-Control': 'private, max-age=86400',
    },
  });
});
