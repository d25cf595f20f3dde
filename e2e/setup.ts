/** The application as it is shipped, with the demo shoots, on a database and a port of its own. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { freePort } from '../tools/mariadb.mjs';
import { startStack } from '../tools/stack.mjs';

declare module 'vitest' {
  interface ProvidedContext {
    base: string;
  }
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const data = mkdtempSync(join(tmpdir(), 'umbo-e2e-'));
  const stack = await startStack({ data, port: await freePort(), quiet: true });
  project.provide('base', stack.base);
  return async () => {
    await stack.close();
    rmSync(data, { recursive: true, force: true });
  };
}
