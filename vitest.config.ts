import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const node = { environment: 'node' as const };
/** Machines are shared, and some are slow for minutes: what a test waits for may take this long. No test measures time. */
const patience = { expect: { poll: { timeout: 120_000, interval: 100 } }, testTimeout: 600_000, hookTimeout: 600_000 };

/** Random cases are those of the commit: what passed once passes again, and every commit tries others. Without a repository they are new each time. */
function caseSeed(): string {
  try {
    const tree = execFileSync('git', ['rev-parse', 'HEAD^{tree}'], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] });
    return String(parseInt(tree.slice(0, 8), 16) | 0);
  } catch {
    return String(Date.now() | 0);
  }
}

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias: { '@': fileURLToPath(new URL('web/src', import.meta.url)) } },
        test: {
          ...node,
          name: 'unit',
          env: { CASE_SEED: process.env['CASE_SEED'] ?? caseSeed() },
          setupFiles: ['tools/test/cases.ts'],
          // On every core, also where there are two; what files load, they load once.
          maxWorkers: '100%',
          isolate: false,
          include: [
            'core/test/**/*.test.ts',
            'find/test/**/*.test.ts',
            'kernels/test/**/*.test.ts',
            'tools/test/**/*.test.ts',
            'web/test/**/*.test.ts',
          ],
          ...patience,
        },
      },
      {
        test: {
          ...node,
          name: 'server',
          include: ['data/test/**/*.test.ts', 'files/test/**/*.test.ts', 'render/test/**/*.test.ts'],
          ...patience,
          fileParallelism: false,
          isolate: false,
          // After the unit tests, which take every core.
          sequence: { groupOrder: 1 },
          globalSetup: ['data/test/database.ts'],
        },
      },
      {
        test: {
          ...node,
          name: 'interface',
          include: ['e2e/**/*.e2e.ts'],
          ...patience,
          fileParallelism: false,
          isolate: false,
          globalSetup: ['e2e/setup.ts'],
        },
      },
    ],
  },
});
