/** A job's lease while this process works on it: renewed by whoever took the job. */
export interface Lease {
  readonly holder: string;
  /** How much of the job is done, 0 to 1; null where that is not told. */
  progress: number | null;
  /** Whether the job is still this process's: false once it was cancelled or taken by another. */
  held: boolean;
}
