/** Regions: found by themselves and measured against truth masks, mended, live in masks, the same in the browser and in Node. */
import type { Layer, Region, Role } from '@umbo/core/document';
import type { BracketPart, FoundPart, MaskPart } from '@umbo/core/mask';
import type { Browser, Page } from 'playwright-core';
import type { Copied } from '../web/src/bench/state/copied';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addLayer,
  base,
  demo,
  drag,
  editOf,
  eventually,
  expectNoComplaints,
  handOver,
  iou,
  kept,
  launch,
  meanDifference,
  meanLab,
  newPage,
  openPage,
  ownShoot,
  pixels16,
  selectLayers,
  setNumber,
  sha256Of,
  spread,
  truth,
  write,
} from './harness.ts';

const complaints: string[] = [];
let browser: Browser;
let page: Page;

beforeAll(async () => {
  browser = await launch();
  page = await newPage(await browser.newContext(), complaints);
});
afterAll(() => browser.close());

const openOwn = ownShoot('Regions');
const open = async (name: string) => {
  const opened = await openOwn(page, name);
  await page.getByRole('button', { name: 'Regions', exact: true }).click();
  return opened;
};
const regionsOf = async (id: number): Promise<Region[]> => {
  await kept(page);
  return (await editOf(id)).document.regions ?? [];
};
const layersOf = async (id: number): Promise<Layer[]> => {
  await kept(page);
  return (await editOf(id)).document.layers;
};
async function find(): Promise<void> {
  await page.getByRole('button', { name: 'Find regions' }).click();
  await page.getByRole('button', { name: 'Find again' }).waitFor();
}
interface ShootRead {
  photographs: { id: number }[];
  masks: { id: number; sha256: string }[];
}
const readShoot = async (id: number): Promise<ShootRead> => (await (await fetch(`${base()}/api/shoots/${id}`)).json()) as ShootRead;
async function shootOf(photographId: number): Promise<number> {
  for (const { id } of (await (await fetch(`${base()}/api/shoots`)).json()) as { id: number }[])
    if ((await readShoot(id)).photographs.some((one) => one.id === photographId)) return id;
  throw new Error('The photograph is in no shoot');
}
/** The shoot's masks by the content of their files, once those of the regions are there: they are usable before. */
async function masksOf(photographId: number, regions: readonly Region[]): Promise<Map<string, number>> {
  const shoot = await shootOf(photographId);
  const read = async (): Promise<Map<string, number>> => new Map((await readShoot(shoot)).masks.map((one) => [one.sha256, one.id]));
  let masks = await read();
  while (!regions.every((region) => !partOf(region) || masks.has(partOf(region).photograph))) {
    await new Promise((again) => setTimeout(again, 100));
    masks = await read();
  }
  return masks;
}
const partOf = ({ where }: Region): FoundPart => (where.parts as MaskPart[]).find((part): part is FoundPart => part.kind === 'found')!;
/** The mask that is kept of a region, 0..255. */
async function keptMask(region: Region, masks: Map<string, number>, size: { width: number; height: number }): Promise<Uint8Array> {
  const { photograph } = partOf(region);
  const address = `${base()}/api/mask-pictures/${masks.get(photograph)}/pixels?of=${photograph}&level=0&from=0&to=${size.height}`;
  const pixels = new Uint16Array(await (await fetch(address)).arrayBuffer());
  return new Uint8Array(size.width * size.height).map((_, i) => pixels[3 * i]! / 257);
}
const grey = ([r, g, b]: number[]): boolean => Math.max(r!, g!, b!) - Math.min(r!, g!, b!) < 8;

