/** Core and the kernels for tools, bundled from their sources. */
import { build } from 'esbuild';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './prepare.mjs';

export async function loadCore() {
  const outfile = join(root, 'dist', 'core-bench.js');
  mkdirSync(join(root, 'dist'), { recursive: true });
  const contents = "export * from '@umbo/core'; export { createKernels } from '@umbo/kernels';";
  const stdin = { contents, resolveDir: join(root, 'render') };
  await build({ stdin, outfile, bundle: true, platform: 'node', format: 'esm', logLevel: 'error' });
  return import(pathToFileURL(outfile).href);
}
