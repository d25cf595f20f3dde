/** The render process: takes jobs from the database and renders them in threads. Any number of these may run. */
import { randomUUID } from 'node:crypto';
import { availableParallelism } from 'node:os';
import { setTimeout as sleep } from 'node:timers/promises';
import { connect, endJob, takeJob, type JobKind, type TakenJob } from '@umbo/data';
import { handOver } from './handOver.ts';
import { Pool } from './pool.ts';
import { preview } from './preview.ts';

const IDLE_MS = 150;
const OUTAGE_MS = 1000;

const db = connect(process.env.DATABASE_URL!);
const cache = process.env.UMBO_CACHE!;
const pool = new Pool(Number(process.env.UMBO_RENDER_THREADS) || availableParallelism());
const holder = randomUUID();
let stopping = false;
process.once('SIGTERM', () => (stopping = true));
process.once('SIGINT', () => (stopping = true));

const perform = { 'hand-over': handOver, preview };

async function work(job: TakenJob): Promise<void> {
  try {
    await perform[job.kind](db, cache, pool, holder, job);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    console.error(`render: job ${job.id} failed: ${reason}`);
    await endJob(db, job.id, holder, { state: 'failed', error: reason });
  }
}

/** Takes jobs of one kind, one after another. While the database is away it waits; its leases bring jobs back. */
async function loop(kind: JobKind): Promise<void> {
  while (!stopping) {
    try {
      const job = await takeJob(db, holder, kind);
      if (job) await work(job);
      else await sleep(IDLE_MS);
    } catch (error) {
      console.error(`render: ${error instanceof Error ? error.message : String(error)}`);
      await sleep(OUTAGE_MS);
    }
  }
}

console.log(`render: ready with ${pool.size} threads`);
await Promise.all([loop('hand-over'), loop('preview')]);
await pool.close();
await db.close();
