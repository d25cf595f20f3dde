/** A small photograph as the cache holds it, an edit of it, and what rendering all of it at once gives. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createRaster, noPictures, spreadRows, wholeOf } from '@umbo/core/base';
import { adjustmentLayer, emptyDocument, type UmboDocument } from '@umbo/core/document';
import { srgb } from '@umbo/core/colour';
import { renderRegion, writeTile } from '@umbo/core/render';
import { afterAll } from 'vitest';

export const full = { width: 90, height: 70 };
export const rows = Uint16Array.from({ length: full.width * full.height * 3 }, (_, i) => (i * 7919 + ((i * i) % 251) * 97) % 65536);

/** A folder of a file of tests, with the photograph in it; gone when they have run. */
export function ownFolder(): { folder: string; level: string } {
  const folder = mkdtempSync(join(tmpdir(), 'umbo-render-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const level = join(folder, 'level-0.rgb16');
  writeFileSync(level, new Uint8Array(rows.buffer));
  return { folder, level };
}

export function edited(): UmboDocument {
  const layer = adjustmentLayer('a', 'hueSaturation', 'a');
  Object.assign(layer.what.settings, { hue: 75 });
  layer.where.parts.push({
    id: 'h',
    kind: 'hueRange',
    on: true,
    invert: false,
    combine: 'add',
    from: 0,
    fadeIn: 30,
    span: 150,
    fadeOut: 30,
    greys: 0.02,
  });
  layer.where.refine.push({ kind: 'feather', radius: 9 });
  return { ...emptyDocument(full), layers: [layer] };
}

export function whole(document: UmboDocument, bits: 8 | 16): Uint8Array | Uint16Array {
  const photograph = createRaster(wholeOf(full));
  spreadRows(rows, photograph, 0);
  const out = bits === 8 ? new Uint8Array(rows.length) : new Uint16Array(rows.length);
  renderRegion(document, { picture: full, full }, wholeOf(full), photograph, noPictures, (tile, pixels) =>
    writeTile(tile, pixels, [srgb, srgb], wholeOf(full), out),
  );
  return out;
}
