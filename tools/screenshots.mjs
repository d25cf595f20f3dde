/** `npm run screenshots`: the pictures of the README, made anew from the demo data. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launch, openBench, photographId, setNumber } from './browser.mjs';
import { freePort } from './mariadb.mjs';
import { buildApplication, root } from './prepare.mjs';
import { startStack } from './stack.mjs';

buildApplication({ web: true });
const data = mkdtempSync(join(tmpdir(), 'umbo-shots-'));
const stack = await startStack({ data, port: await freePort(), quiet: true });
const browser = await launch();
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const shot = async (name) => {
  await page.waitForTimeout(700);
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
};
const previewsLoaded = () => page.waitForFunction(() => [...document.images].every((image) => image.complete && image.naturalWidth > 0));

try {
  await page.goto(stack.base);
  await previewsLoaded();
  await shot('shoots');
  await page.getByRole('link', { name: /Saltings catalogue/ }).click();
  await page.getByRole('link', { name: 'Open vases.jpg' }).waitFor();
  await previewsLoaded();
  await shot('contact-sheet');

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
  const at = (x, y) => [stage.x + stage.width / 2 + (x - 800) * 0.285, stage.y + 19 + y * 0.285];
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
  for (const [key, name] of [
    ['2', 'bench-contours'],
    ['3', 'bench-spotlight'],
    ['4', 'bench-plain'],
  ]) {
    await page.getByRole('main').focus();
    await page.keyboard.press(key);
    await page.mouse.move(...at(1150, 1503));
    await shot(name);
    await page.mouse.move(...at(1150, 1500));
  }
  await page.keyboard.press('1');
  await page.keyboard.press('w');
  await shot('bench-wipe');
  await page.keyboard.press('w');
  await page.keyboard.press('2');

  await page.getByRole('button', { name: 'Hand over' }).click();
  await page.getByRole('dialog').getByRole('radio', { name: 'TIFF' }).click();
  await page.getByRole('button', { name: 'Render the file' }).click();
  await page.getByRole('link', { name: 'Download' }).first().waitFor();
  await shot('hand-over-dialog');
  await page.goto(`${stack.base}/hand-over`);
  await shot('hand-over');
} finally {
  await browser.close();
  await stack.close();
  rmSync(data, { recursive: true, force: true });
}
