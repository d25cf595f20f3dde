/** Small pictures of finished edits for the contact sheet: a cache, made by the render processes. */
import type { RegionColour } from '@umbo/core/warnings';
import { QueryTypes, type Transaction } from 'sequelize';
import { type Database } from './database.ts';
import { tell } from './events.ts';

/** What a reading of an edit is, for a sheet. */
export interface ReadingFact {
  letter: string;
  name: string;
  /** CIELAB D50. */
  lab: { l: number; a: number; b: number };
  /** CIEDE2000 from its target, and whether that is within its tolerance; null: it has none. */
  off: number | null;
  passes: boolean | null;
}

export interface Preview {
  revision: number;
  data: Buffer;
  /** Mean lightness L*, 0..100. */
  light: number | null;
  readings: ReadingFact[];
  /** What the regions of the edit are. */
  regions: readonly RegionColour[];
}

export async function readPreview(db: Database, photographId: number): Promise<Preview | null> {
  const [row] = await db.query<Omit<Preview, 'readings' | 'regions'> & { readings: string | null; regions: string | null }>(
    'SELECT revision, data, light, readings, regions FROM previews WHERE photographId = $1',
    { bind: [photographId], type: QueryTypes.SELECT },
  );
  return row ? { ...row, readings: listOf<ReadingFact>(row.readings), regions: listOf<RegionColour>(row.regions) } : null;
}

const listOf = <T>(text: string | null): T[] => JSON.parse(text ?? '[]') as T[];

/** What is known of the colours of one photograph's edit. */
export interface ColourFacts {
  photographId: number;
  name: string;
  /** Of the edit. */
  revision: number;
  /** Whether what is known is of that revision. */
  isCurrent: boolean;
  readings: ReadingFact[];
  regions: RegionColour[];
}

/** What regions and readings of photographs of a shoot are, as their previews show them; all of the shoot where none are named. */
export async function colourFacts(db: Database, shootId: number, ids: readonly number[]): Promise<ColourFacts[]> {
  const rows = await db.query<{
    id: number;
    name: string;
    revision: number;
    seen: number | null;
    readings: string | null;
    regions: string | null;
  }>(
    `SELECT p.id, p.name, d.revision, v.revision seen, v.readings, v.regions FROM photographs p JOIN documents d ON d.photographId = p.id
     LEFT JOIN previews v ON v.photographId = p.id WHERE p.shootId = :shootId AND p.removedAt IS NULL
     ${ids.length > 0 ? 'AND p.id IN (:ids)' : ''} ORDER BY p.name, p.id`,
    { replacements: { shootId, ids }, type: QueryTypes.SELECT },
  );
  return rows.map(({ id, name, revision, seen, readings, regions }) => ({
    photographId: id,
    name,
    revision,
    isCurrent: seen !== null && seen >= revision,
    readings: listOf<ReadingFact>(readings),
    regions: listOf<RegionColour>(regions),
  }));
}

/** Which edits have a preview, and of which revision. */
export async function previewRevisions(db: Database, ids: readonly number[]): Promise<{ id: number; revision: number }[]> {
  return db.query('SELECT photographId id, revision FROM previews WHERE photographId IN (:ids)', {
    replacements: { ids },
    type: QueryTypes.SELECT,
  });
}

/** How light the edits of a shoot are, by photograph. */
export async function previewLights(db: Database, shootId: number): Promise<Map<number, number>> {
  const rows = await db.query<{ id: number; light: number }>(
    'SELECT p.id, v.light FROM previews v JOIN photographs p ON p.id = v.photographId WHERE p.shootId = $1 AND v.light IS NOT NULL',
    { bind: [shootId], type: QueryTypes.SELECT },
  );
  return new Map(rows.map(({ id, light }) => [id, light]));
}

/** Keeps a preview unless a newer one is there. */
export async function storePreview(
  db: Database,
  photographId: number,
  { revision, data, light, readings, regions }: Preview,
  transaction?: Transaction,
): Promise<void> {
  if (transaction) await tell(db, 'preview', [photographId], transaction, revision);
  await db.query(
    `INSERT INTO previews (photographId, revision, data, light, readings, regions) VALUES ($1, $2, $3, $4, $5, $6)
     ON DUPLICATE KEY UPDATE data = IF(VALUES(revision) >= revision, VALUES(data), data),
     light = IF(VALUES(revision) >= revision, VALUES(light), light),
     readings = IF(VALUES(revision) >= revision, VALUES(readings), readings),
     regions = IF(VALUES(revision) >= revision, VALUES(regions), regions), revision = GREATEST(revision, VALUES(revision))`,
    { bind: [photographId, revision, data, light, JSON.stringify(readings), JSON.stringify(regions)], transaction },
  );
}
