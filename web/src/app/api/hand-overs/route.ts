import { queueHandOver } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { describeHandOvers } from '@/http/handOvers';
import { handOverBody } from '@/http/schemas';
import { db } from '@/http/server';

export const GET = handler(() => describeHandOvers());

export const POST = handler(async (request) => {
  const { photographId, options, colourways, maskOf } = await readJson(request, handOverBody);
  const jobs = await queueHandOver(db(), photographId, options, colourways, maskOf);
  return { ids: jobs.map(({ id }) => id) };
});
