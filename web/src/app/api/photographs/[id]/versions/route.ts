import { keepVersion, listVersions } from '@umbo/data';
import { handler, number, onceUnder, readJson } from '@/http/handler';
import { newNameBody } from '@/http/schemas';
import { db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => listVersions(number(id)));

export const POST = handler<Params>(async (request, { id }) => {
  const { key, name } = await readJson(request, newNameBody);
  return keepVersion(db(), onceUnder('version', key), number(id), name);
});
