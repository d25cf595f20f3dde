import { listHandOvers, queueHandOver } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { handOverBody } from '@/http/schemas';
import { db } from '@/http/server';

export const GET = handler(() => listHandOvers(db()));

export const POST = handler(async (request) => {
  const { key, photographId, options, colourways, maskOf } = await readJson(request, handOverBody);
  return { ids: await queueHandOver(db(), `hand-over-${key}`, photographId, options, colourways, maskOf) };
});
