import { emptyBin, readBin } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { cache, db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => readBin(db(), number(id)));

export const DELETE = handler<Params>((_request, { id }) => emptyBin(db(), cache(), number(id)));
