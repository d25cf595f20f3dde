/** Files in the database: content-addressed by SHA-256, in chunk rows, so that one database backup holds everything. */
import { open, stat, type FileHandle } from 'node:fs/promises';
import { QueryTypes, type Transaction } from 'sequelize';
import { type Database } from './database.ts';

const CHUNK = 1 << 20;

/** Stores a file unless its content is there already. @returns the asset's id */
export async function storeAsset(db: Database, path: string, sha256: string, transaction: Transaction): Promise<number> {
  const existing = await findAsset(db, sha256, transaction);
  if (existing) return existing;
  const { size } = await stat(path);
  const [id] = await db.query('INSERT INTO assets (sha256, bytes, createdAt) VALUES ($1, $2, UTC_TIMESTAMP(3))', {
    bind: [sha256, size],
    type: QueryTypes.INSERT,
    transaction,
  });
  const file = await open(path);
  try {
    for (let seq = 0; seq * CHUNK < size; seq++) {
      const data = await readAt(file, seq * CHUNK, Math.min(CHUNK, size - seq * CHUNK));
      // Bound, never replaced: replacement would write the blob into the statement as text.
      await db.query('INSERT INTO asset_chunks (assetId, seq, data) VALUES ($1, $2, $3)', { bind: [id, seq, data], transaction });
    }
  } finally {
    await file.close();
  }
  return id;
}

async function readAt(file: FileHandle, position: number, length: number): Promise<Buffer> {
  const data = Buffer.allocUnsafe(length);
  const { bytesRead } = await file.read(data, 0, length, position);
  if (bytesRead !== length) throw new Error('The file became shorter while it was read');
  return data;
}

async function findAsset(db: Database, sha256: string, transaction: Transaction): Promise<number | null> {
  const [row] = await db.query<{ id: number }>('SELECT id FROM assets WHERE sha256 = $1 FOR UPDATE', {
    bind: [sha256],
    type: QueryTypes.SELECT,
    transaction,
  });
  return row?.id ?? null;
}

export async function assetInfo(db: Database, id: number): Promise<{ sha256: string; bytes: number }> {
  const [row] = await db.query<{ sha256: string; bytes: number | string }>('SELECT sha256, bytes FROM assets WHERE id = $1', {
    bind: [id],
    type: QueryTypes.SELECT,
  });
  if (!row) throw new Error(`Asset ${id} is missing`);
  return { sha256: row.sha256, bytes: Number(row.bytes) };
}

/**
 * The content of an asset, chunk by chunk.
 * @throws Error when it goes away while it is read: what is cut is never taken for whole
 */
export async function* readAsset(db: Database, id: number): AsyncGenerator<Buffer> {
  const { bytes } = await assetInfo(db, id);
  let read = 0;
  for (let seq = 0; read < bytes; seq++) {
    const [row] = await db.query<{ data: Buffer }>('SELECT data FROM asset_chunks WHERE assetId = $1 AND seq = $2', {
      bind: [id, seq],
      type: QueryTypes.SELECT,
    });
    if (!row) throw new Error('A file was removed while it was read');
    read += row.data.length;
    yield row.data;
  }
}

/** The contents of assets, by their ids; what does not exist is left out. */
export async function contentOf(db: Database, ids: readonly number[]): Promise<Map<number, string>> {
  if (ids.length === 0) return new Map();
  const rows = await db.query<{ id: number; sha256: string }>('SELECT id, sha256 FROM assets WHERE id IN (:ids)', {
    replacements: { ids },
    type: QueryTypes.SELECT,
  });
  return new Map(rows.map(({ id, sha256 }) => [id, sha256]));
}

/** Removes those of the assets that nothing refers to any more. */
export async function dropUnusedAssets(db: Database, ids: readonly number[], transaction: Transaction): Promise<void> {
  if (ids.length === 0) return;
  await db.query(
    `DELETE FROM assets WHERE id IN (:ids) AND id NOT IN (SELECT assetId FROM photographs) AND id NOT IN (SELECT assetId FROM mask_pictures)
     AND id NOT IN (SELECT assetId FROM jobs WHERE assetId IS NOT NULL)`,
    { replacements: { ids }, transaction },
  );
}

/** Those of the contents that there is an asset of. */
export async function knownContent(db: Database, contents: readonly string[]): Promise<Set<string>> {
  if (contents.length === 0) return new Set();
  const rows = await db.query<{ sha256: string }>('SELECT sha256 FROM assets WHERE sha256 IN (:contents)', {
    replacements: { contents },
    type: QueryTypes.SELECT,
  });
  return new Set(rows.map(({ sha256 }) => sha256));
}
