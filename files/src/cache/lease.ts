/** Cached pixels are on lease to whoever reads them: each reading notes its time, and what was read lately is not forgotten. */
import { utimesSync } from 'node:fs';
import { dirname } from 'node:path';

/** Use is noted so often, and what was used within the lease is not forgotten: whatever reads it goes on reading. */
export const NOTE_MS = 60_000;
export const LEASE_MS = 600_000;

const noted = new Map<string, number>();

/** Notes that a level is being read. @param level its file */
export function noteReading(level: string): void {
  const folder = dirname(dirname(level));
  const now = Date.now();
  if (now - (noted.get(folder) ?? 0) < NOTE_MS) return;
  if (noted.size > 1000) noted.clear();
  noted.set(folder, now);
  try {
    utimesSync(folder, new Date(now), new Date(now));
  } catch {
    // gone: whoever opens it says so
  }
}

/** Pixels that were forgotten before they were read: they are made again, and the work goes on. */
export class PixelsGone extends Error {
  constructor() {
    super('The pixels of a photograph were not there any more.');
    this.name = 'PixelsGone';
  }
}

/** Also of one that came from a thread, as a plain error with its name. */
export const arePixelsGone = (error: unknown): boolean => error instanceof Error && error.name === 'PixelsGone';
