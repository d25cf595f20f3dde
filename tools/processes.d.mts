import type { ChildProcess, SpawnOptions } from 'node:child_process';

export function isAlive(pid: number): boolean;
export function takeFolder(folder: string, facts: object): () => void;

/** A command that the kernel ends when its starter is gone. @returns [command, arguments] */
export function endsWithStarter(command: string, args: readonly string[]): [string, string[]];

export function startProcess(
  command: string,
  args: readonly string[],
  options: SpawnOptions & { account?: { uid: number; gid: number } | null; orphaned?: 'TERM' | 'KILL' },
): ChildProcess;

export function supervise(
  name: string,
  start: () => Promise<ChildProcess>,
  say: (words: string) => void,
): { run: () => Promise<void>; pid: () => number | undefined; close: () => ChildProcess | null };
