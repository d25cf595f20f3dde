import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { parentPort } from 'node:worker_threads';
import { accelerate } from '@umbo/core/base';
import { createKernels } from '@umbo/kernels';
import { perform, type Task } from './tasks.ts';

accelerate(createKernels());

// What a part took is given back before the next begins: planes lie outside the heap, whose pressure alone would free them late.
setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;

parentPort!.on('message', (task: Task) => {
  try {
    parentPort!.postMessage({ answer: perform(task) });
  } catch (error) {
    const { name = 'Error', message = String(error) } = error as Partial<Error>;
    parentPort!.postMessage({ error: { name, message } });
  }
  collect();
});
