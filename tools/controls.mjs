/**
 * `npm run controls`: how many controls a bench shows at 1280 x 800 in three states, where they are, and how much of the window the
 * photograph has at fit. A slider and its number count two, as whoever looks at the screen sees two.
 */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launch, openBench, photographId } from './browser.mjs';
import { freePort } from './mariadb.mjs';
import { buildApplication } from './prepare.mjs';
import { startStack } from './stack.mjs';

const SIZE = { width: 1280, height: 800 };
const address = process.argv[2];

/** Runs in the page: what can be pressed, typed into or moved, and is in sight. */
function seen() {
  const places = { head: 'header', cards: '[aria-label^="Layers, from"]', side: '[aria-label="Readings and history"]', stage: 'main', desk: '[aria-label="Desk"]', foot: 'footer' }; // prettier-ignore
  const controls = 'button, input, select, textarea, a[href], [role=slider], [role=radio], [role=switch], [role=row]';
  const isSeen = (element) => {
    const { left, top, width, height } = (element.closest('label') ?? element).getBoundingClientRect();
    if (width < 2 || height < 2) return false;
    const at = document.elementFromPoint(left + width / 2, top + height / 2);
    return at !== null && ((element.closest('label') ?? element).contains(at) || at.contains(element));
  };
  return Object.fromEntries(
    Object.entries(places).map(([name, place]) => [name, [...document.querySelectorAll(place)].flatMap((root) => [...root.querySelectorAll(controls)].filter(isSeen)).length]), // prettier-ignore
  );
}

const data = mkdtempSync(join(tmpdir(), 'umbo-controls-'));
const stack = address ? null : (await buildApplication({ web: true }), await startStack({ data, port: await freePort(), quiet: true }));
const base = address ?? stack.base;
const browser = await launch();
try {
  const page = await browser.newPage({ viewport: SIZE });
  const photograph = await (await fetch(`${base}/api/photographs/${await photographId(base, 'smile.jpg')}`)).json();
  await openBench(page, base, await photographId(base, 'smile.jpg'));
  const count = async (state) => {
    await page.waitForTimeout(1500);
    const found = await page.evaluate(seen);
    const all = Object.values(found).reduce((sum, n) => sum + n, 0);
    console.log(`${state}: ${all}  (${Object.entries(found).map(([place, n]) => `${place} ${n}`).join(', ')})`); // prettier-ignore
  };
  await count('no layer');
  const add = async (kind) => {
    await page.getByRole('button', { name: 'New layer', exact: true }).last().click();
    await page.getByRole('menuitem', { name: kind, exact: true }).click();
  };
  await add('Curves');
  await count('curves on the whole photograph');
  await add('Hue & saturation');
  await page.getByRole('button', { name: 'part', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Likeness' }).click();
  const box = await page.getByRole('main').boundingBox();
  for (let i = 0; i < 3; i++) {
    const y = box.y + box.height * (0.3 + 0.05 * i);
    await page.mouse.move(box.x + box.width * 0.45, y);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.55, y, { steps: 8 });
    await page.mouse.up();
    await page.waitForTimeout(600);
  }
  await count('hue & saturation on a likeness');
  const shown = await page.evaluate(() => document.querySelector('main').getBoundingClientRect().toJSON());
  const zoom = Math.min((shown.width - 16) / photograph.width, (shown.height - 72 - 16) / photograph.height);
  console.log(`photograph at fit: ${((100 * photograph.width * photograph.height * zoom * zoom) / (SIZE.width * SIZE.height)).toFixed(1)} % of the window`); // prettier-ignore
} finally {
  await browser.close();
  await stack?.close();
  rmSync(data, { recursive: true, force: true });
}
