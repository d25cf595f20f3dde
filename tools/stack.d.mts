import type { DatabaseServer } from './mariadb.mjs';
export interface Stack {
  base: string;
  url: string;
  database: DatabaseServer | null;
  close: () => Promise<void>;
  pid: (name: 'web' | 'render') => number | undefined;
}
export function startStack(options: {
  data: string;
  port: number;
  databaseUrl?: string;
  demo?: boolean;
  dev?: boolean;
  quiet?: boolean;
}): Promise<Stack>;
