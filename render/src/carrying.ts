/** Carries what was chosen of one photograph to another, and says what came of it. */
import { levelCount, levelSize, overviewLevel, shorten, type Size } from '@umbo/core/base';
import {
  answeredWords,
  asFound,
  asStrongAs,
  cameWith,
  carriedFrom,
  carriedHere,
  carryChanges,
  carryInto,
  joinFoundHere,
  markDrawn,
  sampleHere,
  foundHereIn,
  type CarryFacts,
  type OneCarry,
  type FoundHere,
} from '@umbo/core/carry';
import {
  eachMaskOwner,
  findLayer,
  findMaskOwner,
  fitDocument,
  foundIn,
  type FoundRegionFile,
  type MaskOwner,
  type Role,
  type UmboDocument,
} from '@umbo/core/document';
import { eachMask, sampledFrom } from '@umbo/core/mask';
import type { Answered } from '@umbo/core/solve';
import {
  carriedBefore,
  carryEntry,
  endJob,
  ensureLevels,
  findCarry,
  findPhotograph,
  foundBefore,
  keepTrialPicture,
  photographContent,
  pictureWithContent,
  pixelsFor,
  readDocument,
  type Carry,
  type CarryOutcome,
  type Database,
  type Photograph,
  type TakenJob,
} from '@umbo/data';
import { levelFile, type PixelsOf } from '@umbo/files';
import { FINDER } from '@umbo/find/files';
import { findAndKeep, withFound } from './finding.ts';
import type { Lease } from './lease.ts';
import { pictureFiles, smallLevel } from './pictures.ts';
import type { Pool } from './pool.ts';
import { smallPicture } from './preview.ts';
import { putInto } from './putInto.ts';
import type { FoundAnew } from './tasks.ts';

/** A photograph, and the content of its file. */
interface Seen {
  photograph: Photograph;
  sha256: string;
  full: Size;
}

async function see(db: Database, photograph: Photograph): Promise<Seen> {
  const full = { width: photograph.width, height: photograph.height };
  return { photograph, full, sha256: await photographContent(db, photograph) };
}

/** How much of the work on one photograph is done, 0..1; finding regions, where it is needed, takes most of it and tells by itself. */
const PROGRESS = { found: 0.85, made: 0.92, measured: 0.96 } as const;

/** The pixels of a photograph as an edit has them. */
const pixels = (db: Database, cache: string, { photograph, full }: Seen, document: UmboDocument): Promise<PixelsOf> =>
  ensureLevels(db, cache, photograph.assetId, full, pixelsFor(document));

const ownersIn = (document: UmboDocument): string[] => Array.from(eachMaskOwner(document), ({ id }) => id);

/** Whether a part of its mask took the colours of a region. */
const takesColours = ({ where }: MaskOwner): boolean =>
  Array.from(eachMask(where)).some(({ parts }) => parts.some((part) => sampledFrom(part) !== undefined));

/** An edit with what came along, and what became of it. */
interface Made {
  document: UmboDocument;
  kept: readonly string[];
  answered: readonly Answered[];
  /** What was found anew for it, now or before. */
  settled: FoundHere;
}

/** What a carry works with: one photograph, and the machine. */
interface Work {
  readonly db: Database;
  readonly cache: string;
  readonly pool: Pool;
  readonly signal: AbortSignal;
  readonly what: Carry;
  readonly seen: Seen;
}

/** Looks at a photograph with an edit, in small. */
async function lookOver<T>(
  { db, cache, pool, signal }: Omit<Work, 'what' | 'seen'>,
  look: 'facts' | 'sample anew',
  of: Seen,
  document: UmboDocument,
  owners: readonly string[],
): Promise<T> {
  const level = look === 'facts' ? smallLevel(of.full) : overviewLevel(of.full);
  const size = levelSize(of.full, level);
  const task = {
    type: 'overview',
    look,
    document,
    full: of.full,
    pictures: await pictureFiles(db, cache, of.photograph, document, size.width / of.full.width, true),
    level: levelFile(cache, await pixels(db, cache, of, document), level),
    levelSize: size,
    owners,
  } as const;
  return (await pool.run(task, { signal })) as T;
}

