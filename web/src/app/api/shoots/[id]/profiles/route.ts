import { randomUUID } from 'node:crypto';
import { addProfile, listProfiles, PROFILE_BYTES } from '@umbo/data';
import { handler, number } from '@/http/handler';
import { readBytes } from '@/http/json';
import { db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => listProfiles(number(id)));

/** The bytes of a profile. */
export const POST = handler<Params>(async (request, { id }) =>
  addProfile(db(), randomUUID(), number(id), await readBytes(request, PROFILE_BYTES)),
);
