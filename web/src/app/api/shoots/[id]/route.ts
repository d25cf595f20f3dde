import { readShoot, removeShoot, renameShoot } from '@umbo/data';
import { handler, number, readJson } from '@/http/handler';
import { nameBody } from '@/http/schemas';
import { cache, db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => readShoot(db(), number(id)));

export const PATCH = handler<Params>(async (request, { id }) => renameShoot(number(id), (await readJson(request, nameBody)).name));

export const DELETE = handler<Params>((_request, { id }) => removeShoot(db(), cache(), number(id)));
