/** A real MariaDB of its own for the server's tests. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { mariadb } from '../../tools/mariadb.mjs';

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string;
    folder: string;
  }
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'umbo-test-'));
  const server = mariadb(folder);
  project.provide('databaseUrl', await server.start());
  project.provide('folder', folder);
  return async () => {
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
