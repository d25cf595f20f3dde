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

/** Compares the picture with what it was, by its name in the list: Before, Wipe, ... */
export async function compare(page, how) {
  await page.getByRole('button', { name: /Compare$/ }).click();
  await page.getByRole('option', { name: how, exact: true }).click();
}

/** Something of the menu at the bench's head. */
export async function more(page, what) {
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: what, exact: true }).click();
}

/** How the mask of the layer in work is seen, by its name in the list. */
export async function maskShown(page, how) {
  await page.getByRole('button', { name: 'Mask shown as' }).click();
  await page.getByRole('option', { name: how, exact: true }).click();
}
