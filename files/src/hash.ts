import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';

/** SHA-256 of a file, which is never in memory as a whole; hexadecimal. */
export async function hashFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const part of createReadStream(path, { highWaterMark: 1 << 20 })) hash.update(part as Buffer);
  return hash.digest('hex');
}
