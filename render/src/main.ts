/** The render process: takes jobs from the database, renders edits in threads and decodes files. Any number of these may run. */
import { randomUUID } from 'node:crypto';
import { writeFile } from 'node:fs/promises';
import { availableParallelism, setPriority } from 'node:os';
import { setTimeout as sleep } from 'node:timers/promises';
import {
  connect,
  databaseIsAway,
  endJob,
  Problem,
  releaseJob,
  renewJob,
  shrinkCache,
  sweepBins,
  takeJob,
  waitingKinds,
  type Database,
  type JobKind,
  type TakenJob,
} from '@umbo/data';
import { carry } from './carrying.ts';
import { find } from './finding.ts';
import { handOver } from './handOver.ts';
import { importFile, makeLevels } from './imports.ts';
import type { Lease } from './lease.ts';
import { Pool } from './pool.ts';
import { preview } from './preview.ts';
import { reasonOf } from './reason.ts';

const IDLE_MS = 80;
const OUTAGE_MS = 1000;
const RENEW_MS = 1000;
const NICE = 10;
const GIGABYTE = 2 ** 30;
const SWEEP_MS = 3_600_000;

// Whoever works on a bench comes first. Threads inherit it; where the kernel groups processes by their session, the group has to have it.
setPriority(NICE);
await writeFile('/proc/self/autogroup', String(NICE)).catch(() => undefined);

const db = connect(process.env.DATABASE_URL!);
const cache = process.env.UMBO_CACHE!;
const budget = (Number(process.env.UMBO_CACHE_GB) || 20) * GIGABYTE;
const pool = new Pool(Number(process.env.UMBO_RENDER_THREADS) || availableParallelism());
let stopping = false;
process.once('SIGTERM', () => (stopping = true));
process.once('SIGINT', () => (stopping = true));

type Work = (db: Database, cache: string, pool: Pool, lease: Lease, job: TakenJob) => Promise<void>;
const perform: Record<JobKind, Work> = { 'hand-over': handOver, preview, import: importFile, levels: makeLevels, find, carry };

async function work(job: TakenJob, holder: string): Promise<void> {
  const lease: Lease = { holder, progress: null, held: true };
  const renewal = setInterval(() => {
    renewJob(db, job.id, holder, lease.progress).then(
      (still) => (lease.held = still),
      () => undefined, // the database may be back before the lease runs out
    );
  }, RENEW_MS);
  try {
    await perform[job.kind](db, cache, pool, lease, job);
  } catch (error) {
    if (databaseIsAway(error)) {
      console.error(`render: ${job.kind} ${job.id} waits for the database`);
      return await releaseJob(db, job.id, holder);
    }
    const reason = reasonOf(error);
    // A file that is refused is nothing that went wrong here.
    if (!(error instanceof Problem))
      console.error(`render: ${job.kind} ${job.id} failed: ${error instanceof Error ? error.message : String(error)}`);
    await endJob(db, job.id, holder, { state: 'failed', error: reason });
  } finally {
    clearInterval(renewal);
  }
  if (job.kind === 'import' || job.kind === 'levels') await shrinkCache(cache, budget);
}

let looking: Promise<Set<JobKind>> | null = null;
/** Until jobs of these kinds wait. All loops share one look at the database. */
async function untilOneWaits(kinds: readonly JobKind[]): Promise<void> {
  for (let waiting = new Set<JobKind>(); !stopping && !kinds.some((kind) => waiting.has(kind));) {
    looking ??= sleep(IDLE_MS)
      .then(() => waitingKinds(db))
      .finally(() => (looking = null));
    waiting = await looking;
  }
}

/** Takes jobs of some kinds, one after another. While the database is away it waits; its leases bring jobs back. */
async function loop(...kinds: JobKind[]): Promise<void> {
  const holder = randomUUID();
  while (!stopping) {
    try {
      const job = await takeJob(db, holder, kinds);
      if (job) await work(job, holder);
      else await untilOneWaits(kinds);
    } catch (error) {
      console.error(`render: ${error instanceof Error ? error.message : String(error)}`);
      await sleep(OUTAGE_MS);
    }
  }
}

const sweep = (): void => void sweepBins(db, cache).catch(() => undefined); // the next time it may be there
setInterval(sweep, SWEEP_MS).unref();
sweep();

console.log(`render: ready with ${pool.size} threads`);
// Decoding takes memory that no budget bounds from outside: two at once.
await Promise.all([
  loop('hand-over'),
  loop('preview'),
  loop('import', 'levels'),
  loop('import', 'levels'),
  loop('find'),
  // Two at once: while one writes, the other measures.
  loop('carry'),
  loop('carry'),
]);
await pool.close();
await db.close();
process.exit(0);
