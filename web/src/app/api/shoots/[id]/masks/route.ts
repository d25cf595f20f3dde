import { randomUUID } from 'node:crypto';
import { keepMask, listMasks } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { maskBody } from '@/http/schemas';
import { db } from '@/http/server';

const BODY_LIMIT = 32e6;
type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => listMasks(number(id)));

export const POST = handler<Params>(async (request, { id }) => {
  const { name, document } = await readJson(request, maskBody, BODY_LIMIT);
  return keepMask(db(), randomUUID(), number(id), name, document);
});
