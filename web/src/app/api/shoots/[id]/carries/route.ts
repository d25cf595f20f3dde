import { listCarries } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';

export const GET = handler<{ id: string }>((_request, { id }) => listCarries(db(), number(id)));
