import { changeTreatment, readTreatment, removeTreatment, treatmentUses } from '@umbo/data';
import { handler, readJson } from '@/http/handler';
import { treatmentChange } from '@/http/schemas';
import { db } from '@/http/server';

type Params = { id: string };

/** A treatment, and the photographs that use it. */
export const GET = handler<Params>(async (_request, { id }) => ({
  treatment: await readTreatment(id),
  uses: await treatmentUses(db(), id),
}));

export const PATCH = handler<Params>(async (request, { id }) => changeTreatment(db(), id, await readJson(request, treatmentChange)));

export const DELETE = handler<Params>((_request, { id }) => removeTreatment(id));
