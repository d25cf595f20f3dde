import { parentPort } from 'node:worker_threads';
import { accelerate } from '@umbo/core';
import { createKernels } from '@umbo/kernels';
import { perform, type Task } from './tasks.ts';

accelerate(createKernels());

parentPort!.on('message', (task: Task) => {
  try {
    parentPort!.postMessage({ answer: perform(task) });
  } catch (error) {
    parentPort!.postMessage({ error: error instanceof Error ? error.message : String(error) });
  }
});
