import { listHandOvers, removeBatch } from '@umbo/data';
import { handler } from '@/http/handler';
import { db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => listHandOvers(db(), { batchId: id }));

export const DELETE = handler<Params>((_request, { id }) => removeBatch(db(), id));
