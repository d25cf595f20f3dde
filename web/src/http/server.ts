import 'server-only';
import { join } from 'node:path';
import { connect, type Database } from '@umbo/data';

let database: Database | undefined;

/** The application's database. Models can be used after the first call only. */
export const db = (): Database => (database ??= connect(process.env.DATABASE_URL!));

/** Where the pixels of photographs are cached. */
export const cache = (): string => process.env.UMBO_CACHE ?? join(process.cwd(), '.data', 'cache');
