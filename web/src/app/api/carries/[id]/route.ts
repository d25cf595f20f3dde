import { readCarry } from '@umbo/data';
import { handler } from '@/http/handler';
import { db } from '@/http/server';

export const GET = handler<{ id: string }>((_request, { id }) => readCarry(db(), id));
