/** Whose turn it is: shoots take turns, and within a shoot what was asked for together takes turns with everything else. */

/** Jobs of one lane that were asked for together: a batch, or all that stand alone. */
export interface Queue {
  /** The shoot, and the batch within it; '' for what stands alone. */
  readonly shoot: string;
  readonly batch: string;
  /** How many wait. */
  readonly waiting: number;
  /** The first of them: ids grow. */
  readonly first: number;
}

/** What is known of the turns of a lane; a turn is a number that grows, 0 for none yet. */
export interface Turns {
  /** How many jobs are running, by shoot. */
  readonly running: ReadonlyMap<string, number>;
  /** The last turn, by shoot and by queue. */
  readonly last: ReadonlyMap<string, number>;
}

export const queueName = ({ shoot, batch }: Pick<Queue, 'shoot' | 'batch'>): string => `${shoot}/${batch}`;

/** Queues in the order of their turns: the shoot with the fewest at work, then the one that waited longest, then the longest waiting queue. */
export function byTurn<Q extends Queue>(queues: readonly Q[], { running, last }: Turns): Q[] {
  const key = (queue: Q): number[] => [
    running.get(queue.shoot) ?? 0,
    last.get(queue.shoot) ?? 0,
    last.get(queueName(queue)) ?? 0,
    // For what stands alone somebody waits.
    queue.batch === '' ? 0 : 1,
    queue.first,
  ];
  const keys = new Map(queues.map((queue) => [queue, key(queue)]));
  return queues.toSorted((a, b) => {
    const [x, y] = [keys.get(a)!, keys.get(b)!];
    const at = x.findIndex((v, i) => v !== y[i]);
    return at < 0 ? 0 : x[at]! - y[at]!;
  });
}

/** So many jobs are counted through; who is behind that many is told no place. */
const FORESEEN = 10_000;

/**
 * The place in line of each job, from 1 on, if nothing else is asked for: one after the other is taken, and ends before the next of its shoot.
 * @param ids of the jobs that wait in a queue, in their order, by the queue's name
 */
export function placesInLine(queues: readonly Queue[], ids: ReadonlyMap<string, readonly number[]>, turns: Turns): Map<number, number> {
  const places = new Map<number, number>();
  const last = new Map(turns.last);
  const running = new Map(turns.running);
  let now = Math.max(0, ...last.values());
  let left = queues.map((queue) => ({ ...queue, taken: 0 }));
  for (let place = 1; left.length > 0 && place <= FORESEEN; place++) {
    const [next] = byTurn(left, { running, last });
    const waiting = ids.get(queueName(next!)) ?? [];
    places.set(waiting[next!.taken++]!, place);
    last.set(next!.shoot, ++now);
    last.set(queueName(next!), now);
    // What runs now has ended by the time that a second one of its shoot is taken.
    running.delete(next!.shoot);
    left = left.filter((queue) => queue.taken < (ids.get(queueName(queue))?.length ?? 0));
  }
  return places;
}
