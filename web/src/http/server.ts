import 'server-only';
import { join } from 'node:path';
import { connect, type Database } from '@umbo/data';

// One pool per process, also across Next's separately bundled routes.
const shared = globalThis as { umboDatabase?: Database };

export const db = (): Database => (shared.umboDatabase ??= connect(process.env.DATABASE_URL!));

/** Where the pixels of photographs are cached. */
export const cache = (): string => process.env.UMBO_CACHE ?? join(process.cwd(), '.data', 'cache');
