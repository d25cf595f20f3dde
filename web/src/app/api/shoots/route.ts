import { randomUUID } from 'node:crypto';
import { createShoot, listShoots } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { nameBody } from '@/http/schemas';
import { db } from '@/http/server';

export const GET = handler(() => listShoots(db()));

export const POST = handler(async (request) => {
  const { name } = await readJson(request, nameBody);
  return createShoot(db(), randomUUID(), name);
});
