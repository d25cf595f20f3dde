import type { ChildProcess } from 'node:child_process';
export function freePort(wanted?: number): Promise<number>;
export function isFree(port: number): Promise<boolean>;
export function serverInstalled(): boolean;
export interface DatabaseServer {
  start: () => Promise<string>;
  stop: () => Promise<void>;
  /** The server on this directory, whoever started it. */
  pid: () => number | null;
  /** The one that was started here. */
  process: () => ChildProcess | null;
}
export function mariadb(dataRoot: string): DatabaseServer;
