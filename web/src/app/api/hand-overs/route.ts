import { queueHandOver } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { describeHandOvers } from '@/http/handOvers';
import { handOverBody } from '@/http/schemas';
import { db } from '@/http/server';

export const GET = handler(() => describeHandOvers());

export const POST = handler(async (request) => {
  const { photographId, options } = await readJson(request, handOverBody);
  const job = await queueHandOver(db(), photographId, options);
  return { id: job.id };
});
