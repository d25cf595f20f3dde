/** `npm run screenshots`: the pictures of the README, made anew from the demo data. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eightLayers } from './eightLayers.mjs';
import { compare, launch, maskShown, more, openBench, photographId, setNumber } from './browser.mjs';
import { freePort } from './mariadb.mjs';
import { buildApplication, root } from './prepare.mjs';
import { startStack } from './stack.mjs';

await buildApplication({ web: true });
const data = mkdtempSync(join(tmpdir(), 'umbo-shots-'));
const stack = await startStack({ data, port: await freePort(), quiet: true });
const browser = await launch();
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const shot = async (name) => {
  await page.waitForTimeout(700);
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
};
const previewsLoaded = () =>
  page.waitForFunction(
    () => !document.querySelector('[data-there=false]') && [...document.images].every((image) => image.complete && image.naturalWidth > 0),
  );

try {
  await page.goto(stack.base);
  await previewsLoaded();
  await shot('shoots');
  await page.getByRole('link', { name: /Saltings catalogue/ }).click();
  await page.getByRole('link', { name: 'Open vases.jpg' }).waitFor();
  await previewsLoaded();
  await page.getByRole('row', { name: 'vases.jpg' }).click({ position: { x: 60, y: 50 } });
  await page.getByRole('row', { name: 'stool.jpg' }).click({ position: { x: 60, y: 50 }, modifiers: ['Shift'] });
  await shot('contact-sheet');
  await page.getByRole('button', { name: 'Hand over…' }).click();
  await page.getByRole('button', { name: /^Render [0-9]/ }).waitFor();
  await shot('hand-over-dialog');

  // The three portraits in the garden beside each other.
  await page.goto(`${stack.base}/shoots/1`);
  await page.getByRole('row', { name: 'garden-1.jpg' }).click({ position: { x: 60, y: 50 } });
  await page.getByRole('row', { name: 'smile.jpg' }).click({ position: { x: 60, y: 50 }, modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Line-up' }).click();
  await page.waitForFunction(() => document.querySelectorAll('canvas[data-painted]').length === 4);
  await shot('line-up');

  // The shoulder of mixed-light, corrected as a retoucher would.
  await openBench(page, stack.base, await photographId(stack.base, 'mixed-light.png'));
  await page.getByRole('main').focus();
  await page.keyboard.press('n');
  await page.getByRole('row').dblclick();
  await page.getByRole('dialog').getByRole('textbox').fill('Shoulder');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'part', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Hue range' }).click();
  for (const [handle, hue] of [
    ['outer start', 340],
    ['inner start', 350],
    ['inner end', 36],
    ['outer end', 46],
  ]) {
    const box = await page.getByRole('group', { name: 'Hue range on the hue census' }).boundingBox();
    const at = await page.getByRole('slider', { name: `Hue range, ${handle}` }).boundingBox();
    await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + (((hue - 190 + 360) % 360) / 360) * box.width, at.y + at.height / 2, { steps: 4 });
    await page.mouse.up();
  }
  await setNumber(page, 'Spare greys', 0.04);
  await page.getByRole('button', { name: 'part', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Brush' }).click();
  await setNumber(page, 'Brush size', 170);
  await setNumber(page, 'Flow', 50);
  const stage = await page.getByRole('main').boundingBox();
  const at = (x, y) => [stage.x + stage.width / 2 + (x - 800) * 0.2626, stage.y + 19 + y * 0.2626];
  for (let x = 760; x <= 1260; x += 70) {
    await page.mouse.move(...at(x, 1250));
    await page.mouse.down();
    for (const y of [1400, 1600, 1800, 1920]) await page.mouse.move(...at(x, y), { steps: 3 });
    await page.mouse.up();
  }
  await setNumber(page, 'Feather', 14);
  await page.getByRole('button', { name: /^Hue \d+–\d+°$/ }).click();
  await setNumber(page, 'Hue', 32);
  await setNumber(page, 'Saturation', -40);
  await setNumber(page, 'Lightness', -15);
  await page.getByRole('radio', { name: 'Move' }).click();
  await page.mouse.move(...at(1150, 1500));
  await page.getByRole('main').focus();
  await page.keyboard.press('2');
  await page.mouse.move(...at(1150, 1503));
  await shot('bench-contours');
  await page.mouse.move(...at(1150, 1500));

  await page.getByRole('button', { name: 'Hand over' }).click();
  await page.getByRole('dialog').getByRole('radio', { name: 'TIFF' }).click();
  await page.getByRole('button', { name: 'Render the file' }).click();
  await page.getByRole('link', { name: 'Download' }).first().waitFor();
  await page.goto(`${stack.base}/hand-over`);
  await shot('hand-over');

  // Hair by likeness, brought to its edges.
  await openBench(page, stack.base, await photographId(stack.base, 'window-portrait.jpg'));
  await page.getByRole('main').focus();
  await page.keyboard.press('n');
  await page.getByRole('button', { name: 'part', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Likeness' }).click();
  const portrait = (x, y) => [stage.x + stage.width / 2 + (x - 800) * 0.2534, stage.y + 19 + y * 0.2534];
  const click = async (places) => {
    for (const place of places) {
      await page.mouse.click(...portrait(...place));
      await page.waitForTimeout(250);
    }
  };
  await click([[640, 420], [560, 560], [500, 900], [480, 1150], [380, 1350], [1000, 380], [1200, 800], [1250, 1300], [1150, 1500], [1400, 1300]]); // prettier-ignore
  await page.keyboard.press('m');
  await click([[900, 600], [750, 800], [850, 1250], [900, 1500], [400, 1700], [1500, 800], [350, 500], [1450, 400], [1450, 1700]]); // prettier-ignore
  await setNumber(page, 'By lightness', 20);
  await page.getByRole('button', { name: 'refine', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Follow edges' }).click();
  await maskShown(page, 'Over the dimmed photograph');
  await page.mouse.move(...portrait(1250, 1300));
  await shot('bench-masks');
  await maskShown(page, 'Contours');

  // Layers of all kinds on a portrait.
  const garden = await photographId(stack.base, 'garden-1.jpg');
  const before = await (await fetch(`${stack.base}/api/photographs/${garden}`)).json();
  const layers = eightLayers(before);
  const entry = {
    id: 'layers',
    label: 'Eight layers',
    patches: [{ op: 'replace', path: ['layers'], value: layers }],
    inverse: [{ op: 'replace', path: ['layers'], value: [] }],
  };
  await fetch(`${stack.base}/api/photographs/${garden}/changes`, {
    method: 'POST',
    headers: { Origin: stack.base, 'Content-Type': 'application/json' },
    body: JSON.stringify({ id: 'layers', database: before.database, base: 1, changes: [{ type: 'edit', entry }] }),
  });
  await openBench(page, stack.base, garden);
  const select = (name) => page.getByRole('row', { name, exact: true }).click({ position: { x: 90, y: 50 } });
  await select('Skin');
  await shot('bench-layers');

  // Regions that were found; the face in work.
  await page.getByRole('button', { name: 'Regions', exact: true }).click();
  await page.getByRole('button', { name: 'Find regions' }).click();
  await page.getByRole('button', { name: 'Find again' }).waitFor({ timeout: 180000 });
  await page.getByRole('button', { name: 'Face skin found, sure' }).click();
  await maskShown(page, 'Contours');
  await page.waitForTimeout(4000); // for the small pictures of the regions
  await page.mouse.move(...portrait(700, 900));
  await shot('bench-regions');

  // A version, compared beside.
  await page.getByRole('button', { name: 'Versions', exact: true }).click();
  await page.getByRole('button', { name: 'Keep a version…' }).click();
  await page.getByRole('dialog').getByRole('textbox').fill('First round');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'More about First round' }).click();
  await page.getByRole('menuitem', { name: 'Compare with it' }).click();
  await page.getByRole('grid', { name: 'Layers' }).evaluate((row) => (row.scrollLeft = 400));
  await page.waitForTimeout(500);
  await select('Skin');
  await maskShown(page, 'Not shown');
  await setNumber(page, 'Hue', -20);
  await compare(page, 'Beside');
  await shot('bench-versions');

  const add = async (kind) => {
    await page.getByRole('button', { name: 'New layer', exact: true }).last().click();
    await page.getByRole('menuitem', { name: kind, exact: true }).click();
  };

  // A soft proof on uncoated paper: what its inks do not reach of five glazes, outlined.
  await openBench(page, stack.base, await photographId(stack.base, 'vases.jpg'));
  await page.getByRole('button', { name: 'Proof: off' }).click();
  await page.getByRole('dialog').getByText('Shown', { exact: true }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Umbo made-up coated/ })
    .click();
  await page.getByRole('option', { name: 'Umbo made-up uncoated' }).click();
  await page.getByText(/% out, up to/).waitFor();
  await page.keyboard.press('Escape');
  await page.waitForTimeout(800);
  await shot('bench-proof');

  // The long exposure of the workshop, levelled and cut to a square.
  await openBench(page, stack.base, await photographId(stack.base, 'workshop-long.jpg'));
  await page.getByRole('main').focus();
  await page.keyboard.press('Shift+A');
  await page.getByRole('button', { name: 'Level by itself', exact: true }).click();
  await page.waitForTimeout(1500);
  await page.getByRole('button', { name: /Ratio/ }).click();
  await page.getByRole('option', { name: '5:4' }).click();
  await page.waitForTimeout(1500);
  await shot('bench-crop');

  // What is to be done, as sentences; one of them begun.
  await openBench(page, stack.base, await photographId(stack.base, 'smile.jpg'));
  await page.getByRole('button', { name: /^Make this agree with that/ }).click();
  await page.mouse.move(640, 420);
  await shot('bench-begin');

  // The stool in three lacquers.
  await openBench(page, stack.base, await photographId(stack.base, 'stool.jpg'));
  const ask = async (layer, item) => {
    await page.getByRole('button', { name: `More about ${layer}`, exact: true }).click();
    await page.getByRole('menuitem', { name: item, exact: true }).click();
  };
  const rename = async (layer, name) => {
    await ask(layer, 'Rename…');
    await page.getByRole('dialog').getByRole('textbox').fill(name);
    await page.keyboard.press('Enter');
  };
  await select('Lacquer');
  await rename('Lacquer', 'Sea green');
  await ask('Sea green', 'Make colourways of it');
  await rename('Colourways 1', 'Lacquer');
  await rename('Sea green 2', 'Plum');
  await select('Plum');
  await setNumber(page, 'Hue', -60);
  await ask('Plum', 'Duplicate');
  await rename('Plum copy', 'Moss');
  await select('Moss');
  await setNumber(page, 'Hue', 95);
  await select('Lacquer');
  await page.getByRole('button', { name: 'All beside each other' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Moss' }).waitFor();
  await shot('bench-colourways');

  // The bowl, grown from a stroke inside it and two outside.
  await openBench(page, stack.base, await photographId(stack.base, 'vases.jpg'));
  await page.getByRole('button', { name: 'Regions', exact: true }).click();
  await page.getByRole('button', { name: 'Grow a region from strokes' }).click();
  const around = await page.getByRole('main').boundingBox();
  const zoom = (around.width - 16) / 1680;
  const top = (around.height - 72 - 1120 * zoom) / 2;
  const stroke = async (points) => {
    for (const [i, [x, y]] of points.entries()) {
      await page.mouse.move(around.x + 8 + x * zoom, around.y + top + y * zoom);
      if (i === 0) await page.mouse.down();
    }
    await page.mouse.up();
  };
  await stroke([[820, 690], [960, 820], [1180, 750], [1180, 700], [980, 680]]); // prettier-ignore
  await page.keyboard.press('d');
  await stroke([[740, 650], [760, 740], [800, 850], [890, 960], [1000, 1000], [1130, 960], [1220, 850], [1260, 740]]); // prettier-ignore
  await stroke([[840, 620], [1000, 600], [1180, 620], [1240, 660]]); // prettier-ignore
  await page.waitForTimeout(5000);
  await shot('bench-grow');

  // Glazes measured by a device, and the bowl, which is a region now, brought to one of them.
  await openBench(page, stack.base, await photographId(stack.base, 'vases.jpg'));
  await page.getByRole('main').focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  const desk = page.getByRole('complementary', { name: 'Desk' });
  await page.getByRole('button', { name: 'More about Region', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Pin a reading of it' }).click();
  await page.getByRole('radio', { name: 'Read', exact: true }).click();
  await page.mouse.click(around.x + 8 + 590 * zoom, around.y + top + 600 * zoom);
  await page.getByRole('button', { name: 'How readings are shown, and more' }).click();
  await page.getByRole('menuitem', { name: /Measure with/ }).click();
  await page.getByRole('list', { name: 'Readings' }).getByRole('button', { name: 'Region', exact: true }).click();
  await desk.getByRole('button', { name: 'Target of Region' }).click();
  await page.getByRole('option', { name: 'Ox blood', exact: true }).click();
  await desk.getByRole('button', { name: 'Match by…' }).click();
  await page.getByRole('menuitem', { name: 'Hue & saturation', exact: true }).click();
  await page.getByRole('status').filter({ hasText: 'A: ' }).waitFor();
  await page.getByRole('button', { name: 'History', exact: true }).click();
  await page.waitForTimeout(1500);
  await shot('bench-readings');

  // Red enamel, asked for more than there is.
  await openBench(page, stack.base, await photographId(stack.base, 'enamel-red.jpg'));
  await add('Hue & saturation');
  await setNumber(page, 'Saturation', 70);
  await page.getByRole('main').focus();
  await page.keyboard.press('Shift+X');
  await page.getByRole('button', { name: /^Notes/ }).click();
  await page.waitForTimeout(500);
  await shot('bench-notes');

  // The portrait's edit on all others of its shoot, reported.
  await openBench(page, stack.base, await photographId(stack.base, 'garden-1.jpg'));
  await more(page, 'Carry to other photographs…');
  await page.getByRole('dialog').getByRole('button', { name: 'All', exact: true }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Carry to/ })
    .click();
  await page
    .getByRole('dialog')
    .getByText(/to look at/)
    .waitFor({ timeout: 300000 });
  await page.getByRole('dialog').getByRole('link', { name: 'Report' }).click();
  await page.getByRole('heading', { name: /^From garden-1.jpg to/ }).waitFor();
  await page.waitForTimeout(8000); // for the small pictures
  await shot('carry-report');

  // What evens skin, tried on the three in the garden, whose regions have been found by now.
  const inGarden = await Promise.all([1, 2, 3].map((n) => photographId(stack.base, `garden-${n}.jpg`)));
  await page.goto(`${stack.base}/treatments?shoot=1&of=${inGarden.join(',')}&show=even-skin`);
  await page.waitForTimeout(1000);
  await page.getByRole('button', { name: 'Try on 3 photographs' }).click();
  await page.getByText('Nothing is changed yet.').waitFor({ timeout: 300000 });
  await previewsLoaded();
  await shot('treatments');
} finally {
  await browser.close();
  await stack.close();
  rmSync(data, { recursive: true, force: true });
}
