/** Prepares the database: schema, and the demo shoots when there is no shoot yet. Uses the import that users use. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { changeDocument, connect, createShoot, importPhotograph, listShoots, migrate, queuePreview, readDocument, readSetting, readShoot, setPhotographState, writeSetting } from '@umbo/data';
import { edit } from '@umbo/core';
import { finishedEdit } from './finishedEdit.ts';

const demo = join(import.meta.dirname, '..', 'demo');
const shoots = JSON.parse(await readFile(join(demo, 'shoots.json'), 'utf8')) as { name: string; photographs: string[] }[];

const db = connect(process.env.DATABASE_URL!);
const ran = await migrate(db);
if (ran.length > 0) console.log(`umbo: schema brought up to date (${ran.join(', ')})`);

// Remembered, so that demo shoots that someone removed stay away; an interrupted import goes on where it stopped.
if (process.env.UMBO_DEMO !== 'none' && (await readSetting(db, 'demo')) === null) {
  console.log('umbo: importing the demo shoots …');
  for (const { name, photographs } of shoots) {
    const shoot = (await listShoots(db)).find((existing) => existing.name === name) ?? (await createShoot(name));
    const present = (await readShoot(shoot.id)).photographs.map((photograph) => photograph.name);
    for (const file of photographs.filter((candidate) => !present.includes(candidate))) {
      const photograph = await importPhotograph(db, process.env.UMBO_CACHE!, shoot.id, file, join(demo, 'photographs', file));
      if (file === finishedEdit.photograph) await makeFinishedEdit(photograph.id);
    }
  }
  await writeSetting(db, 'demo', 'imported');
}
await db.close();

async function makeFinishedEdit(photographId: number): Promise<void> {
  let { document } = await readDocument(db, photographId);
  const changes = finishedEdit.steps.map(({ label, recipe }, i) => {
    const step = edit(document, recipe);
    document = step.document;
    return { type: 'edit' as const, entry: { id: `demo-${i}`, label, patches: step.patches, inverse: step.inverse } };
  });
  await changeDocument(db, photographId, { id: 'demo', base: 1, changes });
  await setPhotographState(photographId, 'done');
  await queuePreview(db, photographId);
}
