/** Regions found on the demo's photographs, against their truth masks; and where there is nothing to find. */
import { readFile } from 'node:fs/promises';
import type { Role } from '@umbo/core/document';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { demo, iou as overlap } from '../../core/test/measures.ts';
import { findFaces } from '../src/faces.ts';
import { findPortrait, findSky, loadNets, startRuntime, type FoundRegion, type Nets, type Picture, type Plane } from '../src/index.ts';
import { guideOf } from '../src/guide.ts';
import { filled, pyramidOf } from '../src/picture.ts';

const folder = new URL('../../dist/models/', import.meta.url).pathname;
const idle = (): Promise<void> => Promise.resolve();
let nets: Nets;

beforeAll(async () => {
  await startRuntime(folder);
  nets = await loadNets(async (file) => new Uint8Array(await readFile(folder + file)));
});

async function pictureOf(path: string, width: number): Promise<Picture> {
  const { data, info } = await sharp(demo(path)).resize(width).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Float32Array(data).map((v) => v / 255) };
}
async function truthOf(name: string, width: number): Promise<Uint8Array> {
  return sharp(demo(`truth/${name}.png`))
    .resize(width)
    .extractChannel(0)
    .raw()
    .toBuffer();
}
const iou = ({ data }: Plane, truth: Uint8Array, inverted = false): number => overlap(data, 1, truth, inverted);
const sumOf = ({ mask }: FoundRegion): number => mask.data.reduce((total, v) => total + v, 0);
const roleOf = (found: readonly FoundRegion[], role: FoundRegion['role']): Plane => found.find((one) => one.role === role)!.mask;

describe('people', () => {
  it('are found on a portrait, each part near its truth, and together they are the whole', async () => {
    const picture = await pictureOf('photographs/garden-1.jpg', 800);
    // What comes early is what it is in the end.
    const lots: { roles: Role[]; sums: number[] }[] = [];
    const { regions: found } = await findPortrait(picture, nets, idle, null, async (lot) => {
      lots.push({ roles: lot.map(({ role }) => role), sums: lot.map(sumOf) });
    });
    expect(lots.map(({ roles }) => roles)).toEqual([
      expect.arrayContaining(['lips', 'eyes', 'brows']),
      ['person', 'backdrop'],
      ['faceSkin', 'bodySkin', 'hair', 'garment'],
    ]);
    expect(lots.flatMap(({ sums }) => sums)).toEqual(found.map(sumOf));
    // What is asked for alone is the same.
    const wanted = new Set<Role>(['backdrop', 'lips']);
    const { faces, regions } = await findPortrait(picture, nets, idle, wanted);
    const alike = found.filter(({ role }) => wanted.has(role));
    expect([faces, regions.map(({ role, sure }) => [role, sure])]).toEqual([1, alike.map(({ role, sure }) => [role, sure])]);
    for (const [k, { mask }] of regions.entries()) expect(mask.data.every((v, i) => v === alike[k]!.mask.data[i])).toBe(true);
    const score = async (role: FoundRegion['role'], file: string, inverted = false): Promise<number> =>
      iou(roleOf(found, role), await truthOf(`garden-1.${file}`, 800), inverted);
    expect(await score('person', 'backdrop', true)).toBeGreaterThan(0.98);
    expect(await score('backdrop', 'backdrop')).toBeGreaterThan(0.98);
    expect(await score('garment', 'garment')).toBeGreaterThan(0.96);
    expect(await score('faceSkin', 'face-skin')).toBeGreaterThan(0.89);
    expect(await score('bodySkin', 'body-skin')).toBeGreaterThan(0.9);
    expect(await score('hair', 'hair')).toBeGreaterThan(0.9);
    expect(await score('eyes', 'eyes')).toBeGreaterThan(0.7);
    expect(await score('lips', 'lips')).toBeGreaterThan(0.8);
    const [person, ...parts] = (['person', 'hair', 'bodySkin', 'garment'] as const).map((role) => roleOf(found, role).data);
    for (let i = 0; i < person!.length; i += 97)
      expect(parts.reduce((sum, part) => sum + part[i]!, 0)).toBeLessThanOrEqual(person![i]! + 1e-4);
  });

  it('are found on another photograph of the series as well', async () => {
    const { regions: found } = await findPortrait(await pictureOf('photographs/garden-3.jpg', 800), nets, idle);
    for (const [role, file, least] of [
      ['faceSkin', 'face-skin', 0.89],
      ['bodySkin', 'body-skin', 0.9],
      ['hair', 'hair', 0.92],
      ['backdrop', 'backdrop', 0.98],
    ] as const)
      expect(iou(roleOf(found, role), await truthOf(`garden-3.${file}`, 800)), role).toBeGreaterThan(least);
  });

  it('are told apart where there are several: each keeps to its own side of a montage', async () => {
    const names = ['garden-1.jpg', 'smile.jpg', 'window-portrait.jpg'];
    const one = await Promise.all(names.map((name) => pictureOf(`photographs/${name}`, 400)));
    const height = Math.min(...one.map((picture) => picture.height));
    const data = new Float32Array(1200 * height * 3);
    for (const [k, picture] of one.entries())
      for (let y = 0; y < height; y++) data.set(picture.data.subarray(y * 1200, (y + 1) * 1200), (y * 1200 + k * 400) * 3);
    const { regions: found } = await findPortrait({ width: 1200, height, data }, nets, idle);
    const people = found.filter(({ role }) => role === 'person').toSorted((a, b) => a.person! - b.person!);
    expect(people.map(({ person }) => person)).toEqual([0, 1, 2]);
    const places = people.map(({ mask }) => {
      const thirds = [0, 0, 0];
      for (const [i, v] of mask.data.entries()) thirds[Math.floor((i % 1200) / 400)]! += v;
      const most = Math.max(...thirds);
      expect(most / thirds.reduce((a, b) => a + b)).toBeGreaterThan(0.97);
      return thirds.indexOf(most);
    });
    expect(places).toEqual([0, 1, 2]); // as they stand, from the left
  });

  it('are not found on products, nor is a face', async () => {
    for (const name of ['vases', 'fruit', 'stool']) {
      const picture = await pictureOf(`photographs/${name}.jpg`, 600);
      expect(findFaces(nets, pyramidOf(picture)), name).toEqual([]);
      expect(await findPortrait(picture, nets, idle)).toEqual({ faces: 0, regions: [] });
    }
  });

  it('can be called off at any step', async () => {
    const picture = await pictureOf('photographs/garden-1.jpg', 400);
    const stop = (share: number): Promise<void> => (share > 0.3 ? Promise.reject(new Error('called off')) : Promise.resolve());
    await expect(findPortrait(picture, nets, stop)).rejects.toThrow('called off');
  });
});

