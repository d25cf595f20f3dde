/** The models, and what they run on. */
import { env, ready, setBackend } from '@tensorflow/tfjs-core';
import { setWasmPaths } from '@tensorflow/tfjs-backend-wasm';
import { Net } from './nets/net.ts';

/** The models by what they are for, and the files that hold them. */
export const MODEL_FILES = {
  shortRange: 'face_detection_short_range.tflite',
  fullRange: 'face_detection_full_range.tflite',
  mesh: 'face_landmark_with_attention.tflite',
  classes: 'selfie_multiclass_256x256.tflite',
  person: 'selfie_segmentation.tflite',
} as const;

export type Nets = { readonly [K in keyof typeof MODEL_FILES]: Net };

/** The name of the models and of what is made of them, as it is written into what was found with them: it changes when they do. */
export const FINDER = 'umbo-find-1';

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
