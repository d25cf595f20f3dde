import { keepPreset, listPresets } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { presetBody } from '@/http/schemas';
import { db } from '@/http/server';

export const GET = handler(() => listPresets(db()));

export const POST = handler(async (request) => {
  const { name, settings } = await readJson(request, presetBody);
  await keepPreset(db(), name, settings);
});