describe('regions', () => {
  it('of a portrait are found as good as is asked, and are live in every mask', async () => {
    const { id, size, at } = await open('garden-1.jpg');
    await page.getByRole('button', { name: 'Find regions' }).click();
    // What is ready can be used while the rest is being found.
    await page.getByRole('button', { name: /^Lips/ }).waitFor();
    expect(await page.getByRole('progressbar', { name: 'Found so far' }).isVisible()).toBe(true);
    await page.getByRole('button', { name: 'Find again' }).waitFor();
    const regions = await regionsOf(id);
    const masks = await masksOf(id, regions);
    const byRole = new Map(regions.map((region) => [region.role!, region]));
    const kept8 = new Map<Role, Uint8Array>();
    for (const [role, region] of byRole) kept8.set(role, await keptMask(region, masks, size));
    const asked: [Role, string, number][] = [
      ['backdrop', 'backdrop', 0.98],
      ['garment', 'garment', 0.96],
      ['faceSkin', 'face-skin', 0.89],
      ['bodySkin', 'body-skin', 0.9],
      ['hair', 'hair', 0.92],
      ['lips', 'lips', 0.85],
      ['eyes', 'eyes', 0.75],
      ['iris', 'iris', 0.7],
    ];
    for (const [role, file, least] of asked) {
      const score = iou(kept8.get(role)!, 255, await truth(`garden-1.${file}`));
      console.log(`${role}: IoU ${score.toFixed(3)}`);
      expect(score, role).toBeGreaterThanOrEqual(least);
    }
    expect(iou(kept8.get('person')!, 255, await truth('garden-1.backdrop'), true)).toBeGreaterThanOrEqual(0.98);

    // One press puts it into the selected layers; mending it mends them.
    await addLayer(page, 'Black & white');
    await addLayer(page, 'Exposure');
    await selectLayers(page, 'Black & white 1', 'Exposure 1');
    await page.getByRole('button', { name: 'More about Garment' }).click();
    await page.getByRole('menuitem', { name: 'Put into the selected layers' }).click();
    const links = (await layersOf(id)).map(({ where }) => (where.parts[0] as BracketPart).mask.link);
    expect(links).toEqual([byRole.get('garment')!.id, byRole.get('garment')!.id]);
    await page.keyboard.press('1');
    await eventually(page, at(800, 1800), grey);
    await eventually(page, at(100, 300), (colour) => !grey(colour));
    await page.getByRole('button', { name: 'Garment found, sure' }).click();
    await page.getByText('Used by Black & white 1, Exposure 1.').waitFor();
    await page.getByRole('main').focus();
    await page.keyboard.press('d');
    await setNumber(page, 'Hardness', 100);
    await setNumber(page, 'Flow', 100);
    await drag(page, [at(60, 300), at(140, 300)]);
    await eventually(page, at(100, 300), grey);
    await page.getByRole('button', { name: /^Garment found, mended/ }).waitFor();
    // Gone, the masks keep what it was; and undo brings it back.
    await page.getByRole('button', { name: 'Remove the region' }).click();
    expect(JSON.stringify((await layersOf(id)).map(({ where }) => where))).not.toContain('"link"');
    await page.keyboard.press('Control+z');
    expect((await regionsOf(id)).length).toBe(regions.length);
    expectNoComplaints(complaints);
  });

  it('are read as a whole: a face is brought to its neutral colour by one reading and one press', async () => {
    const { id } = await open('garden-1.jpg');
    if ((await regionsOf(id)).length === 0) await find();
    await page.getByRole('main').focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Delete');
    await page.getByRole('button', { name: 'More about Face skin' }).click();
    await page.getByRole('menuitem', { name: 'Pin a reading of it' }).click();
    const desk = page.getByRole('complementary', { name: 'Desk' });
    const mask = await truth('garden-1.face-skin');
    const right = await pixels16(demo('references/garden-1-neutral.jpg'));
    const sum = meanLab(right, mask);
    await desk.getByRole('button', { name: 'Target of Face skin' }).click();
    await page.getByRole('option', { name: 'A colour, typed…' }).click();
    const field = desk.getByRole('textbox', { name: 'Colour of the target of Face skin' });
    await field.fill(`lab(${sum.l.toFixed(1)} ${sum.a.toFixed(1)} ${sum.b.toFixed(1)})`);
    await field.press('Enter');
    await desk.getByRole('button', { name: 'Match by…' }).click();
    await page.getByRole('menuitem', { name: 'Colour balance' }).click();
    await page.getByRole('status').filter({ hasText: /A: \d+\.\d → [01]\.\d\.$/ }).first().waitFor(); // prettier-ignore
    const [layer] = await layersOf(id);
    expect(layer!.where.link).toBe((await regionsOf(id)).find(({ role }) => role === 'faceSkin')!.id);
    const [before, after] = await Promise.all([demo('photographs/garden-1.jpg'), (await handOver(page, 'PNG', '16 bit')).bytes].map(pixels16)); // prettier-ignore
    const mean = (pixels: Uint16Array): number => meanDifference(pixels, right, mask);
    console.log(`face of garden-1: ${mean(before!).toFixed(2)} → ${mean(after!).toFixed(2)}`);
    expect(mean(after!)).toBeLessThan(4.7);
  });

  it('give yellow teeth half of the way to the whites of the eyes, by what is opposite and one press', async () => {
    const { id } = await open('smile.jpg');
    if ((await regionsOf(id)).length === 0) await find();
    for (const name of ['Whites of the eyes', 'Teeth']) {
      await page.getByRole('button', { name: `More about ${name}` }).click();
      await page.getByRole('menuitem', { name: 'Pin a reading of it' }).click();
    }
    const desk = page.getByRole('complementary', { name: 'Desk' });
    await desk.getByRole('button', { name: 'Target of Teeth' }).click();
    await page.getByRole('option', { name: 'As A, Whites of the eyes' }).click();
    await desk.getByText(/\d+\.\d from its target: .* Cast: yellow, \d+\. Takes \d+ toward blue/).waitFor();
    await desk.getByRole('button', { name: 'Opposite…' }).click();
    await page.getByRole('menuitem', { name: 'Half' }).click();
    await page.getByRole('status').filter({ hasText: /B: \d+\.\d → 0\.\d\.$/ }).first().waitFor(); // prettier-ignore
    expect((await layersOf(id))[0]!.where.link).toBe((await regionsOf(id)).find(({ role }) => role === 'teeth')!.id);
    const mask = await truth('smile.teeth');
    const [before, after, right] = (await Promise.all([demo('photographs/smile.jpg'), (await handOver(page, 'PNG', '16 bit')).bytes, demo('references/smile-clean.jpg')].map(pixels16))).map((pixels) => meanLab(pixels, mask)); // prettier-ignore
    const way = (before!.b - after!.b) / (before!.b - right!.b);
    console.log(`teeth of smile: b* ${before!.b.toFixed(1)} → ${after!.b.toFixed(1)}, ${(way * 100).toFixed(0)} % of the way`);
    expect(way).toBeGreaterThan(0.6);
    expect(way).toBeLessThanOrEqual(1);
    expect(Math.abs(after!.l - right!.l)).toBeLessThan(3.2);
    expect(Math.abs(after!.l - before!.l)).toBeLessThan(3);
  });

  it('carry one look to the next of a series: each is found anew, what was drawn is to be checked, and what became of them is told', async () => {
    const { at } = await open('garden-1.jpg');
    await page.getByRole('main').focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Delete');
    const looks = ['Face skin', 'Body skin', 'Hair', 'Backdrop'] as const;
    for (const name of looks) {
      await page.getByRole('button', { name: `More about ${name}` }).click();
      await page.getByRole('menuitem', { name: 'New layer here…' }).click();
      await page.getByRole('menuitem', { name: 'Chroma', exact: true }).click();
      await setNumber(page, 'All alike', name === 'Backdrop' ? -100 : 20);
    }
    await addLayer(page, 'Exposure');
    await page.getByRole('radiogroup', { name: 'Tool' }).getByRole('radio', { name: 'Ellipse' }).click();
    await drag(page, [at(300, 300), at(400, 400), at(500, 500)]);
    await page.getByRole('main').focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Control+c');
    // What the masks cover here is measured before one goes on.
    await expect
      .poll(() => page.evaluate(() => Object.keys((JSON.parse(localStorage.getItem('umbo-copied')!) as Copied).shares).length))
      .toBe(5);
    const { id, size, at: there } = await open('garden-2.jpg');
    await page.getByRole('main').focus();
    const begun = performance.now();
    await page.keyboard.press('Control+v');
    const list = page.getByRole('list', { name: 'Masks that came along' });
    await list.waitFor();
    console.log(`carried in ${((performance.now() - begun) / 1000).toFixed(1)} s`);
    const regions = await regionsOf(id);
    const masks = await masksOf(id, regions);
    for (const [role, file, least] of [
      ['faceSkin', 'face-skin', 0.89],
      ['bodySkin', 'body-skin', 0.9],
      ['hair', 'hair', 0.92],
      ['backdrop', 'backdrop', 0.98],
    ] as const) {
      const region = regions.find((one) => one.role === role)!;
      expect(partOf(region).of).toBe(sha256Of(demo('photographs/garden-2.jpg')));
      const mask = await keptMask(region, masks, size);
      const score = iou(mask, 255, await truth(`garden-2.${file}`));
      console.log(`garden-2.${file}: IoU ${score.toFixed(3)}`);
      expect(score, file).toBeGreaterThanOrEqual(least);
      // The report has the share of the photograph that the kept mask covers.
      const covered = (mask.reduce((sum, v) => sum + v, 0) / (255 * mask.length)) * 100;
      const said = await list.getByRole('button', { name: region.name }).innerText();
      expect(Math.abs(Number(/→ ([\d.]+) %/.exec(said)![1]) - covered)).toBeLessThan(0.6);
    }
    await list.getByRole('button', { name: /Exposure 1.*drawn: check/s }).click();
    await page.getByRole('button', { name: 'It fits' }).click();
    await page.getByRole('button', { name: 'It fits' }).waitFor({ state: 'detached' });
    expect(await list.getByText('drawn: check').count()).toBe(0);
    await page.getByRole('button', { name: 'Put this list away' }).click();
    await page.getByRole('main').focus();
    await page.keyboard.press('1');
    await eventually(page, there(60, 60), grey);
    expectNoComplaints(complaints);
  });

  it('are made even about their own colours', async () => {
    const { id } = await open('garden-1.jpg');
    if ((await regionsOf(id)).length === 0) await find();
    await page.getByRole('main').focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Delete');
    await page.getByRole('button', { name: 'More about Face skin' }).click();
    await page.getByRole('menuitem', { name: 'New layer here…' }).click();
    await page.getByRole('menuitem', { name: 'Evenness', exact: true }).click();
    await page.getByRole('button', { name: 'Take the region’s own colours' }).click();
    await page.getByRole('button', { name: 'Take its colours anew' }).waitFor();
    const mask = await truth('garden-1.face-skin');
    const was = spread(await pixels16(demo('photographs/garden-1.jpg')), mask);
    await setNumber(page, 'Hue, broad', -60);
    await setNumber(page, 'Hue, fine', -60);
    const is = spread(await pixels16((await handOver(page, 'PNG', '16 bit')).bytes), mask);
    console.log(`face at -60 %: spread of hue ${was.h.toFixed(1)}° to ${is.h.toFixed(1)}°`);
    expect(is.h / was.h).toBeLessThan(0.5);
    expect(Math.abs(is.c / was.c - 1)).toBeLessThan(0.1);
    expect(Math.abs(is.l / was.l - 1)).toBeLessThan(0.1);
    expectNoComplaints(complaints);
  });

  it('are made of a layer’s mask, by hand, named and given a role; found again, what uses them follows', async () => {
    const { id, at } = await open('estuary-dusk.jpg');
    await page.getByRole('button', { name: 'Find regions' }).click();
    await page.getByRole('button', { name: 'Stop' }).click();
    await page.getByRole('button', { name: 'Find regions' }).waitFor();
    expect(await regionsOf(id)).toEqual([]);
    await find();
    const [sky] = await regionsOf(id);
    expect(sky!.role).toBe('sky');
    const { photo } = (await editOf(id)).document;
    expect(iou(await keptMask(sky!, await masksOf(id, [sky!]), photo), 255, await truth('estuary-dusk.sky'))).toBeGreaterThanOrEqual(0.99);
    await addLayer(page);
    await page.getByRole('main').focus();
    await page.keyboard.press('Shift+O');
    await drag(page, [at(400, 100), at(400, 300), at(400, 500)]);
    await page.getByRole('button', { name: 'Kept masks and files' }).click();
    await page.getByRole('menuitem', { name: 'Make it a region' }).click();
    await page.getByRole('button', { name: 'Go there' }).click();
    const name = page.getByRole('textbox', { name: 'Name of the region' });
    await name.fill('Dusk');
    await name.press('Enter');
    await page.getByRole('button', { name: /What the region is of/ }).click();
    await page.getByRole('option', { name: 'Backdrop' }).click();
    const regions = await regionsOf(id);
    expect(regions.find((region) => region.name === 'Dusk')).toMatchObject({ role: 'backdrop', where: { parts: [{ kind: 'gradient' }] } });
    await page.getByRole('button', { name: 'New region' }).click();
    await page.getByText('No mask uses it yet.').waitFor();
    await page.getByRole('button', { name: 'Find again' }).click();
    await page
      .getByRole('status')
      .filter({ hasText: /found\./ })
      .waitFor();
    const again = await regionsOf(id);
    expect(again.filter(({ role }) => role === 'sky').map((region) => region.id)).toEqual([sky!.id]);
    expectNoComplaints(complaints);
  });

  it('are found on the server for many photographs at once, the same as in the browser, and come into open windows', async () => {
    const { id, size } = await open('garden-1.jpg');
    /** Every region that was found; of some of them, made by different nets, the mask. */
    const compared: (Role | undefined)[] = ['person', 'faceSkin', 'hair', 'garment', 'iris'];
    const foundOn = async () => {
      const regions = await regionsOf(id);
      const masks = await masksOf(id, regions);
      const maskOf = (region: Region) => (compared.includes(region.role) ? keptMask(region, masks, size) : new Uint8Array());
      return Promise.all(regions.map(async (region) => ({ region, part: partOf(region), mask: await maskOf(region) })));
    };
    const inBrowser = await foundOn();
    const finds = async () => (await editOf(id)).labels.filter((label) => label.startsWith('Find regions: ')).length;
    const before = await finds();
    const sheet = await newPage(page.context(), complaints);
    await openPage(sheet, `/shoots/${await shootOf(id)}`);
    const status = sheet.getByRole('status', { name: 'Finding regions' });
    await sheet.getByRole('button', { name: 'More about garden-1.jpg' }).click();
    await sheet.getByRole('menuitem', { name: 'Find regions' }).click();
    await status.getByRole('progressbar').waitFor();
    // The render process gives way to everything else, and here all else runs beside it.
    await status.waitFor({ state: 'detached', timeout: 300_000 });
    await expect.poll(finds).toBe(before + 1);
    const onServer = await foundOn();
    expect(onServer.length).toBe(inBrowser.length);
    for (const [i, { region, part, mask }] of onServer.entries()) {
      expect([region.id, region.role]).toEqual([inBrowser[i]!.region.id, inBrowser[i]!.region.role]);
      expect(part.photograph, region.name).not.toBe(inBrowser[i]!.part.photograph);
      expect(Buffer.compare(Buffer.from(mask), Buffer.from(inBrowser[i]!.mask)), region.name).toBe(0);
    }
    // The window has it as a step of its history.
    await page.getByRole('button', { name: 'History', exact: true }).click();
    const { position, labels } = await editOf(id);
    await page.getByText(`${position} of ${labels.length}`, { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Regions', exact: true }).click();
    // A thread of its own found it, and left the process as it was: files are still made.
    expect((await handOver(page, 'JPEG', '8 bit')).bytes.length).toBeGreaterThan(10_000);
    // Stopped, nothing waits any more, and nothing is found twice at once.
    await sheet.getByRole('button', { name: 'More about Regions', exact: true }).click();
    await sheet.getByRole('menuitem', { name: 'Find regions in all photographs' }).click();
    await status.getByText(/photographs? left/).waitFor();
    await status.getByRole('button', { name: 'Stop' }).click();
    await status.waitFor({ state: 'detached' });
    expect(await (await fetch(`${base()}/api/shoots/${await shootOf(id)}/finding`)).json()).toEqual([]);
    expect((await write(`/api/shoots/${await shootOf(id)}/finding`, { key: 'x', photographs: [999_999] })).status).toBe(404);
    await sheet.close();
    expectNoComplaints(complaints);
  });

  it('of portraits are not offered on products', async () => {
    const { id } = await open('vases.jpg');
    await find();
    await page.getByRole('status').filter({ hasText: 'No face was found' }).waitFor();
    expect((await regionsOf(id)).every(({ role }) => role === 'sky' || role === 'object')).toBe(true);
    expectNoComplaints(complaints);
  });
});
