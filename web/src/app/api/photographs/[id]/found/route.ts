import { setTimeout as sleep } from 'node:timers/promises';
import { isFileName, Problem } from '@umbo/core/base';
import { findPhotograph, importedPicture, queueFound } from '@umbo/data';
import { refuseUnreadable } from '@umbo/files';
import { handler, number } from '@/http/handler';
import { receiveFiles } from '@/http/receive';
import { db } from '@/http/server';

const LOOK_EVERY_MS = 100;
/** As many regions as there are of several people, and bytes of all of them together. */
const MOST = 64;
const BYTES = 256e6;

/** Keeps the masks of regions that a browser found on a photograph with its shoot: one part of the form for each, with its name. */
export const POST = handler<{ id: string }>(
  async (request, { id }) => {
    const photograph = await findPhotograph(number(id));
    const jobs = await receiveFiles(request, BYTES, async (files) => {
      if (files.length === 0 || files.length > MOST) throw new Problem('invalid', `Between one and ${MOST} masks are kept at once.`);
      if (files.some(({ name }) => name.length > 255 || !isFileName(name))) throw new Problem('invalid', 'A mask has no name that serves.');
      for (const { path } of files) await refuseUnreadable(path);
      return queueFound(db(), photograph.id, files);
    });
    const kept: { id: number; sha256: string }[] = [];
    for (const { id: job, sha256 } of jobs) {
      let mask = await importedPicture(db(), job);
      for (; !mask; mask = await importedPicture(db(), job)) await sleep(LOOK_EVERY_MS);
      kept.push({ id: mask.id, sha256 });
    }
    return kept;
  },
  { patient: true },
);
