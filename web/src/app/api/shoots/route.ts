import { createShoot, listShoots } from '@umbo/data';
import { handler, onceUnder, readJson } from '@/http/handler';
import { newNameBody } from '@/http/schemas';
import { db } from '@/http/server';

export const GET = handler(() => listShoots(db()));

export const POST = handler(async (request) => {
  const { key, name } = await readJson(request, newNameBody);
  return createShoot(db(), onceUnder('shoot', key), name);
});
