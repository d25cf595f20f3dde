import { QueryTypes, type QueryInterface } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import * as first from './migrations/0001-first.ts';
import * as second from './migrations/0002-versions-and-palettes.ts';
import * as third from './migrations/0003-masks.ts';
import * as fourth from './migrations/0004-keeping.ts';
import * as fifth from './migrations/0005-named-by-content.ts';
import * as sixth from './migrations/0006-events.ts';
import * as seventh from './migrations/0007-found.ts';
import * as eighth from './migrations/0008-facts.ts';
import * as ninth from './migrations/0009-batches.ts';
import * as tenth from './migrations/0010-geometry.ts';
import * as eleventh from './migrations/0011-sheet-readings.ts';
import * as twelfth from './migrations/0012-carries.ts';
import * as thirteenth from './migrations/0013-region-colours.ts';
import * as fourteenth from './migrations/0014-treatments.ts';
import * as fifteenth from './migrations/0015-profiles.ts';
import * as sixteenth from './migrations/0016-references.ts';
import * as seventeenth from './migrations/0017-asked-edits.ts';
import * as eighteenth from './migrations/0018-mask-pictures.ts';
import { type Database } from './database.ts';

const migrations = [
  ...[first, second, third, fourth, fifth, sixth, seventh, eighth, ninth, tenth],
  ...[eleventh, twelfth, thirteenth, fourteenth, fifteenth, sixteenth, seventeenth, eighteenth],
];

/**
 * Brings the schema up to date. MariaDB ends a transaction at each change of a table, so every statement can be repeated: a migration
 * that was interrupted begins anew.
 * @returns the names of the migrations that ran
 * @throws Error when the schema is of a newer Umbo
 */
export async function migrate(db: Database): Promise<string[]> {
  const umzug = new Umzug<QueryInterface>({
    migrations: migrations.map((m) => ({ name: m.name, up: ({ context }) => m.up(context), down: ({ context }) => m.down(context) })),
    context: db.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize: db }),
    logger: undefined,
  });
  const known = new Set<string>(migrations.map((m) => m.name));
  await umzug.executed(); // makes the table of what ran
  const newer = (await ran(db)).filter((name) => !known.has(name));
  if (newer.length > 0)
    throw new Error(`The database was made by a newer Umbo (${newer.join(', ')}). Start that one, or use another UMBO_DATA folder.`);
  return (await umzug.up()).map((m) => m.name);
}

/** Everything that was ever done to the schema, by this Umbo or another. */
async function ran(db: Database): Promise<string[]> {
  const rows = await db.query<{ name: string }>('SELECT name FROM SequelizeMeta ORDER BY name', { type: QueryTypes.SELECT });
  return rows.map(({ name }) => name);
}
