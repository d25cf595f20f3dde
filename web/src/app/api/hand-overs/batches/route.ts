import { listBatches, queueBatch } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { handOverBatchBody } from '@/http/schemas';
import { db } from '@/http/server';

export const GET = handler(() => listBatches(db()));

export const POST = handler(async (request) => {
  const { key, ...wish } = await readJson(request, handOverBatchBody);
  return queueBatch(db(), key, wish);
});
