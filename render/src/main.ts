/** The render process: takes jobs from the database, renders edits in threads and decodes files. Any number of these may run. */
import { randomUUID } from 'node:crypto';
import { writeFile } from 'node:fs/promises';
import { availableParallelism, setPriority } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { Problem } from '@umbo/core/base';
import {
  connect,
  databaseIsAway,
  endJob,
  jobFacts,
  forgetEvents,
  forgetTurns,
  forgetWorks,
  jobKinds,
  releaseJob,
  renewJob,
  sweepAskedEdits,
  sweepBins,
  sweepReferences,
  takeJob,
  waitingKinds,
  type JobKind,
  type Lane,
  type TakenJob,
} from '@umbo/data';
import { arePixelsGone, readPicturesBy, shrinkCache } from '@umbo/files';
import { CalledOff, type Lease } from './lease.ts';
import { createLog } from './log.ts';
import { createPool } from './pool.ts';
import { readInThread } from './readInThread.ts';
import { reasonOf } from './reason.ts';
import { workOf } from './works.ts';

const IDLE_MS = 80;
const OUTAGE_MS = 1000;
const RENEW_MS = 1000;
const STOP_MS = 3000;
const MINUTE_MS = 60_000;
const NICE = 10;
const GIGABYTE = 2 ** 30;
const SWEEP_MS = 3_600_000;

// Whoever works on a bench comes first. Threads inherit it; where the kernel groups processes by their session, the group has to have it.
setPriority(NICE);
await writeFile('/proc/self/autogroup', String(NICE)).catch(() => undefined);

const db = connect(process.env.DATABASE_URL!);
const cache = process.env.UMBO_CACHE!;
const log = createLog(join(cache, '..', 'log'));
const budget = (Number(process.env.UMBO_CACHE_GB) || 20) * GIGABYTE;
const pool = createPool(Number(process.env.UMBO_RENDER_THREADS) || availableParallelism());
readPicturesBy(readInThread);

/** Ends when this process is to stop: what it works on is given back, and does not count as a try. */
const stopping = new AbortController();
process.once('SIGTERM', () => stopping.abort());
process.once('SIGINT', () => stopping.abort());

async function work(job: TakenJob, holder: string): Promise<void> {
  const { kind, id, photographId } = job;
  const own = log.child({ job: id, kind, ...(photographId && { photograph: photographId }) });
  const { minutes } = jobFacts(kind);
  const lost = new AbortController();
  const late = minutes === null ? null : new Problem('refused', `This took longer than ${minutes} minutes and was ended.`);
  const timer = late && setTimeout(() => lost.abort(late), minutes! * MINUTE_MS);
  const lease: Lease = { holder, progress: null, signal: AbortSignal.any([lost.signal, stopping.signal]) };
  const renewal = setInterval(() => {
    renewJob(db, id, holder, lease.progress).then(
      (still) => still || lost.abort(new CalledOff()),
      () => undefined, // the database may be back before the lease runs out
    );
  }, RENEW_MS);
  const began = Date.now();
  try {
    await perform(job, lease);
    // What ended quietly because this process stops is given back; what was done stays done.
    if (stopping.signal.aborted) return await releaseJob(db, id, holder);
    own.info({ ms: Date.now() - began }, 'ended');
  } catch (error) {
    if (stopping.signal.aborted) return await releaseJob(db, id, holder);
    if (error instanceof CalledOff) return void own.info('called off');
    if (databaseIsAway(error)) {
      own.warn('waits for the database');
      return await releaseJob(db, id, holder);
    }
    // A file that is refused is nothing that went wrong here.
    if (error === late) own.warn({ minutes }, 'took too long and was ended');
    else if (error instanceof Problem) own.info({ problem: error.kind }, 'refused');
    else own.error({ err: error }, 'failed');
    await endJob(db, id, holder, { state: 'failed', error: reasonOf(error) });
  } finally {
    clearInterval(renewal);
    if (timer) clearTimeout(timer);
  }
  if (kind === 'import' || kind === 'levels') await shrinkCache(cache, budget);
}

/** Does a job; pixels that were forgotten before they were read are made again, once. */
async function perform(job: TakenJob, lease: Lease): Promise<void> {
  const does = workOf(job);
  try {
    await does(db, cache, pool, lease, job);
  } catch (error) {
    if (!arePixelsGone(error)) throw error;
    await does(db, cache, pool, lease, job);
  }
}

let looking: Promise<Map<JobKind, boolean>> | null = null;
/** Until jobs of a lane wait. All loops share one look at the database. */
async function untilOneWaits({ kind, onlyUrgent = false }: Lane): Promise<void> {
  const isWaiting = (waiting: Map<JobKind, boolean>): boolean => (onlyUrgent ? waiting.get(kind) === true : waiting.has(kind));
  for (let waiting = new Map<JobKind, boolean>(); !stopping.signal.aborted && !isWaiting(waiting);) {
    looking ??= sleep(IDLE_MS)
      .then(() => waitingKinds(db))
      .finally(() => (looking = null));
    waiting = await looking;
  }
}

/** Takes jobs of a lane, one after another. While the database is away it waits; its leases bring jobs back. */
async function loop(lane: Lane): Promise<void> {
  const holder = randomUUID();
  while (!stopping.signal.aborted) {
    try {
      const job = await takeJob(db, holder, lane);
      if (job) await work(job, holder);
      else await untilOneWaits(lane);
    } catch (error) {
      log.error({ err: error }, 'no job could be taken');
      await sleep(OUTAGE_MS);
    }
  }
}

/** Lets go of what nobody needs any more; what cannot be done now is done the next time. */
async function sweep(): Promise<void> {
  for (const each of [
    () => sweepBins(db, cache),
    () => sweepReferences(db, cache),
    () => sweepAskedEdits(db),
    () => forgetWorks(db),
    () => forgetEvents(db),
    () => forgetTurns(db),
  ])
    await each().catch((error: unknown) => log.warn({ err: error }, 'sweeping'));
}
setInterval(() => void sweep(), SWEEP_MS).unref();
void sweep();

log.info({ threads: pool.size }, 'ready');
console.log(`render: ready with ${pool.size} threads`);
/** Each kind has loops of its own: a long one holds up no other. */
const lanes = (Object.keys(jobKinds) as JobKind[]).flatMap((kind): Lane[] => {
  const { atOnce, urgentAtOnce } = jobFacts(kind);
  return [...Array<Lane>(atOnce).fill({ kind }), ...Array<Lane>(urgentAtOnce).fill({ kind, onlyUrgent: true })];
});
const ended = Promise.all(lanes.map(loop));
await new Promise<void>((stop) => stopping.signal.addEventListener('abort', () => stop(), { once: true }));
// What cannot be ended in time is taken again when its lease has run out.
await Promise.race([ended, sleep(STOP_MS)]);
await pool.close();
await db.close();
process.exit(0);
