/** Readings on the bench: whether thirty of them slow a slider, and how long settings are looked for. */
import { setNumber } from './browser.mjs';

/**
 * @param page a bench with layers, the last of hue and saturation
 * @param drag drags that layer's first slider for a while
 */
export async function benchReadings({ page, report, ms, blocking, drag }) {
  const stage = await page.getByRole('main').boundingBox();
  const pin = async (n) => {
    await page.getByRole('radio', { name: 'Read', exact: true }).click();
    for (let i = 0; i < n; i++)
      await page.mouse.click(stage.x + stage.width * (0.4 + 0.04 * (i % 6)), stage.y + stage.height * (0.25 + 0.1 * Math.floor(i / 6)));
    await page.getByRole('button', { name: 'Close the reading' }).click();
    await page.getByRole('radio', { name: 'Move', exact: true }).click();
    await page.waitForTimeout(1500);
  };
  // In turns, so that a machine that is slow for a while is so for both.
  const took = { none: { latency: [], blocked: [] }, thirty: { latency: [], blocked: [] } };
  for (let round = 0; round < 3; round++) {
    for (const which of ['none', 'thirty']) {
      if (which === 'thirty') await pin(30);
      await page.getByRole('row', { name: 'Layer 3' }).click();
      await page.locator('[role=region][aria-label=What] input[type=range]').first().scrollIntoViewIfNeeded();
      await page.waitForTimeout(800);
      const { latency, blocked } = await drag();
      took[which].latency.push(...latency);
      took[which].blocked.push(...blocked);
      await page.getByRole('main').focus();
      // The drag, and the readings.
      for (let i = 0; i < (which === 'thirty' ? 31 : 1); i++) await page.keyboard.press('Control+z');
      await page.waitForTimeout(600);
    }
  }
  for (const [which, words] of [
    ['none', 'without readings'],
    ['thirty', 'with 30 readings'],
  ]) {
    report(`Hue slider, top of 3 layers, ${words}: input to painted`, ms(took[which].latency), 'aim: median under 33 ms');
    report(`Hue slider, top of 3 layers, ${words}: main thread blocked`, blocking(took[which].blocked), 'aim: under 8 ms');
  }

  await pin(3);
  for (const [name, colour] of [
    ['Reading A', 'lab(55 14 16)'],
    ['Reading B', 'lab(60 12 14)'],
    ['Reading C', 'lab(48 16 18)'],
  ]) {
    await page.getByRole('list', { name: 'Readings' }).getByRole('button', { name, exact: true }).click();
    await page.getByRole('button', { name: `Target of ${name}` }).click();
    await page.getByRole('option', { name: 'A colour, typed…' }).click();
    const field = page.getByRole('textbox', { name: `Colour of the target of ${name}` });
    await field.fill(colour);
    await field.press('Enter');
  }
  for (const kind of ['Hue & saturation', 'White balance', 'Levels', 'Curves', 'Colour balance', 'Three-way tint', 'Colour families']) {
    const times = [];
    for (let round = 0; round < 3; round++) {
      await page.waitForTimeout(1200);
      await page.getByRole('button', { name: 'Match all 3 by…' }).click();
      const begin = Date.now();
      await page.getByRole('menuitem', { name: kind, exact: true }).click();
      await page.getByRole('status').filter({ hasText: 'A: ' }).first().waitFor();
      times.push(Date.now() - begin);
      await page.getByRole('button', { name: 'Close the notice' }).click();
      await page.getByRole('main').focus();
      await page.keyboard.press('Control+z');
    }
    report(`Match three readings by ${kind.toLowerCase()}: press to numbers`, ms(times), 'aim: under 300 ms for the search');
  }
  await setNumber(page, 'Hue', 0);
}
