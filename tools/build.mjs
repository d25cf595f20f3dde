/** Bundles what runs in Node beside Next: the render process with its threads, and the set-up of database and demo. */
import { build } from 'esbuild';
import { fileURLToPath } from 'node:url';

process.chdir(fileURLToPath(new URL('..', import.meta.url)));
await build({
  entryPoints: {
    render: 'render/src/main.ts',
    thread: 'render/src/thread.ts',
    reader: 'render/src/reader.ts',
    finder: 'render/src/finder.ts',
    setup: 'demo/setup.ts',
  },
  outdir: 'dist',
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  // Resolved from node_modules at run time; our own workspaces are bundled.
  external: ['sequelize', 'mysql2', 'sharp', 'umzug', 'lcms-wasm', 'pdfkit', 'pino', 'piscina', '@tensorflow/*'],
  logLevel: 'warning',
});
