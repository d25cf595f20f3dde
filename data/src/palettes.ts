/** Named colours, kept with the shoot. Each change touches one row, so that two windows never overwrite each other's. */
import type { Colour } from '@umbo/core/colour';
import { PaletteRow, SwatchRow } from './models.ts';
import { Problem } from '@umbo/core/base';
import { once, type Database } from './database.ts';
import { findShoot } from './shoots.ts';

export interface NewSwatch {
  name: string;
  /** Encoded sRGB, 0..1 each. */
  colour: Colour;
}
export interface Swatch extends NewSwatch {
  id: number;
}
export interface Palette {
  id: number;
  name: string;
  swatches: Swatch[];
}

const toSwatch = ({ id, name, r, g, b }: SwatchRow): Swatch => ({ id, name, colour: [r, g, b] });
const toRow = (paletteId: number, { name, colour: [r, g, b] }: NewSwatch) => ({ paletteId, name, r, g, b });

export async function listPalettes(shootId: number): Promise<Palette[]> {
  await findShoot(shootId);
  const palettes = await PaletteRow.findAll({ where: { shootId }, order: [['id', 'ASC']] });
  const swatches = await SwatchRow.findAll({ where: { paletteId: palettes.map(({ id }) => id) }, order: [['id', 'ASC']] });
  return palettes.map(({ id, name }) => ({ id, name, swatches: swatches.filter(({ paletteId }) => paletteId === id).map(toSwatch) }));
}

/**
 * A new palette with its first swatches, all or nothing.
 * @param key of the caller; the palette comes into being once under it
 */
export async function createPalette(db: Database, key: string, shootId: number, name: string, swatches: NewSwatch[]): Promise<Palette> {
  await findShoot(shootId);
  return once(db, key, async (transaction) => {
    const { id } = await PaletteRow.create({ shootId, name }, { transaction });
    const rows = [];
    for (const swatch of swatches) rows.push(await SwatchRow.create(toRow(id, swatch), { transaction }));
    return { id, name, swatches: rows.map(toSwatch) };
  });
}

async function findPalette(id: number): Promise<PaletteRow> {
  const row = await PaletteRow.findByPk(id);
  if (!row) throw new Problem('not-found', 'This palette does not exist (any more).');
  return row;
}

export async function renamePalette(id: number, name: string): Promise<void> {
  await (await findPalette(id)).update({ name });
}

export async function removePalette(id: number): Promise<void> {
  await (await findPalette(id)).destroy();
}

/** @param key of the caller; the swatch is added once under it */
export async function addSwatch(db: Database, key: string, paletteId: number, swatch: NewSwatch): Promise<Swatch> {
  await findPalette(paletteId);
  return once(db, key, async (transaction) => toSwatch(await SwatchRow.create(toRow(paletteId, swatch), { transaction })));
}

async function findSwatch(id: number): Promise<SwatchRow> {
  const row = await SwatchRow.findByPk(id);
  if (!row) throw new Problem('not-found', 'This swatch does not exist (any more).');
  return row;
}

export async function renameSwatch(id: number, name: string): Promise<void> {
  await (await findSwatch(id)).update({ name });
}

export async function removeSwatch(id: number): Promise<void> {
  await (await findSwatch(id)).destroy();
}
