import type { UmboDocument } from '@umbo/core/document';
import { addTreatment } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { treatmentFileBody } from '@/http/schemas';
import { db } from '@/http/server';

/** Characters of a file: 3D LUTs and long strokes take some. */
const LIMIT = 20_000_000;

/** Keeps a treatment from a file; its edit is checked as any other. */
export const POST = handler(async (request) => {
  const { key, file } = await readJson(request, treatmentFileBody, LIMIT);
  const { name, note, solve, document } = file;
  return addTreatment(db(), key, { name, note, solve, document: document as UmboDocument });
});
