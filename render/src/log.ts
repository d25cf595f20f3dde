/** What happens in the render process, for whoever looks after it: as lines of JSON in a file, and what went wrong on the terminal too. No names, no texts of users. */
import { mkdirSync, renameSync, statSync } from 'node:fs';
import { join } from 'node:path';
import pino from 'pino';

/** A file that has grown to this is put aside at the next start, and the one before it goes. */
const LARGEST = 10e6;

function fileIn(folder: string): string {
  mkdirSync(folder, { recursive: true });
  const file = join(folder, 'render.log');
  try {
    if (statSync(file).size > LARGEST) renameSync(file, `${file}.1`);
  } catch {
    // there is none yet
  }
  return file;
}

const levels = pino.levels.labels;

/** One line for people. */
const terminal = {
  write(line: string) {
    const { level, msg, job, kind, photograph, err } = JSON.parse(line) as {
      level: number;
      msg: string;
      job?: number;
      kind?: string;
      photograph?: number;
      err?: { type: string; message: string };
    };
    const of = job === undefined ? '' : ` ${kind} ${job}${photograph ? ` of photograph ${photograph}` : ''}`;
    console.error(`render: ${levels[level]}:${of} ${msg}${err ? ` (${err.type}: ${err.message})` : ''}`);
  },
};

/** @param folder for the file */
export const createLog = (folder: string): pino.Logger =>
  pino(
    { level: process.env.UMBO_LOG ?? 'info', base: null, timestamp: pino.stdTimeFunctions.isoTime },
    pino.multistream([
      { level: 'trace', stream: pino.destination({ dest: fileIn(folder), sync: true }) },
      { level: 'warn', stream: terminal },
    ]),
  );
