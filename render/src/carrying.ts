/** Carries what was chosen of one photograph to another, and says what came of it. */
import { levelSize, overviewLevel, shorten, type Size } from '@umbo/core/base';
import { carriedFrom, carriedHere, carryChanges, carryInto, cameWith, markDrawn, type CarryFacts } from '@umbo/core/carry';
import { eachMaskOwner, findMaskOwner, fitDocument, foundIn, type MaskOwner, type UmboDocument } from '@umbo/core/document';
import { eachMask, sampledFrom } from '@umbo/core/mask';
import {
  carriedBefore,
  carryEntry,
  endJob,
  ensureLevels,
  findCarry,
  findPhotograph,
  levelFile,
  readDocument,
  type Carry,
  type CarryOutcome,
  type Database,
  type Photograph,
  type TakenJob,
} from '@umbo/data';
import { findAndKeep, withFound } from './finding.ts';
import type { Lease } from './lease.ts';
import { pictureFiles, smallLevel } from './pictures.ts';
import type { Pool } from './pool.ts';
import { putInto } from './putInto.ts';

/** A photograph whose overview is at hand. */
interface Seen {
  photograph: Photograph;
  sha256: string;
  full: Size;
}

async function see(db: Database, cache: string, photograph: Photograph): Promise<Seen> {
  const full = { width: photograph.width, height: photograph.height };
  return { photograph, full, sha256: await ensureLevels(db, cache, photograph.assetId, full) };
}

const ownersIn = (document: UmboDocument): string[] => Array.from(eachMaskOwner(document), ({ id }) => id);

/** Whether a part of its mask took the colours of a region. */
const takesColours = ({ where }: MaskOwner): boolean =>
  Array.from(eachMask(where)).some(({ parts }) => parts.some((part) => sampledFrom(part) !== undefined));

export async function carry(db: Database, cache: string, pool: Pool, lease: Lease, job: TakenJob): Promise<void> {
  const what = await findCarry(job.batchId!);
  const seen = await see(db, cache, await findPhotograph(job.photographId));
  const lookOver = async <T>(look: 'facts' | 'sample anew', of: Seen, document: UmboDocument, owners: readonly string[]): Promise<T> => {
    const level = look === 'facts' ? smallLevel(of.full) : overviewLevel(of.full);
    const size = levelSize(of.full, level);
    const answer = await pool.run({
      type: 'overview',
      look,
      document,
      full: of.full,
      pictures: await pictureFiles(db, cache, of.photograph, document, size.width / of.full.width),
      level: levelFile(cache, of.sha256, level),
      levelSize: size,
      owners,
    });
    return answer as T;
  };
  const factsOf = (of: Seen, document: UmboDocument, owners: readonly string[]): Promise<CarryFacts> =>
    lookOver<CarryFacts>('facts', of, document, owners);

  const before = what.how === 'changes' ? await carriedBefore(db, what, job) : null;
  const [now, then] = [what, before].map((one) => one && fitted(one, seen));
  const kept: string[] = [];
  const put = (document: UmboDocument): UmboDocument => {
    if (!then) return carryInto(document, now!, what.how === 'changes' ? 'replace' : what.how);
    const { document: next, conflicts } = carryChanges(document, then, now!);
    kept.splice(0, kept.length, ...conflicts);
    return next;
  };

  // What was found on another photograph is found anew before anything is changed: then all of it is one step.
  const wanted = put((await readDocument(db, job.photographId)).document);
  const isElsewhere = (wanted.regions ?? []).some((region) => (foundIn(region)?.of ?? seen.sha256) !== seen.sha256);
  const found = isElsewhere ? await findAndKeep(db, cache, lease, job.id, seen.photograph, seen.sha256) : [];
  if (found === null || !lease.held) return;

  const id = carryEntry(job.id);
  const count = now!.layers.length;
  const label = shorten(`${count === 1 ? now!.layers[0]!.name : count > 0 ? `${count} layers` : 'Carried'} from ${what.sourceName}`, 200);
  let was: UmboDocument;
  const changed = await putInto(db, job.photographId, id, label, (document) => {
    was = document;
    const next = withFound(put(document), found, seen.sha256, id);
    const owners = [...carriedHere(next, now!).values()].filter((owner) => takesColours(findMaskOwner(next, owner)!));
    return owners.length === 0 ? next : lookOver<UmboDocument>('sample anew', seen, next, owners);
  });

  const { document } = await readDocument(db, job.photographId);
  const here = carriedHere(document, now!);
  const facts = await factsOf(seen, document, [...here.values()]);
  const source = await sourceFacts(what, (photograph) => see(db, cache, photograph), factsOf);
  const there = source ?? { shares: {}, clipped: 0, light: facts.light };
  const clipped = was!.layers.length === 0 ? 0 : (await factsOf(seen, was!, [])).clipped;
  const report = cameWith(document, seen.sha256, here, there, facts, clipped);
  const remarks = report.masks.filter(({ words }) => words !== null).length + report.words.length + kept.length;
  const outcome: CarryOutcome = { report, changed, kept, remarks };
  await endJob(db, job.id, lease.holder, { state: 'done', store: async () => ({ outcome: JSON.stringify(outcome) }) });
}

/** What goes along, for a photograph of another size; what was drawn elsewhere is marked. */
function fitted({ source, choice, sourceSha256 }: Carry, { full, sha256 }: Seen): UmboDocument {
  const carried = fitDocument(carriedFrom(source, choice), full);
  if (sha256 !== sourceSha256) markDrawn(eachMaskOwner(carried));
  return carried;
}

let lastSource: { id: string; facts: Promise<CarryFacts> } | null = null;

/** What the edit does where it comes from, measured once for all photographs that it goes to; null: that photograph is gone. */
async function sourceFacts(
  { id, sourceId, source }: Carry,
  see: (photograph: Photograph) => Promise<Seen>,
  factsOf: (of: Seen, document: UmboDocument, owners: readonly string[]) => Promise<CarryFacts>,
): Promise<CarryFacts | null> {
  if (sourceId === null) return null;
  if (lastSource?.id !== id) {
    const facts = findPhotograph(sourceId).then(async (photograph) => factsOf(await see(photograph), source, ownersIn(source)));
    lastSource = { id, facts };
    // What failed is tried again.
    facts.catch(() => (lastSource = null));
  }
  return lastSource.facts;
}
