import { Readable } from 'node:stream';
import { Problem } from '@umbo/core/base';
import { assetInfo, findHandOver, readAsset, type HandOverOptions } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

/** The finished file, as a download. */
export const GET = handler<{ id: string }>(
  async (_request, { id }) => {
    const job = await findHandOver(number(id));
    if (job.assetId === null) throw new Problem('not-found', 'This hand-over has no file (yet).');
    const { fileName, format } = JSON.parse(job.options) as HandOverOptions;
    const { bytes } = await assetInfo(db(), job.assetId);
    const body = Readable.toWeb(Readable.from(readAsset(db(), job.assetId))) as ReadableStream;
    return new Response(body, {
      headers: {
        'Content-Type': `image/${format}`,
        'Content-Length': String(bytes),
        'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
        'Cache-Control': 'private, no-store',
      },
    });
  },
  { patient: true },
);
