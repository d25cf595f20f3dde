/** Compiles the AssemblyScript kernels and puts the module, as text, into kernels/src/wasm.gen.ts: no fetch, any runtime. */
import asc from 'assemblyscript/asc';
import { readFileSync, mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

process.chdir(fileURLToPath(new URL('..', import.meta.url)));
mkdirSync('dist', { recursive: true });
const options = ['-O3', '--runtime', 'stub', '--noAssert', '--enable', 'simd', '--initialMemory', '8'];
const { error, stderr } = await asc.main(['kernels/assembly/index.ts', ...options, '--outFile', 'dist/kernels.wasm']);
if (error) throw new Error(stderr.toString());
writeFileSync('kernels/src/wasm.gen.ts', `export const wasmBase64 =\n  '${readFileSync('dist/kernels.wasm').toString('base64')}';\n`);
