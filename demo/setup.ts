/** Prepares database and cache: schema, leftovers of earlier runs, and the demo shoots once. Uses the import that users use. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  addProfile,
  changeDocument,
  connect,
  createShoot,
  databaseId,
  forgetEvents,
  forgetWorks,
  importPhotograph,
  listShoots,
  migrate,
  readDocument,
  readSetting,
  readShoot,
  changePhotographs,
  sweepCache,
  sweepImports,
  writeSetting,
} from '@umbo/data';
import { edit } from '@umbo/core/document';
import { finishedEdit } from './finishedEdit.ts';

const demo = join(import.meta.dirname, '..', 'demo');
const shoots = JSON.parse(await readFile(join(demo, 'shoots.json'), 'utf8')) as { name: string; photographs: string[] }[];

const db = connect(process.env.DATABASE_URL!);
const ran = await migrate(db).catch((error: Error) => {
  console.error(`umbo: ${error.message}`);
  process.exit(1);
});
if (ran.length > 0) console.log(`umbo: schema brought up to date (${ran.join(', ')})`);

await forgetWorks(db);
await forgetEvents(db);
await sweepImports(db);
await sweepCache(db, process.env.UMBO_CACHE!);

// Remembered, so that demo shoots that someone removed stay away; an interrupted import goes on where it stopped.
if (process.env.UMBO_DEMO !== 'none' && (await readSetting(db, 'demo')) === null) {
  console.log('umbo: importing the demo shoots …');
  for (const { name, photographs } of shoots) {
    const shoot = (await listShoots(db)).find((existing) => existing.name === name) ?? (await createShoot(db, `demo-${name}`.replace(/\W+/g, '-'), name));
    const present = (await readShoot(db, shoot.id)).photographs.map((photograph) => photograph.name);
    for (const file of photographs.filter((candidate) => !present.includes(candidate))) {
      const options = { shootId: shoot.id, name: file };
      const key = `demo-${shoot.id}-${file}`.replace(/\W+/g, '-');
      const id = await importPhotograph(db, process.env.UMBO_CACHE!, key, options, join(demo, 'photographs', file));
      if (file === finishedEdit.photograph) await makeFinishedEdit(id);
    }
    for (const paper of ['coated', 'uncoated'])
      await addProfile(db, `demo-${shoot.id}-${paper}`, shoot.id, await readFile(join(demo, 'profiles', `umbo-${paper}.icc`)));
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
  await changeDocument(db, photographId, { id: 'demo', database: await databaseId(db), base: 1, changes });
  await changePhotographs(db, [photographId], { state: 'done' });
}
