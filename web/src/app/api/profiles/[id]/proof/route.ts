import { type SpaceId, Problem } from '@umbo/core/base';
import { spaces } from '@umbo/core/colour';
import { readProfile } from '@umbo/data';
import { INTENTS, profileOf, proofTables, type Intent } from '@umbo/files';
import { handler, number } from '@/http/handler';
import { spaceIn } from '@/http/spaceIn';

/** The tables of a proof, as floats: of a profile, or of a display's space under its name. */
export const GET = handler<{ id: string }>(async (request, { id }) => {
  const query = new URL(request.url).searchParams;
  const intent = query.get('intent') as Intent;
  if (!Object.hasOwn(INTENTS, intent)) throw new Problem('invalid', 'There is no such rendering intent.');
  const [space, display] = [spaceIn(query, 'space'), spaceIn(query, 'display')];
  if (!space || !display) throw new Problem('invalid', 'A proof needs the space of what is proofed, and of what shows it.');
  const icc = Object.hasOwn(spaces, id) ? profileOf(spaces[id as SpaceId]) : (await readProfile(number(id))).icc;
  const how = { intent, black: query.get('black') === '1', paper: query.get('paper') === '1' };
  const tables = await proofTables(icc, space, display, how);
  return new Response(tables as Float32Array<ArrayBuffer>, { headers: { 'Content-Type': 'application/octet-stream' } });
});
