/** The kinds of jobs: what is known of each beside its work, which is in `render/src/works.ts`. */

export interface JobKindFacts {
  /** How many of them a render process works on at once. */
  readonly atOnce: number;
  /** How many more, of those that somebody waits for. */
  readonly urgentAtOnce: number;
  /** Minutes after which one is ended; null: it takes as long as it takes. */
  readonly minutes: number | null;
  /** Who hears what becomes of one: whoever watches the job, or its shoot; null: nobody. */
  readonly tells: 'job' | 'shoot' | null;
  /** Seconds after which one that waits goes, unless it was asked for again; null: it stays. */
  readonly wantedSeconds: number | null;
}

const KIND = { atOnce: 1, urgentAtOnce: 0, minutes: 15, tells: null, wantedSeconds: null } as const satisfies JobKindFacts;

export const jobKinds = {
  'hand-over': { ...KIND, minutes: null, tells: 'job' },
  preview: { ...KIND, minutes: 5, wantedSeconds: 10 },
  // Decoding takes memory that no budget bounds from outside: two at once.
  import: { ...KIND, atOnce: 2, minutes: 30 },
  levels: KIND,
  find: { ...KIND, tells: 'shoot' },
  // Two at once: while one writes, the other measures. Somebody waits for trials.
  carry: { ...KIND, atOnce: 2, urgentAtOnce: 1, minutes: 30, tells: 'shoot' },
} as const satisfies Record<string, JobKindFacts>;

export type JobKind = keyof typeof jobKinds;

/** Kinds that are told of. */
export type ToldKind = { [K in JobKind]: (typeof jobKinds)[K]['tells'] extends null ? never : K }[JobKind];

export const jobFacts = (kind: JobKind): JobKindFacts => jobKinds[kind];
