'use client';

/** A problem response of the server (RFC 9457), as an error whose message is a sentence for people. */
export class RequestProblem extends Error {
  readonly status: number;
  readonly details: Record<string, unknown>;
  constructor(status: number, message: string, details: Record<string, unknown> = {}) {
    super(message);
    this.name = 'RequestProblem';
    this.status = status;
    this.details = details;
  }
}

/** @throws RequestProblem; status 0 when the server cannot be reached */
export async function request<T>(method: 'GET' | 'POST' | 'PATCH' | 'DELETE', path: string, body?: unknown, keepalive = false): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      keepalive,
      ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    });
  } catch {
    throw new RequestProblem(0, 'The server cannot be reached.');
  }
  const value: unknown = await response.json().catch(() => null);
  if (response.ok) return value as T;
  const problem = (value ?? {}) as { detail?: string };
  throw new RequestProblem(
    response.status,
    problem.detail ?? `The server answered with an error (${response.status}).`,
    problem as Record<string, unknown>,
  );
}
