import { addProfile, listProfiles } from '@umbo/data';
import { PROFILE_BYTES } from '@umbo/files';
import { checked } from '@/http/check';
import { handler, number, onceUnder } from '@/http/handler';
import { readBytes } from '@/http/json';
import { keyQuery } from '@/http/schemas';
import { db } from '@/http/server';

type Params = { id: string };

export const GET = handler<Params>((_request, { id }) => listProfiles(number(id)));

/** The bytes of a profile. */
export const POST = handler<Params>(async (request, { id }) => {
  const key = new URL(request.url).searchParams.get('key') ?? undefined;
  const under = onceUnder('profile', checked({ ...(key && { key }) }, keyQuery).key);
  return addProfile(db(), under, number(id), await readBytes(request, PROFILE_BYTES));
});