/** What comes along, now and before, and how it is put into an edit. */
interface Carried {
  readonly now: OneCarry;
  /** An edit with what comes along as it is. */
  readonly put: (document: UmboDocument) => { document: UmboDocument; kept: readonly string[]; settled: FoundHere };
}

async function carriedTo({ db, what, seen }: Work, job: TakenJob<'carry'>, begun: UmboDocument): Promise<Carried> {
  const earlier = what.how === 'changes' ? await carriedBefore(db, what, job, begun) : [];
  // A treatment stays as strong as it was made here.
  const last = what.treatmentId === null ? undefined : earlier.at(-1);
  const now = oneCarry(last ? { ...what, choice: { ...what.choice, strength: last.choice.strength } } : what, seen);
  const then = earlier.map((one) => ({ ...oneCarry(one, seen), settled: one.settled }));
  const { how } = what;
  if (how !== 'changes')
    return { now, put: (document) => ({ document: carryInto(document, now.carried, how, what.id), kept: [], settled: {} }) };
  return {
    now,
    put(document) {
      const { document: next, conflicts, settled } = carryChanges(document, then, now);
      return { document: next, kept: conflicts, settled };
    },
  };
}

/**
 * An edit with what comes along, region by region and layer by layer found anew.
 * @param id what the ids of new regions begin with
 */
async function make(
  work: Work,
  { now, put }: Carried,
  document: UmboDocument,
  found: readonly FoundRegionFile[],
  id: string,
): Promise<Made> {
  const { what, seen } = work;
  const came = put(document);
  let next = withFound(came.document, found, seen.sha256, id);
  let { settled } = came;
  const here = carriedHere(next, now.carried);
  const owners = [...here.values()].filter((owner) => takesColours(findMaskOwner(next, owner)!));
  if (owners.length > 0) {
    const sampled = await lookOver<UmboDocument>(work, 'sample anew', seen, next, owners);
    const colours = sampleHere(next, sampled, now.carried, here, settled);
    next = colours.document;
    settled = joinFoundHere(settled, colours.settled);
  }
  const anew = asFound(next, what.choice.solve ?? [], here, settled);
  if (anew.length === 0) return { ...came, document: next, answered: [], settled };
  const { document: solved, answered } = await findAnew(work, next, here, anew);
  return { ...came, document: solved, answered, settled: joinFoundHere(settled, foundHereIn(solved, anew, here)) };
}

/** Settings of layers, by the ids that they have at their source, found anew as they are asked for. */
async function findAnew(
  { db, cache, pool, signal, what, seen }: Work,
  document: UmboDocument,
  here: ReadonlyMap<string, string>,
  anew: readonly string[],
): Promise<FoundAnew> {
  const { full, photograph } = seen;
  // Solved for as if all of it acted: what is wanted weaker is not to be made up for.
  const whole = carriedFrom(what.source, { ...what.choice, strength: 1 });
  const strong = new Map(whole.layers.flatMap((layer) => (here.has(layer.id) ? [[here.get(layer.id)!, layer.how.opacity] as const] : [])));
  const asItActs = new Map([...strong.keys()].map((id) => [id, findLayer(document, id)!.how.opacity]));
  const next = asStrongAs(document, strong);
  const of = await pixels(db, cache, seen, next);
  const task = {
    type: 'anew',
    document: next,
    full,
    pictures: await pictureFiles(db, cache, photograph, next, 1, true),
    levels: Array.from({ length: levelCount(full) }, (_, i) => levelFile(cache, of, i)),
    layers: anew.map((layer) => here.get(layer)!),
  } as const;
  const { document: solved, answered } = (await pool.run(task, { signal })) as FoundAnew;
  return { document: asStrongAs(solved, asItActs), answered };
}

/** The words for what a carry does, as a step of a history. */
function labelOf({ treatmentId, sourceSha256, sourceName }: Carry, { carried: { layers } }: OneCarry): string {
  const words = layers.length === 1 ? layers[0]!.name : layers.length > 0 ? `${layers.length} layers` : 'Carried';
  return shorten(treatmentId === null && sourceSha256 !== '' ? `${words} from ${sourceName}` : sourceName, 200);
}

