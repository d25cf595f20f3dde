/** Core and the kernels for tools, bundled from their sources. */
import { build } from 'esbuild';
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './prepare.mjs';

export async function loadCore() {
  const outfile = join(root, 'dist', 'core-bench.js');
  mkdirSync(join(root, 'dist'), { recursive: true });
  const { exports: rooms } = JSON.parse(readFileSync(join(root, 'core/package.json'), 'utf8'));
  const contents = [...Object.keys(rooms).map((room) => `@umbo/core/${room.slice(2)}`), '@umbo/kernels']
    .map((name) => `export * from '${name}';`)
    .join('');
  const stdin = { contents, resolveDir: join(root, 'render') };
  await build({ stdin, outfile, bundle: true, platform: 'node', format: 'esm', logLevel: 'error' });
  return import(pathToFileURL(outfile).href);
}
