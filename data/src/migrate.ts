import type { QueryInterface } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as first from './migrations/0001-first.ts';
import * as second from './migrations/0002-versions-and-palettes.ts';
import * as third from './migrations/0003-masks.ts';
import { type Database } from './database.ts';

/** Brings the schema up to date. @returns the names of the migrations that ran */
export async function migrate(db: Database): Promise<string[]> {
  const umzug = new Umzug<QueryInterface>({
    migrations: [first, second, third].map((m) => ({
      name: m.name,
      up: ({ context }) => m.up(context),
      down: ({ context }) => m.down(context),
    })),
    context: db.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize: db }),
    logger: undefined,
  });
  return (await umzug.up()).map((m) => m.name);
}