export async function carry(db: Database, cache: string, pool: Pool, lease: Lease, job: TakenJob<'carry'>): Promise<void> {
  const what = await findCarry(job.batchId!);
  const work: Work = { db, cache, pool, signal: lease.signal, what, seen: await see(db, await findPhotograph(job.photographId)) };
  const { seen } = work;
  const factsOf = (of: Seen, document: UmboDocument, owners: readonly string[]): Promise<CarryFacts> =>
    lookOver<CarryFacts>(work, 'facts', of, document, owners);

  const begun = (await readDocument(db, job.photographId)).document;
  const carried = await carriedTo(work, job, begun);
  // What was found on another photograph is found anew before anything is changed: then all of it is one step.
  const elsewhere = (carried.put(begun).document.regions ?? []).filter((region) => (foundIn(region)?.of ?? seen.sha256) !== seen.sha256);
  const roles = new Set(elsewhere.flatMap(({ role }) => role ?? []));
  const known = roles.size > 0 ? await foundHere(db, seen.photograph, roles) : [];
  const found = known ?? (await findAndKeep(db, cache, lease, job.id, seen.photograph, roles));
  lease.signal.throwIfAborted();

  lease.progress = PROGRESS.found;
  const id = carryEntry(job.id);
  let [was, made] = [begun, null as Made | null];
  const changed = what.isTrial
    ? false
    : await putInto(db, job.photographId, id, labelOf(what, carried.now), async (document) => {
        was = document;
        made = await make(work, carried, document, found, id);
        return made.document;
      });
  made ??= await make(work, carried, begun, found, id);
  lease.progress = PROGRESS.made;

  const document = what.isTrial ? made.document : (await readDocument(db, job.photographId)).document;
  const here = carriedHere(document, carried.now.carried);
  const facts = await factsOf(seen, document, [...here.values()]);
  lease.progress = PROGRESS.measured;
  const source = await sourceFacts(what, (photograph) => see(db, photograph), factsOf);
  const there = source ?? { shares: {}, clipped: 0, light: facts.light };
  const clipped = was.layers.length === 0 ? 0 : (await factsOf(seen, was, [])).clipped;
  const report = cameWith(document, seen.sha256, here, there, facts, clipped);
  const { kept, answered, settled } = made;
  const remarks =
    report.masks.filter(({ words: said }) => said !== null).length + report.words.length + kept.length + answeredWords(answered).length;
  const outcome: CarryOutcome = {
    ...{ report, changed, kept, remarks, answered, settled },
    found: roles.size > 0 ? { by: FINDER, roles: [...roles], regions: found } : null,
  };
  const picture = what.isTrial ? (await smallPicture(db, cache, pool, seen.photograph, document, lease.signal)).data : null;
  await endJob(db, job.id, lease.holder, {
    state: 'done',
    store: async (transaction) => {
      if (picture) await keepTrialPicture(db, job.id, picture, transaction);
      return { outcome: JSON.stringify(outcome) };
    },
  });
}

/** What of some roles was found on a photograph before, if all of it is still there; null: it was not looked for, or is gone. */
async function foundHere(db: Database, { id, shootId }: Photograph, roles: ReadonlySet<Role>): Promise<readonly FoundRegionFile[] | null> {
  const before = await foundBefore(db, id, FINDER);
  if (!before || ![...roles].every((role) => before.roles.includes(role))) return null;
  const found = before.regions.filter(({ role }) => roles.has(role));
  const there = await Promise.all(found.map(({ sha256 }) => pictureWithContent(db, shootId, sha256)));
  return there.every((one) => one !== null) ? found : null;
}

/** What goes along, for a photograph of another size; what was drawn elsewhere is marked. */
function oneCarry({ id, source, choice, sourceSha256 }: Carry, { full, sha256 }: Seen): OneCarry {
  const carried = fitDocument(carriedFrom(source, choice), full);
  if (sha256 !== sourceSha256) markDrawn(eachMaskOwner(carried));
  return { by: id, source, carried, settled: {} };
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
