import { setTimeout as sleep } from 'node:timers/promises';
import { isFileName, Problem } from '@umbo/core/base';
import { findShoot, forgetImport, importedPicture, queueImport } from '@umbo/data';
import { refuseUnreadable } from '@umbo/files';
import { checked } from '@/http/check';
import { handler, number, onceUnder } from '@/http/handler';
import { receiveFile } from '@/http/receive';
import { keyQuery } from '@/http/schemas';
import { db } from '@/http/server';

const LOOK_EVERY_MS = 60;

/** Imports one file: the body is the file itself, its name is in the query, and `as=mask` for one that serves as a mask only, `as=found` for one that Umbo found. */
export const POST = handler<{ id: string }>(
  async (request, { id }) => {
    const query = new URL(request.url).searchParams;
    const name = query.get('name')?.split(/[/\\]/).pop()?.trim() ?? '';
    if (name.length > 255 || !isFileName(name))
      throw new Problem('invalid', 'The file needs a name of at most 255 characters, without characters that cannot be seen.');
    const key = query.get('key') ?? undefined;
    const under = onceUnder('import', checked({ ...(key && { key }) }, keyQuery).key);
    const as = query.get('as');
    const options = { shootId: number(id), name, isMask: as === 'mask' || as === 'found', isFound: as === 'found' };
    await findShoot(options.shootId);
    const jobId = await receiveFile(request, async (path) => {
      await refuseUnreadable(path); // what can be refused by its beginning never gets further
      request.signal.throwIfAborted();
      return queueImport(db(), under, options, path);
    });
    for (;;) {
      if (request.signal.aborted) {
        await forgetImport(db(), jobId);
        throw new Problem('refused', 'The import was called off.');
      }
      const picture = await importedPicture(db(), jobId);
      if (picture) return { ...picture, name };
      await sleep(LOOK_EVERY_MS);
    }
  },
  { patient: true },
);
