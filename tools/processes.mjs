/** Processes that end with the one that started them, whatever ends it. */
import { spawn } from 'node:child_process';
import { existsSync, linkSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';

export const isAlive = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
};

/** When a process began, in ticks since the machine did: a number that is used again belongs to another time. Null where that cannot be told. */
function beginOf(pid) {
  try {
    return readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')[19];
  } catch {
    return null;
  }
}

const setpriv = '/usr/bin/setpriv';

/** Between being made and asking the kernel for its end a process may lose its starter: the kernel would never say so. */
const unlessOrphan = (command, args) => ['/bin/sh', '-c', '[ "$PPID" = "$0" ] && exec "$@"', String(process.pid), command, ...args];

/** A command that the kernel ends when its starter is gone, also by kill -9. @returns [command, arguments] */
export const endsWithStarter = (command, args) =>
  existsSync(setpriv) ? [setpriv, ['--pdeathsig', 'TERM', ...unlessOrphan(command, args)]] : [command, args];

/**
 * Starts a program in a process group of its own, so that Ctrl-C reaches the starter alone and the order of stopping is kept. The kernel
 * ends it when its starter is gone, also by kill -9.
 * @param {{ uid: number, gid: number } | null} account to run it as; null: as the starter
 * @param {'TERM' | 'KILL'} orphaned what the kernel sends it then
 */
export function startProcess(command, args, { account = null, orphaned = 'TERM', ...options }) {
  if (!existsSync(setpriv)) return spawn(command, args, { ...options, ...account, detached: true });
  const as = account ? ['--reuid', String(account.uid), '--regid', String(account.gid), '--clear-groups'] : [];
  return spawn(setpriv, ['--pdeathsig', orphaned, ...as, ...unlessOrphan(command, args)], { ...options, detached: true });
}

const LEAST_MS = 500;
const MOST_MS = 8000;
/** What ran that long was sound: its next end is a new one. */
const SOUND_MS = 4000;

/**
 * Keeps something running: starts it again when it ends by itself, after pauses that grow.
 * @param {string} name as people are told
 * @param {() => Promise<import('node:child_process').ChildProcess>} start
 */
export function supervise(name, start, say) {
  let child = null;
  let closing = false;
  let pause = LEAST_MS;
  const run = async () => {
    const begin = Date.now();
    child = await start();
    child.once('exit', (code, signal) => {
      child = null;
      if (!closing) void again(Date.now() - begin, signal ?? code);
    });
  };
  const again = async (ran, why) => {
    pause = ran > SOUND_MS ? LEAST_MS : pause;
    say(`umbo: ${name} ended (${why}); starting it again in ${pause / 1000} s.`);
    await sleep(pause);
    pause = Math.min(MOST_MS, pause * 2);
    if (closing) return;
    await run().catch((error) => again(0, error.message));
  };
  return {
    run,
    pid: () => child?.pid,
    close() {
      closing = true;
      return child;
    },
  };
}

/**
 * Takes a folder for this process alone.
 * @param {object} facts what others are told about who has it
 * @returns {() => void} what gives it back
 * @throws {Error} when another process has it
 */
export function takeFolder(folder, facts) {
  const file = join(folder, 'in-use.json');
  const own = `${file}.${process.pid}`;
  writeFileSync(own, JSON.stringify({ pid: process.pid, begin: beginOf(process.pid), ...facts }), { mode: 0o600 });
  try {
    for (;;) {
      try {
        linkSync(own, file); // fails when it is there, in one step
        return () => rmSync(file, { force: true });
      } catch (error) {
        if (error.code !== 'EEXIST') throw error;
      }
      const holder = readHolder(file);
      if (holder && isAlive(holder.pid) && beginOf(holder.pid) === holder.begin) {
        const where = holder.base ? ` at ${holder.base}` : '';
        throw new Error(
          `Umbo runs on ${folder} already${where} (process ${holder.pid}). Stop it there first, or set UMBO_DATA to another folder.`,
        );
      }
      rmSync(file, { force: true });
    }
  } finally {
    rmSync(own, { force: true });
  }
}

function readHolder(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
}
