/** How long it takes to carry an edit to many photographs on the server. */
import { setTimeout as sleep } from 'node:timers/promises';

/**
 * @param from a photograph whose edit holds what is carried
 * @param to those that it is carried to
 * @param write sends JSON as a page of the application does, and returns the answer
 */
export async function benchCarry({ base, report, from, to, write }) {
  const key = `bench-${from}`;
  const choice = { layers: 'all', regions: false, readings: false, geometry: false };
  const begin = Date.now();
  await write(
    '/api/carries',
    JSON.stringify({ key, from: { kind: 'photograph', id: from }, photographs: to, choice, how: 'replace', isTrial: false }),
  );
  let carry;
  do {
    await sleep(1000);
    carry = await (await fetch(`${base}/api/carries/${key}`)).json();
  } while (carry.done + carry.failed < to.length);
  const took = Date.now() - begin;
  const back = Date.now();
  await write(`/api/carries/${key}/back`, JSON.stringify({ photographId: null }));
  report(
    `Carry an edit to ${to.length} photographs · take it back on all`,
    `${(took / 1000).toFixed(1)} · ${((Date.now() - back) / 1000).toFixed(1)} s (${carry.failed} failed)`,
    'aim: under 60 s for 200',
  );
}
