/** Masks that are kept with the shoot, to be used on any of its photographs. */
import { eachLayer, type UmboDocument } from '@umbo/core/document';
import { once, type Database } from './database.ts';
import { MaskRow } from './models.ts';
import { Problem } from '@umbo/core/base';
import { checkDocument } from './documents.ts';
import { noteContents } from './references.ts';
import { findShoot } from './shoots.ts';

const LIMIT = 500;

export interface KeptMask {
  id: number;
  name: string;
}

export async function listMasks(shootId: number): Promise<KeptMask[]> {
  await findShoot(shootId);
  const rows = await MaskRow.findAll({ where: { shootId }, order: [['id', 'ASC']], attributes: ['id', 'name'] });
  return rows.map(({ id, name }) => ({ id, name }));
}

/**
 * @param key of the caller; the mask is kept once under it
 * @param value an edit with a single layer, whose mask it is: so it says which size of photograph it was made for
 */
export async function keepMask(db: Database, key: string, shootId: number, name: string, value: unknown): Promise<KeptMask> {
  await findShoot(shootId);
  const document = checkDocument(value);
  if ([...eachLayer(document.layers)].length !== 1) throw new Problem('invalid', 'A mask is kept as an edit with a single layer.');
  if ((await MaskRow.count({ where: { shootId } })) >= LIMIT) throw new Problem('refused', `A shoot keeps at most ${LIMIT} masks.`);
  return once(db, key, async (transaction) => {
    const body = JSON.stringify(document);
    const { id } = await MaskRow.create({ shootId, name, body }, { transaction });
    await noteContents(db, `mask-${id}`, body, transaction);
    return { id, name };
  });
}

async function find(id: number): Promise<MaskRow> {
  const row = await MaskRow.findByPk(id);
  if (!row) throw new Problem('not-found', 'This mask does not exist (any more).');
  return row;
}

export async function readMask(id: number): Promise<KeptMask & { document: UmboDocument }> {
  const { name, body } = await find(id);
  return { id, name, document: JSON.parse(body) as UmboDocument };
}

export async function renameMask(id: number, name: string): Promise<void> {
  await (await find(id)).update({ name });
}

export async function removeMask(id: number): Promise<void> {
  await (await find(id)).destroy();
}
