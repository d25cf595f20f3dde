import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const node = { environment: 'node' as const };

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias: { '@': fileURLToPath(new URL('web/src', import.meta.url)) } },
        test: {
          ...node,
          name: 'unit',
          include: ['core/test/**/*.test.ts', 'kernels/test/**/*.test.ts', 'render/test/**/*.test.ts', 'web/test/**/*.test.ts'],
          testTimeout: 30_000,
        },
      },
      {
        test: {
          ...node,
          name: 'server',
          include: ['data/test/**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
          fileParallelism: false,
          globalSetup: ['data/test/database.ts'],
        },
      },
      {
        test: {
          ...node,
          name: 'interface',
          include: ['e2e/**/*.e2e.ts'],
          testTimeout: 240_000,
          hookTimeout: 180_000,
          fileParallelism: false,
          globalSetup: ['e2e/setup.ts'],
        },
      },
    ],
  },
});
