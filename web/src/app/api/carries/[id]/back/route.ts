import { takeBackCarry } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { takeBackBody } from '@/http/schemas';
import { db } from '@/http/server';

export const POST = handler<{ id: string }>(
  async (request, { id }) => takeBackCarry(db(), id, (await readJson(request, takeBackBody)).photographId),
  // Hundreds of edits, one after the other.
  { patient: true },
);
