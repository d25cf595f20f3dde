/** What jobs are asked for with. */
import type { HandOverOptions } from './handOver/options.ts';
import type { JobKind } from './jobKinds.ts';
import type { PixelsOf } from '@umbo/files';
import type { ImportOptions } from './importFile.ts';

/** Of the kinds that are asked for with anything. */
interface Options {
  'hand-over': HandOverOptions;
  import: ImportOptions;
  levels: Omit<PixelsOf, 'sha256'>;
}

export type JobOptions<K extends JobKind> = K extends keyof Options ? Options[K] : Record<string, never>;
