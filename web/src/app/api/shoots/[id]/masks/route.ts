import { keepMask, listMasks } from '@umbo/data';
import { handler, number, onceUnder, readJson } from '@/http/handler';
import { maskBody } from '@/http/schemas';
import { db } from '@/http/server';

const BODY_LIMIT = 32e6;
type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => listMasks(number(id)));

export const POST = handler<Params>(async (request, { id }) => {
  const { key, name, document } = await readJson(request, maskBody, BODY_LIMIT);
  return keepMask(db(), onceUnder('mask', key), number(id), name, document);
});
