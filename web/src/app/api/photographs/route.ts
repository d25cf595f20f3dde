import { changePhotographs, movePhotographs } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { changeBody } from '@/http/schemas';
import { db } from '@/http/server';

/** Changes many at once, or none. */
export const PATCH = handler(async (request) => {
  const { photographs, change } = await readJson(request, changeBody);
  if ('shootId' in change) await movePhotographs(db(), photographs, change.shootId);
  else await changePhotographs(db(), photographs, change);
});
