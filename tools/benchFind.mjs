/** How fast regions are found and grown on the bench, what memory that takes, and how long the stage waits meanwhile. */
import { readFileSync } from 'node:fs';
import { openBench, photographId } from './browser.mjs';

/** Memory of the page's process, workers among it, in MB. */
async function pageMemory(browser) {
  const session = await browser.newBrowserCDPSession();
  const { processInfo } = await session.send('SystemInfo.getProcessInfo');
  await session.detach();
  const sizes = processInfo
    .filter(({ type }) => type === 'renderer')
    .map(({ id }) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0) / 1024);
  return Math.round(Math.max(...sizes));
}

/** @param drag drags the first slider for a while and says how long it took from each input to the painted pixels */
export async function benchFinding({ browser, page, base, report, drag, quantile }) {
  await openBench(page, base, await photographId(base, 'garden-3.jpg'));
  await page.getByRole('main').focus();
  await page.keyboard.press('n');
  await page.getByRole('radio', { name: 'Regions' }).click();
  await page.waitForTimeout(1500);
  const before = await pageMemory(browser);
  let most = before;
  const waits = [];
  for (const which of ['First finding', 'Second finding']) {
    const begin = Date.now();
    await page.getByRole('button', { name: which === 'First finding' ? 'Find regions' : 'Find again' }).click();
    const isOver = page.getByRole('button', { name: 'Find again' }).waitFor({ timeout: 120_000 });
    let over = false;
    void isOver.then(() => (over = true));
    while (!over) {
      if (which === 'First finding') waits.push(...(await drag()));
      most = Math.max(most, await pageMemory(browser));
      await page.waitForTimeout(200);
    }
    report(
      `${which} of a portrait's regions${which === 'First finding' ? ', a slider dragged meanwhile' : ''}`,
      `${Date.now() - begin} ms`,
    );
  }
  report(
    'Hue slider while regions are found: input to painted',
    `${quantile(waits, 0.5).toFixed(1)} ms (most: ${Math.max(...waits).toFixed(0)})`,
    'aim: under 3 s',
  );
  report('Memory of the page: before · at most while finding', `${before} · ${most} MB`);

  await openBench(page, base, await photographId(base, 'stool.jpg'));
  await page.getByRole('radio', { name: 'Regions' }).click();
  await page.getByRole('button', { name: 'Grow a region from strokes' }).click();
  const box = await page.getByRole('main').boundingBox();
  const at = (x, y) => [box.x + box.width * x, box.y + box.height * y];
  const stroke = async (points) => {
    await page.mouse.move(...at(...points[0]));
    await page.mouse.down();
    for (const point of points.slice(1)) await page.mouse.move(...at(...point));
    await page.mouse.up();
  };
  await stroke([[0.45, 0.36], [0.52, 0.37], [0.6, 0.36]]); // prettier-ignore
  await page.keyboard.press('d');
  await page.evaluate(() => (window.umboBench = { latency: [], blocked: [] }));
  await stroke([[0.36, 0.3], [0.5, 0.24], [0.68, 0.3], [0.7, 0.6]]); // prettier-ignore
  await page.waitForTimeout(5000);
  const { latency } = await page.evaluate(() => window.umboBench);
  report('A thing grown: end of the stroke to painted', `${Math.max(...latency).toFixed(0)} ms`);
}
