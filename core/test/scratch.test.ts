import sharp from 'sharp';
import { it } from 'vitest';
import { createRaster, levelSize, noPictures, overviewLevel, wholeOf, type Raster } from '@umbo/core/base';
import { deltaE2000, rgbToLab, srgb } from '@umbo/core/colour';
import { adjustmentLayer, sourceLayer, emptyDocument, type Layer, type Reading, type UmboDocument } from '@umbo/core/document';
import { solve, type Aim, type Place } from '@umbo/core/solve';
import { renderRegion } from '@umbo/core/render';

const D = '../shared/demo-photos/';
export async function load(file: string, width?: number): Promise<Raster> {
  const { data, info } = await sharp(D + file).removeAlpha().resize(width).toColourspace('srgb').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true });
  const px = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
  const r = createRaster(wholeOf(info));
  const scale = file.includes('sixteen') ? 1 : 257;
  for (let i = 0; i < r.r.length; i++) { r.r[i] = px[i * info.channels]! * scale; r.g[i] = px[i * info.channels + 1]! * scale; r.b[i] = px[i * info.channels + 2]! * scale; }
  return r;
}
export async function mask(file: string): Promise<Uint8Array> {
  const { data, info } = await sharp(D + file).extractChannel(0).raw().toBuffer({ resolveWithObject: true });
  return Uint8Array.from({ length: info.width * info.height }, (_, i) => data[i]!);
}
const lab = (r: Raster, i: number) => rgbToLab(srgb, r.r[i]! / 65535, r.g[i]! / 65535, r.b[i]! / 65535);
function meanDelta(a: Raster, b: Raster, m: (i: number) => boolean): number {
  let [s, n] = [0, 0];
  for (let i = 0; i < a.r.length; i += 3) if (m(i)) { s += deltaE2000(lab(a, i), lab(b, i)); n++; }
  return s / n;
}
const KINDS = ['hueSaturation', 'colourBalance', 'whiteBalance', 'curves', 'levels', 'colourFamilies', 'threeWayTint', 'fill'] as const;

function runWith(photo: Raster, doc: UmboDocument, layer: Layer, wanted: [Reading, Aim][], extra: Reading[] = []) {
  const full = { width: photo.area.width, height: photo.area.height };
  const readings = [...wanted.map(([r]) => r), ...extra];
  const places = new Map<string, Place>(readings.map((r) => [r.id, { scale: { picture: full, full }, area: { x: Math.floor(r.spot!.x) - 15, y: Math.floor(r.spot!.y) - 15, width: 31, height: 31 }, photograph: photo, pictures: noPictures }]));
  const t = performance.now();
  const s = solve({ ...doc, readings, layers: [...doc.layers, layer] }, layer.id, 'settings', wanted.map(([reading, aim]) => ({ reading, aim })), readings, places, () => undefined);
  const ms = performance.now() - t;
  return { ...s, ms };
}
function render(photo: Raster, doc: UmboDocument): Raster {
  const full = { width: photo.area.width, height: photo.area.height };
  const out = createRaster(wholeOf(full));
  renderRegion(doc, { picture: full, full }, wholeOf(full), photo, noPictures, (tile, px) => {
    for (let y = 0, i = 0; y < tile.height; y++) for (let x = 0; x < tile.width; x++, i++) { const o = (tile.y + y) * full.width + tile.x + x; out.r[o] = Math.max(0, Math.min(65535, px.r[i]! * 65535)); out.g[o] = Math.max(0, Math.min(65535, px.g[i]! * 65535)); out.b[o] = Math.max(0, Math.min(65535, px.b[i]! * 65535)); }
  });
  return out;
}
const spot = (letter: string, x: number, y: number): Reading => ({ id: letter, letter, name: letter, spot: { x, y, side: 31 } });
const blend = (a: Raster, b: Raster, m: Uint8Array): Raster => { const o = createRaster(a.area); for (const p of ['r', 'g', 'b'] as const) for (let i = 0; i < a.r.length; i++) o[p][i] = a[p][i]! + (b[p][i]! - a[p][i]!) * m[i]! / 255; return o; };


import { maskPartKind, renderMask } from '@umbo/core/mask';
import { everywhere } from '@umbo/core/document';
it('mixed-light', async () => {
  const photo = await load('photographs/mixed-light.jpg');
  const ref = await load('references/mixed-light-neutral.jpg');
  const cast = await mask('truth/mixed-light.magenta-cast.png');
  const skin = await mask('truth/mixed-light.body-skin.png');
  const full = { width: photo.area.width, height: photo.area.height };
  const inside = (i: number) => cast[i]! >= 64 && skin[i]! >= 128;
  console.log('before', meanDelta(photo, ref, inside), full);
  for (let y = 1250; y < 1900; y += 100) for (let x = 100; x < 1500; x += 100) { const i = y * full.width + x; if (skin[i]! > 250) { const l = lab(photo, i); const t = lab(ref, i); console.log(x, y, 'cast', cast[i], l.l.toFixed(0), l.a.toFixed(0), l.b.toFixed(0), 'truth', t.l.toFixed(0), t.a.toFixed(0), t.b.toFixed(0)); } }
  const hr = { ...(maskPartKind('hueRange') as any).create('h', 'add', full), from: 340, fadeIn: 10, span: 46, fadeOut: 10 };
  const where = { ...everywhere(), parts: [hr] };
  const m16 = renderMask(where, { picture: full, full }, wholeOf(full), photo, noPictures);
  const m = Uint8Array.from(m16, (v, i) => Math.round(v / 257) * (skin[i]! > 128 ? 1 : 0));
  for (const [ax, ay, bx, by] of [[1200, 1700, 200, 1850], [1200, 1700, 900, 1250], [1200, 1500, 200, 1850], [1250, 1800, 200, 1850]]) {
    const A = spot('A', ax!, ay!), B = spot('B', bx!, by!);
    const at = (r: Reading) => { let l = 0, a = 0, b = 0; for (let y = -15; y < 16; y++) for (let x = -15; x < 16; x++) { const q = lab(photo, (Math.floor(r.spot!.y) + y) * full.width + Math.floor(r.spot!.x) + x); l += q.l; a += q.a; b += q.b; } return { l: l / 961, a: a / 961, b: b / 961 }; };
    console.log(ax, ay, bx, by, at(A), at(B));
    for (const light of [true, false]) for (const kind of KINDS) {
      const layer = kind === 'fill' ? sourceLayer('s', 'fill', 'F', full) : adjustmentLayer('s', kind, 'S');
      layer.where = where;
      if (kind === 'colourBalance') (layer.what.settings as any).keepLightness = !light;
      if (kind === 'fill') layer.how.mode = 'color';
      const aim = { ...at(B), ...(light ? {} : { l: at(A).l }) };
      const { layer: found, reached, ms } = runWith(photo, emptyDocument(full), layer, [[A, { kind: 'colour', lab: aim }]]);
      const out = blend(photo, render(photo, { ...emptyDocument(full), layers: [{ ...found, where: everywhere() }] }), m);
      console.log(light ? 'full' : 'colour', kind, reached[0]!.after.toFixed(2), 'skin', meanDelta(out, ref, inside).toFixed(2), ms.toFixed(0) + 'ms');
    }
  }
}, 600000);
