import { cancelHandOver } from '@umbo/data';
import { db } from '@/http/server';
import { handler, number } from '@/http/handler';

export const POST = handler<{ id: string }>((_request, { id }) => cancelHandOver(db(), number(id)));
