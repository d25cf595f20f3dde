/** A contact sheet of a thousand photographs: how soon it is there, and how it scrolls; and a line-up of twelve large ones. */

/** Scrolls through the sheet and measures how long each frame of the page took. */
async function frames(page) {
  await page.mouse.move(640, 400);
  await page.evaluate(() => {
    window.umboFrames = [];
    let last = performance.now();
    const tick = (now) => {
      window.umboFrames.push(now - last);
      last = now;
      window.umboFrame = requestAnimationFrame(tick);
    };
    window.umboFrame = requestAnimationFrame(tick);
  });
  for (let i = 0; i < 60; i++) {
    await page.mouse.wheel(0, 300);
    await page.waitForTimeout(30);
  }
  return page.evaluate(() => {
    cancelAnimationFrame(window.umboFrame);
    return window.umboFrames.slice(1);
  });
}

/** @param shootId a shoot of a thousand photographs, whose first is p1.jpg */
export async function benchSheet({ page, base, report, shootId }) {
  const open = async () => {
    const begin = Date.now();
    await page.goto(`${base}/shoots/${shootId}`);
    await page.getByRole('button', { name: 'More about p1.jpg', exact: true }).waitFor();
    return Date.now() - begin;
  };
  const first = await open();
  const warm = [await open(), await open(), await open()].sort((a, b) => a - b)[1];
  const elements = await page.evaluate(() => document.querySelectorAll('*').length);
  report('Open a contact sheet of 1000: first · again', `${first} · ${warm} ms, ${elements} elements`, 'aim: under 1000 ms again');
  await page.waitForTimeout(3000);
  const took = (await frames(page)).sort((a, b) => a - b);
  const over = took.filter((ms) => ms > 50).length;
  report(
    'Scroll through it: frames, median · longest · over 50 ms',
    `${took.length}, ${took[took.length >> 1].toFixed(0)} · ${took.at(-1).toFixed(0)} ms · ${over}`,
    'aim: none over 50 ms',
  );
}

/** @param ids twelve photographs of one shoot */
export async function benchLineUp({ page, base, report, shootId, ids }) {
  const times = [];
  for (let i = 0; i < 3; i++) {
    const begin = Date.now();
    await page.goto(`${base}/shoots/${shootId}/line-up?of=${ids.join(',')}`);
    await page.waitForFunction((n) => document.querySelectorAll('canvas[data-painted]').length === n, ids.length);
    times.push(Date.now() - begin);
  }
  report('Line-up of 12 at 24 megapixels: address to all painted', `${times.join(' · ')} ms`, 'aim: under 3000 ms');
}
