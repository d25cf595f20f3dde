/** What is done for each kind of job. */
import type { Database, JobKind, TakenJob } from '@umbo/data';
import { carry } from './carrying.ts';
import { find } from './finding.ts';
import { handOver } from './handOver.ts';
import { importFile, makeLevels } from './imports.ts';
import type { Lease } from './lease.ts';
import type { Pool } from './pool.ts';
import { preview } from './preview.ts';

type Work<K extends JobKind> = (db: Database, cache: string, pool: Pool, lease: Lease, job: TakenJob<K>) => Promise<void>;

const works: { readonly [K in JobKind]: Work<K> } = {
  'hand-over': handOver,
  preview,
  import: importFile,
  levels: makeLevels,
  find,
  carry,
};

/** The work of a job. */
export const workOf = <K extends JobKind>({ kind }: TakenJob<K>): Work<K> => works[kind];
