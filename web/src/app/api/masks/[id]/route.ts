import { readMask, removeMask, renameMask } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { nameBody } from '@/http/schemas';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => readMask(number(id)));

export const PATCH = handler<Params>(async (request, { id }) => renameMask(number(id), (await readJson(request, nameBody)).name));

export const DELETE = handler<Params>((_request, { id }) => removeMask(number(id)));
