import { cancelCarry } from '@umbo/data';
import { handler } from '@/http/handler';
import { db } from '@/http/server';

export const POST = handler<{ id: string }>((_request, { id }) => cancelCarry(db(), id));
