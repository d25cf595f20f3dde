import 'server-only';
import { Problem } from '@umbo/core/base';

/** Documents are nested far less; what recursive checks meet is bounded by this. */
const DEPTH = 100;

/** A body, measured while it is read. @throws Problem 'invalid' */
export async function readBytes(request: Request, limit: number): Promise<Uint8Array> {
  const tooLarge = (): Problem =>
    new Problem('invalid', `The request is larger than ${limit < 2e6 ? '1 MB' : `${Math.round(limit / 1e6)} MB`}.`);
  if (Number(request.headers.get('content-length') ?? 0) > limit) throw tooLarge();
  const parts: Uint8Array[] = [];
  let bytes = 0;
  if (request.body)
    for await (const part of request.body as unknown as AsyncIterable<Uint8Array>) {
      bytes += part.length;
      if (bytes > limit) throw tooLarge();
      parts.push(part);
    }
  return Buffer.concat(parts);
}

/** A body of text. @throws Problem 'invalid' */
export const readBody = async (request: Request, limit: number): Promise<string> =>
  Buffer.from(await readBytes(request, limit)).toString('utf8');

/** Whether brackets are nested deeper than anything that is meant; looks at the text, so that nothing recursive has to. */
function isTooDeep(text: string): boolean {
  let depth = 0;
  let inString = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (inString) {
      if (code === 92) i++;
      else if (code === 34) inString = false;
    } else if (code === 34) inString = true;
    else if (code === 123 || code === 91) {
      if (++depth > DEPTH) return true;
    } else if (code === 125 || code === 93) depth--;
  }
  return false;
}

/** @throws Problem 'invalid' for what is not JSON, or nested too deep */
export function parseJson(text: string): unknown {
  if (isTooDeep(text)) throw new Problem('invalid', `The request is nested more than ${DEPTH} deep.`);
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Problem('invalid', 'The request is not valid JSON.');
  }
}
