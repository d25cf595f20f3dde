import { setTimeout as sleep } from 'node:timers/promises';
import { Problem } from '@umbo/core/base';
import { listHandOvers, readAsset, readHandOverFile } from '@umbo/data';
import { makeZip } from 'client-zip';
import { handler } from '@/http/handler';
import { db } from '@/http/server';

const LOOK_EVERY_MS = 500;

/**
 * The files of a batch in their order, each as soon as it is there; those that failed or were cancelled are left out.
 * @throws Error when one that was there is gone: a ZIP that is not whole breaks off, and never ends as complete
 */
async function* files(batchId: string, signal: AbortSignal) {
  for (const { id, createdAt } of await listHandOvers(db(), { batchId })) {
    let file = await readHandOverFile(id);
    while (file === 'at work' && !signal.aborted) {
      await sleep(LOOK_EVERY_MS);
      file = await readHandOverFile(id);
    }
    if (signal.aborted) return;
    if (file === 'gone') throw new Error('A file of the batch was removed while it was sent');
    if (file !== 'at work' && file !== 'none')
      yield { name: file.fileName, lastModified: new Date(createdAt), input: readAsset(db(), file.assetId) };
  }
}

/** All of a batch in one file, which is sent while it is made. */
export const GET = handler<{ id: string }>(
  async (request, { id }) => {
    const [first] = await listHandOvers(db(), { batchId: id });
    if (!first) throw new Problem('not-found', 'These hand-overs do not exist (any more).');
    const name = `${first.shoot} ${first.createdAt.slice(0, 10)}.zip`;
    return new Response(makeZip(files(id, request.signal)), {
      headers: {
        'Content-Type': 'application/zip',
        'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
        'Cache-Control': 'private, no-store',
      },
    });
  },
  { patient: true },
);