describe('the sky', () => {
  it('is found above an estuary', async () => {
    const sky = findSky(await pictureOf('photographs/estuary-dusk.jpg', 600))!;
    expect(iou(sky.mask, await truthOf('estuary-dusk.sky', 600))).toBeGreaterThan(0.98);
  });
});

describe('what masks are made with', () => {
  it('fills shapes to their area, whatever their place', () => {
    for (const [x, y, w, h] of [
      [3, 4, 10, 6],
      [3.25, 4.5, 7.5, 5.25],
      [-4, 2, 9, 40],
    ] as const) {
      const plane = filled(30, 20, [
        [
          [x, y],
          [x + w, y],
          [x + w, y + h],
          [x, y + h],
        ],
      ]);
      const inside = (Math.min(30, x + w) - Math.max(0, x)) * (Math.min(20, y + h) - Math.max(0, y));
      expect(plane.data.reduce((sum, v) => sum + v, 0)).toBeCloseTo(inside, 3);
    }
  });

  it('moves the edge of a mask to that of the picture: He, Sun & Tang’s filter keeps a mask that is linear in the guide', () => {
    const [width, height] = [40, 30];
    const data = Float32Array.from({ length: width * height * 3 }, (_, i) => (((i * 37) % 101) / 101) * 0.9);
    const picture = { width, height, data };
    const linear = {
      width,
      height,
      data: Float32Array.from({ length: width * height }, (_, i) => 0.2 + 0.5 * data[3 * i]! + 0.2 * data[3 * i + 2]!),
    };
    const out = guideOf(picture, picture, 4, 1e-7)(linear);
    for (let i = 0; i < out.data.length; i++) expect(out.data[i]!).toBeCloseTo(linear.data[i]!, 3);
  });
});
