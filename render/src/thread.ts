import { parentPort } from 'node:worker_threads';
import { perform, type Task } from './tasks.ts';

parentPort!.on('message', (task: Task) => {
  try {
    parentPort!.postMessage({ answer: perform(task) });
  } catch (error) {
    parentPort!.postMessage({ error: error instanceof Error ? error.message : String(error) });
  }
});
