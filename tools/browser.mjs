/** Debian's Chromium for tests, screenshots and benchmarks, without the services that would look for a network. */
import { chromium } from 'playwright-core';
import { chromium as executablePath } from './prepare.mjs';

export const launch = () =>
  chromium.launch({
    executablePath,
    args: [
      '--no-sandbox',
      '--disable-dev-shm-usage',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--force-color-profile=srgb',
    ],
  });

export async function openBench(page, base, id) {
  await page.goto(`${base}/photographs/${id}`);
  await page.locator('main[data-painted=true]').waitFor();
  await page.waitForTimeout(600);
}

export async function setNumber(page, label, value) {
  const field = page.getByRole('textbox', { name: `${label}, number` });
  await field.fill(String(value));
  await field.press('Enter');
}

/** The id of a demo photograph. */
export async function photographId(base, name) {
  for (const { id } of await (await fetch(`${base}/api/shoots`)).json()) {
    const found = (await (await fetch(`${base}/api/shoots/${id}`)).json()).photographs.find((photograph) => photograph.name === name);
    if (found) return found.id;
  }
  throw new Error(`There is no photograph ${name}`);
}
