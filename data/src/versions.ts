/** Named states of an edit, which nothing that happens to the edit later can touch. */
import type { UmboDocument } from '@umbo/core/document';
import { readDocument } from './documents.ts';
import { VersionRow } from './models.ts';
import { Problem } from '@umbo/core/base';
import { findPhotograph } from './photographs.ts';
import { once, type Database } from './database.ts';

/** A photograph's versions are few: each is the whole edit. */
const LIMIT = 200;

export interface VersionSummary {
  id: number;
  name: string;
  createdAt: string;
}

const summary = ({ id, name, createdAt }: VersionRow): VersionSummary => ({ id, name, createdAt: createdAt.toISOString() });

export async function listVersions(photographId: number): Promise<VersionSummary[]> {
  await findPhotograph(photographId);
  const rows = await VersionRow.findAll({ where: { photographId }, order: [['id', 'ASC']], attributes: { exclude: ['body'] } });
  return rows.map(summary);
}

/**
 * Keeps the edit as it is on the server now.
 * @param key of the caller; the version is kept once under it
 */
export async function keepVersion(db: Database, key: string, photographId: number, name: string): Promise<VersionSummary> {
  const { document } = await readDocument(db, photographId);
  if ((await VersionRow.count({ where: { photographId } })) >= LIMIT)
    throw new Problem('refused', `A photograph has at most ${LIMIT} versions. Remove one first.`);
  return once(db, key, async (transaction) =>
    summary(await VersionRow.create({ photographId, name, body: JSON.stringify(document) }, { transaction })),
  );
}

async function find(id: number): Promise<VersionRow> {
  const row = await VersionRow.findByPk(id);
  if (!row) throw new Problem('not-found', 'This version does not exist (any more).');
  return row;
}

export async function readVersion(id: number): Promise<VersionSummary & { document: UmboDocument }> {
  const row = await find(id);
  return { ...summary(row), document: JSON.parse(row.body) as UmboDocument };
}

export async function renameVersion(id: number, name: string): Promise<void> {
  await (await find(id)).update({ name });
}

export async function removeVersion(id: number): Promise<void> {
  await (await find(id)).destroy();
}
