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

/** Which of two queues comes first: that of the shoot with the fewest at work, then of the one that waited longest, then the longest waiting queue. */
const before =
  ({ running, last }: Turns) =>
  (a: Queue, b: Queue): number =>
    (running.get(a.shoot) ?? 0) - (running.get(b.shoot) ?? 0) ||
    (last.get(a.shoot) ?? 0) - (last.get(b.shoot) ?? 0) ||
    (last.get(queueName(a)) ?? 0) - (last.get(queueName(b)) ?? 0) ||
    // For what stands alone somebody waits.
    Number(a.batch !== '') - Number(b.batch !== '') ||
    a.first - b.first;

/** Queues in the order of their turns. */
export const byTurn = (queues: readonly Queue[], turns: Turns): Queue[] => queues.toSorted(before(turns));

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
  const order = before({ running, last });
  const taken = new Map<Queue, number>();
  const left = queues.filter((queue) => ids.has(queueName(queue)));
  for (let place = 1; left.length > 0 && place <= FORESEEN; place++) {
    const next = left.reduce((first, queue) => (order(queue, first) < 0 ? queue : first));
    const waiting = ids.get(queueName(next))!;
    const at = taken.get(next) ?? 0;
    places.set(waiting[at]!, place);
    taken.set(next, at + 1);
    last.set(next.shoot, ++now);
    last.set(queueName(next), now);
    // What runs now has ended by the time that a second one of its shoot is taken.
    running.delete(next.shoot);
    if (at + 1 === waiting.length) left.splice(left.indexOf(next), 1);
  }
  return places;
}
