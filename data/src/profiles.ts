/** ICC profiles that are kept with a shoot: of presses, papers and displays. */
import { createHash } from 'node:crypto';
import { Problem } from '@umbo/core/base';
import { judgeProfile, type Samples } from '@umbo/files';
import { ProfileRow } from './models.ts';
import { once, type Database } from './database.ts';
import { findShoot } from './shoots.ts';

const MOST = 50;

export interface Profile {
  id: number;
  name: string;
  colours: Samples;
  sha256: string;
}

const summary = ({ id, name, colours, sha256 }: ProfileRow): Profile => ({ id, name, colours, sha256 });

export async function listProfiles(shootId: number): Promise<Profile[]> {
  await findShoot(shootId);
  const attributes = ['id', 'name', 'colours', 'sha256'];
  return (await ProfileRow.findAll({ where: { shootId }, attributes, order: [['id', 'ASC']] })).map(summary);
}

/**
 * Keeps a profile with a shoot; one that is there already is that one.
 * @param key of the caller; the profile comes into being once under it
 * @throws Problem 'refused' with a sentence for bytes that are no profile of colours that files have
 */
export async function addProfile(db: Database, key: string, shootId: number, icc: Uint8Array): Promise<Profile> {
  await findShoot(shootId);
  const { name, colours } = await judgeProfile(icc);
  const sha256 = createHash('sha256').update(icc).digest('hex');
  return once(db, key, async (transaction) => {
    const known = await ProfileRow.findOne({ where: { shootId, sha256 }, transaction });
    if (known) return summary(known);
    if ((await ProfileRow.count({ where: { shootId }, transaction })) >= MOST)
      throw new Problem('refused', `A shoot keeps at most ${MOST} profiles.`);
    return summary(await ProfileRow.create({ shootId, name, colours, sha256, icc: Buffer.from(icc) }, { transaction }));
  });
}

/** @throws Problem 'not-found' */
export async function readProfile(id: number): Promise<Profile & { icc: Uint8Array }> {
  const row = await ProfileRow.findByPk(id);
  if (!row) throw new Problem('not-found', 'This profile does not exist (any more).');
  return { ...summary(row), icc: new Uint8Array(row.icc) };
}

export async function removeProfile(id: number): Promise<void> {
  await readProfile(id);
  await ProfileRow.destroy({ where: { id } });
}
