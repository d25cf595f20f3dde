/** What files said about themselves when they were imported, block by block. */
import type { MetadataBlocks } from '@umbo/files';
import { QueryTypes, type Transaction } from 'sequelize';
import type { Database } from './database.ts';

export async function storeMetadata(db: Database, assetId: number, blocks: MetadataBlocks, transaction: Transaction): Promise<void> {
  if (!blocks.exif && !blocks.xmp && !blocks.iptc) return;
  await db.query('INSERT IGNORE INTO metadata (assetId, exif, xmp, iptc) VALUES ($1, $2, $3, $4)', {
    bind: [assetId, blocks.exif, blocks.xmp, blocks.iptc],
    transaction,
  });
}

export async function readMetadata(db: Database, assetId: number): Promise<MetadataBlocks> {
  const [row] = await db.query<MetadataBlocks>('SELECT exif, xmp, iptc FROM metadata WHERE assetId = $1', {
    bind: [assetId],
    type: QueryTypes.SELECT,
  });
  return row ?? { exif: null, xmp: null, iptc: null };
}
