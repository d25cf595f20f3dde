/** A job's lease while this process works on it: renewed by whoever took the job. */
export interface Lease {
  readonly holder: string;
  /** How much of the job is done, 0 to 1; null where that is not told. */
  progress: number | null;
  /** Ends the work: the job was cancelled or taken by another, takes too long, or this process stops. */
  readonly signal: AbortSignal;
}

/** Why work ends that nobody waits for any more. */
export class CalledOff extends Error {
  constructor() {
    super('The job is not wanted any more.');
    this.name = 'CalledOff';
  }
}
