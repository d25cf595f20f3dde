import 'server-only';
import { Problem, type ProblemKind } from '@umbo/data';
import { Ajv, type ValidateFunction } from 'ajv';
import type { Static, TSchema } from '@sinclair/typebox';
import { db } from './server';
import { hostIsKnown, isSameOrigin } from './origin';

const STATUS: Record<ProblemKind, number> = { invalid: 400, 'not-found': 404, conflict: 409, refused: 422 };

/** A problem response as RFC 9457 describes it. */
function problemResponse(status: number, kind: string, detail: string, more: Readonly<Record<string, unknown>> = {}): Response {
  return Response.json(
    { type: `/problems/${kind}`, title: kind, status, detail, ...more },
    { status, headers: { 'Content-Type': 'application/problem+json' } },
  );
}

type Context<P> = { params: Promise<P> };

/**
 * Wraps the work of a route: checks where a request comes from and turns errors into problem responses.
 * The work returns a Response, or a value to send as JSON.
 */
export function handler<P = object>(
  work: (request: Request, params: P) => Promise<unknown>,
): (request: Request, context: Context<P>) => Promise<Response> {
  return async (request, context) => {
    if (!hostIsKnown(request.headers)) return problemResponse(421, 'unknown-host', 'Umbo does not answer under this host name.');
    if (request.method !== 'GET' && !isSameOrigin(request.headers))
      return problemResponse(403, 'foreign-origin', 'Changes are accepted from the pages of this application only.');
    try {
      db(); // binds the models
      const result = await work(request, await context.params);
      return result instanceof Response ? result : Response.json(result ?? null);
    } catch (error) {
      if (error instanceof Problem) return problemResponse(STATUS[error.kind], error.kind, error.message, error.details);
      if (request.signal.aborted) return problemResponse(499, 'cancelled', 'The request was cancelled.');
      if (databaseIsAway(error)) {
        console.error(`umbo: the database cannot be reached: ${(error as Error).message}`);
        return problemResponse(503, 'database', 'The database cannot be reached. Nothing was changed.');
      }
      console.error(error);
      return problemResponse(500, 'unexpected', 'Something went wrong on the server. Nothing was changed.');
    }
  };
}

/** Whether the connection failed or broke, rather than a statement. */
function databaseIsAway(error: unknown): boolean {
  const { name, original } = error as { name?: string; original?: { fatal?: boolean } };
  return /^Sequelize(Connection|Host|Access)/.test(name ?? '') || original?.fatal === true;
}

/** A positive number from a path or a query. @throws Problem 'not-found' */
export function number(text: string | null | undefined): number {
  if (!text || !/^\d{1,9}$/.test(text)) throw new Problem('not-found', 'There is nothing at this address.');
  return Number(text);
}

const ajv = new Ajv();
const compiled = new WeakMap<TSchema, ValidateFunction>();

/** The JSON body of a request, checked. @throws Problem 'invalid' with a sentence */
export async function readJson<T extends TSchema>(request: Request, schema: T, limit = 1 << 20): Promise<Static<T>> {
  const text = await request.text();
  if (text.length > limit) throw new Problem('invalid', `The request is larger than ${Math.round(limit / 1e6)} MB.`);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new Problem('invalid', 'The request is not valid JSON.');
  }
  let validate = compiled.get(schema);
  if (!validate) compiled.set(schema, (validate = ajv.compile(schema)));
  if (!validate(value)) {
    const error = validate.errors![0]!;
    throw new Problem('invalid', `The request is not valid: ${error.instancePath || 'it'} ${error.message}.`);
  }
  return value as Static<T>;
}
