/** Pictures that masks show, and nothing else: they have no edit of their own. */
import { Problem } from '@umbo/core/base';
import type { Transaction } from 'sequelize';
import { storeAsset } from './assets.ts';
import type { Database } from './database.ts';
import { tell } from './events.ts';
import type { ImportOptions, ReadFile } from './importFile.ts';
import { MaskPictureRow, Shoot } from './models.ts';

export interface MaskPicture {
  id: number;
  /** Of its file. */
  sha256: string;
  name: string;
  width: number;
  height: number;
  /** Whether it was found, and not imported by anybody. */
  isFound: boolean;
}

export async function findMaskPicture(id: number): Promise<MaskPictureRow> {
  const mask = await MaskPictureRow.findByPk(id);
  if (!mask) throw new Problem('not-found', 'This mask does not exist (any more).');
  return mask;
}

/** Puts a picture into a shoot that masks can show. @returns its id */
export async function addMaskPicture(
  db: Database,
  { shootId, name, isFound = false }: Omit<ImportOptions, 'isMask'>,
  { path, sha256, picture: { width, height } }: ReadFile,
  transaction: Transaction,
): Promise<number> {
  if (!(await Shoot.findByPk(shootId, { transaction, lock: transaction.LOCK.SHARE })))
    throw new Problem('not-found', 'This shoot does not exist (any more).');
  const assetId = await storeAsset(db, path, sha256, transaction);
  const { id } = await MaskPictureRow.create({ shootId, assetId, name, width, height, isFound }, { transaction });
  await tell(db, 'shoot', [shootId], transaction);
  return id;
}
