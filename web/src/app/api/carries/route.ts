import { queueCarry } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { carryBody } from '@/http/schemas';
import { db } from '@/http/server';

export const POST = handler(async (request) => {
  const { key, ...wish } = await readJson(request, carryBody);
  return queueCarry(db(), key, wish);
});
