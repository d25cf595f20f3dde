/** The models, and what they run on. */
import { env, ready, setBackend } from '@tensorflow/tfjs-core';
import { setWasmPaths } from '@tensorflow/tfjs-backend-wasm';
import { MODEL_FILES } from './files.ts';
import { Net } from './nets/net.ts';

export type Nets = { readonly [K in keyof typeof MODEL_FILES]: Net };

/**
 * Starts what models run on, once for each thread.
 * @param wasmFolder the address or path of the folder with tfjs's WebAssembly files, with a slash at its end
 */
export async function startRuntime(wasmFolder: string): Promise<void> {
  // Threads of its own would be started from text, which a strict policy forbids; it then waits for them for ever.
  env().set('WASM_HAS_MULTITHREAD_SUPPORT', false);
  setWasmPaths(wasmFolder);
  await setBackend('wasm');
  await ready();
}

/** @param read gives the bytes of a model's file */
export async function loadNets(read: (file: string) => Promise<Uint8Array>): Promise<Nets> {
  const nets = await Promise.all(Object.entries(MODEL_FILES).map(async ([name, file]) => [name, new Net(await read(file))] as const));
  return Object.fromEntries(nets) as Nets;
}
