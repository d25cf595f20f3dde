import { listTreatments, saveTreatment } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { treatmentBody } from '@/http/schemas';
import { db } from '@/http/server';

export const GET = handler(() => listTreatments());

/** Keeps layers of a photograph. */
export const POST = handler(async (request) => {
  const { key, ...wish } = await readJson(request, treatmentBody);
  return saveTreatment(db(), key, wish);
});
