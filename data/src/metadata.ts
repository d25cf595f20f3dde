/** What a file says about itself beside its pixels, block by block as it stood there. */
import { QueryTypes, type Transaction } from 'sequelize';
import type { Database } from './database.ts';

export interface MetadataBlocks {
  exif: Buffer | null;
  xmp: Buffer | null;
  iptc: Buffer | null;
}

/** Blocks that are larger hold pictures of their own, or nothing that was meant. */
const LARGEST = 4 << 20;

export const blocksOf = (meta: { exif?: Buffer; xmp?: Buffer; iptc?: Buffer }): MetadataBlocks => {
  const held = (block: Buffer | undefined): Buffer | null => (block && block.length <= LARGEST ? block : null);
  return { exif: held(meta.exif), xmp: held(meta.xmp), iptc: held(meta.iptc) };
};

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
