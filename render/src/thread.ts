import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { accelerate } from '@umbo/core/base';
import { createKernels } from '@umbo/kernels';
import type { Outcome } from './pool.ts';
import { perform, type Task } from './tasks.ts';

accelerate(createKernels());

// What a part took is given back before the next begins: planes lie outside the heap, whose pressure alone would free them late.
setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;

/** Does a task of the pool. */
export default function thread(task: Task): Outcome {
  // Once the answer is on its way.
  setImmediate(collect);
  try {
    return { answer: perform(task) };
  } catch (error) {
    const { name = 'Error', message = String(error) } = error as Partial<Error>;
    return { error: { name, message } };
  }
}
