/** What a person does with readings: steps of the history, lists, and what is asked of the engine when they are matched. */
import { adjustmentLayer, groupLayer, sourceLayer, type Layer, type Reading } from '@umbo/core/document';
import type { AreaValues } from '@umbo/core/measure';
import type { ReadingValues, Solved } from '@umbo/core/solve';
import { describe, expect, it, vi } from 'vitest';
import { castOf, castWords } from '../src/bench/state/cast';
import {
  addEllipse,
  addOutline,
  addSpot,
  colourOf,
  movedBy,
  readingsOf,
  readRegion,
  removeReading,
  renameReading,
  setHold,
  setTarget,
  setTargets,
  targetOf,
} from '../src/bench/state/readings';
import { otherReadings, rememberReadings } from '../src/bench/state/otherReadings';
import { easeWarning, openWarnings, showWarning } from '../src/bench/state/warnings';
import { match, MATCHING, NEUTRALISING, stopSolving } from '../src/bench/state/solving';
import { asCgats, asCsv, asText, readColours } from '../src/bench/side/readingFiles';
import { measuredText } from '../src/bench/side/simulatedDevice';
import type { SolveTask } from '../src/workers/protocol';
import { first, open, type World } from './world';

const values = (mean: [number, number, number]): AreaValues => ({
  mean,
  spread: { hue: 1, chroma: 1, lightness: 1 },
  lightest: mean,
  darkest: mean,
  lights: mean,
  shadows: mean,
  clipped: 0,
});
const measured = (before: [number, number, number], after = before): ReadingValues => ({
  before: values(before),
  after: values(after),
  below: null,
  samples: [],
});
function withSpots(world: World, ...means: [number, number, number][]): Reading[] {
  for (const [i] of means.entries()) addSpot(world.now(), 50 + i * 10, 60);
  const readings = [...readingsOf(world.now())];
  world.now().hear({ type: 'readings', measured: readings.map(({ id }, i) => [id, measured(means[i]!)]) });
  return readings;
}
const way = (id: string) => [...MATCHING, ...NEUTRALISING].find((one) => one.id === id)!;
const asked = ({ asked: list }: World): SolveTask & { kind: string } => list.at(-1)!.ask as never;
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

describe('readings', () => {
  it('are lettered, named, moved, held and removed: each a step of the history', async () => {
    const { now } = open();
    addSpot(now(), 12.34, 56.78);
    addEllipse(now(), [10, 20], [40, 10]);
    addOutline(now(), [[0, 0], [10, 0], [10, 10]]); // prettier-ignore
    addOutline(now(), [[0, 0], [10, 0]]); // prettier-ignore
    const [a, b, c] = readingsOf(now());
    expect(readingsOf(now()).map(({ letter, name }) => `${letter} ${name}`)).toEqual(['A Reading A', 'B Reading B', 'C Reading C']);
    expect(a!.spot).toEqual({ x: 12.3, y: 56.8, side: 5 });
    expect(b!.where!.parts[0]).toMatchObject({ kind: 'ellipse', x: 25, y: 15, rx: 15, ry: 5 });
    expect(now().readingId).toBe(c!.id);
    now().commit('Moved', movedBy(b!.id, 5, -5));
    now().commit('Moved', movedBy(c!.id, 1, 2));
    expect(readingsOf(now())[1]!.where!.parts[0]).toMatchObject({ x: 30, y: 10, rx: 15 });
    expect(readingsOf(now())[2]!.where!.parts[0]).toMatchObject({ shapes: [[1, 2, 11, 2, 11, 12]] });
    setTarget(now(), a!, { kind: 'reading', reading: b!.id });
    setHold(now(), readingsOf(now())[2]!, true);
    // What is held is to become nothing else, and the other way round.
    setTarget(now(), readingsOf(now())[2]!, { kind: 'neutral' });
    expect(readingsOf(now())[2]!.hold).toBeUndefined();
    renameReading(now(), a!, '  Cheek ');
    renameReading(now(), readingsOf(now())[0]!, ' ');
    expect(readingsOf(now())[0]!.name).toBe('Reading A');
    removeReading(now(), b!);
    expect(readingsOf(now())[0]!.target).toBeUndefined();
    // A letter that is free again is the next.
    addSpot(now(), 1, 1);
    expect(readingsOf(now()).map(({ letter }) => letter)).toEqual(['A', 'C', 'B']);
    expect(now().history.labels).toContain('Target of A: B');
    const steps = now().history.labels.length;
    for (let i = 0; i < steps; i++) await now().step(-1);
    expect(now().committed).toEqual(first);
  });

  it('of a region follow it, and keep what it was when it goes', () => {
    const document = { ...first, regions: [{ id: 'r', name: 'Sleeve', where: { parts: [], refine: [], strength: 1, invert: true } }] };
    const { now } = open({}, document);
    readRegion(now(), document.regions[0]!);
    expect(readingsOf(now())[0]).toMatchObject({ name: 'Sleeve', where: { link: 'r' } });
    now().commit('Move', movedBy(readingsOf(now())[0]!.id, 9, 9));
    expect(readingsOf(now())[0]!.where).toMatchObject({ link: 'r', parts: [] });
  });

  it('show what was painted until it is measured, and forget what is gone', () => {
    const world = open();
    const { now } = world;
    const [a] = withSpots(world, [0.5, 0.4, 0.3], [0.1, 0.1, 0.1]);
    now().hear({ type: 'glimpsed', colours: [[a!.id, [0.6, 0.5, 0.4]], ['nobody', [0, 0, 0]]] }); // prettier-ignore
    expect(colourOf(now(), a!.id, 'after')).toEqual([0.6, 0.5, 0.4]);
    expect(colourOf(now(), a!.id, 'before')).toEqual([0.5, 0.4, 0.3]);
    now().hear({ type: 'readings', measured: [[a!.id, measured([0.5, 0.4, 0.3], [0.7, 0.6, 0.5])]] });
    expect(colourOf(now(), a!.id, 'after')).toEqual([0.7, 0.6, 0.5]);
    expect(now().readings.size).toBe(2);
    removeReading(now(), readingsOf(now())[1]!);
    now().hear({ type: 'readings', measured: [] });
    expect([...now().readings.keys()]).toEqual([a!.id]);
  });

  it('have their targets and casts in numbers and words', () => {
    const world = open();
    const { now } = world;
    const [a, b] = withSpots(world, [0.55, 0.5, 0.35], [0.5, 0.5, 0.5]);
    expect(castWords(castOf(now(), a!.id)!)).toMatch(/^Cast: yellow, \d+\. Takes \d+ toward blue/);
    expect(castWords(castOf(now(), b!.id)!)).toBe('No cast.');
    const even = { lights: 6, shadows: 6 };
    expect(castWords({ a: -6, b: 0.2, ...even })).toBe('Cast: green, 6. Takes 6 toward magenta.');
    expect(castWords({ a: -6, b: 0.2, lights: 8, shadows: 4 })).toMatch(/magenta, in the lights more than in the shadows\.$/);
    setTarget(now(), a!, { kind: 'neutral' });
    const grey = targetOf(now(), readingsOf(now())[0]!)!;
    expect([grey.a, grey.b]).toEqual([0, 0]);
    setTarget(now(), a!, { kind: 'reading', reading: b!.id });
    expect(targetOf(now(), readingsOf(now())[0]!)!.a).toBeCloseTo(0, 3);
    setTarget(now(), a!, null);
    expect(targetOf(now(), readingsOf(now())[0]!)).toBeNull();
  });

  it('of other photographs of the shoot are targets as they were seen last, and nothing that is no colour is', () => {
    const kept = new Map<string, string>();
    vi.stubGlobal('localStorage', {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => void kept.set(key, value),
    });
    const world = open();
    withSpots(world, [0.5, 0.4, 0.3]);
    rememberReadings(world.now());
    const here = world.now();
    const there = (id: number) => ({
      ...here,
      photograph: { ...here.photograph, id },
      shoot: { ...here.shoot, photographs: [{ id: 1, sha256: '', name: 'One', width: 1, height: 1 }, { id: 2, sha256: '', name: 'Two', width: 1, height: 1 }] }, // prettier-ignore
    });
    expect(otherReadings(there(2)).map(({ name }) => name)).toEqual(['One, A Reading A']);
    expect(otherReadings(there(2))[0]!.lab.l).toBeGreaterThan(40);
    expect(otherReadings(there(1))).toEqual([]);
    const [key] = kept.keys();
    kept.set(key!, JSON.stringify({ 1: [{ name: 'One, B', lab: { l: 'x', a: 0, b: 0 } }, 7], 2: 'nothing' }));
    expect(otherReadings(there(2))).toEqual([]);
    kept.set(key!, 'no JSON');
    expect(otherReadings(there(2))).toEqual([]);
    vi.unstubAllGlobals();
  });

  it('go into lists and come back; what is wrong in one is said', () => {
    const world = open();
    const { now } = world;
    const [a] = withSpots(world, [0.5, 0.25, 0.125], [0.5, 0.5, 0.5]);
    renameReading(now(), a!, '=SUM(A1)');
    now().set({ notation: 'percent' });
    expect(asText(now(), readingsOf(now())).split('\n')[0]).toBe('A\t=SUM(A1)\t50.0 25.0 12.5\t50.0 25.0 12.5');
    const csv = asCsv(now());
    // No cell of a name acts as a formula; numbers below nothing stay numbers.
    expect(csv).toContain("'=SUM(A1)");
    expect(csv).toMatch(/before L/);
    const [back] = readColours(csv);
    expect(back!.name).toBe('=SUM(A1)');
    expect(readColours(asCgats(now()))[0]!.lab.l).toBeCloseTo(back!.lab.l, 2);
    expect(readColours(measuredText()).map(({ name }) => name)).toContain('Cobalt');
    expect(readColours('name;L;a;b\nX;50;-3,5;2\n'.replace(',', '.'))[0]).toEqual({ name: 'X', lab: { l: 50, a: -3.5, b: 2 } });
    expect(() => readColours('name,L,a,b\n')).toThrow('no colour in it');
    expect(() => readColours('name,L,a,b\nX,50,0,oops\n')).toThrow('Line 2 has no colour');
    expect(setTargets(now(), [{ name: 'b', lab: { l: 1, a: 2, b: 3 } }, { name: 'nobody', lab: { l: 0, a: 0, b: 0 } }])).toBe(1); // prettier-ignore
    expect(readingsOf(now())[1]!.target).toMatchObject({ kind: 'colour', lab: { l: 1, a: 2, b: 3 } });
  });
});

describe('matching', () => {
  const solved = (layer: Layer, of: readonly Reading[], after: number[]): Solved => ({
    layer,
    reached: of.map(({ id }, i) => ({
      id,
      before: 9,
      after: after[i]!,
      was: { l: 50, a: 9, b: 0 },
      is: { l: 50, a: after[i]!, b: 0 },
      aim: { l: 50, a: 0, b: 0 },
    })),
  });

  it('asks for the readings with targets and those that are held, and writes what is found as one step', async () => {
    const world = open();
    const { now } = world;
    const [a, b, c] = withSpots(world, [0.6, 0.4, 0.4], [0.5, 0.5, 0.5], [0.2, 0.3, 0.4]);
    await match(now, { selected: 'settings' });
    expect(now().notice).toBe('Give a reading a target first.');
    setTarget(now(), a!, { kind: 'reading', reading: b!.id });
    setHold(now(), readingsOf(now())[2]!, true);
    now().select('a');
    const steps = now().history.labels.length;
    const done = match(now, { selected: 'settings' });
    expect(now().solving).toBe('Matching A…');
    const task = asked(world);
    expect(task).toMatchObject({ kind: 'solve', put: null, turned: 'settings' });
    expect(task.wanted).toEqual([{ id: a!.id, aim: { kind: 'reading', reading: b!.id } }, { id: c!.id, aim: { kind: 'hold' } }]); // prettier-ignore
    const layer = structuredClone(task.layer) as Layer;
    Object.assign(layer.what.settings, { hue: 12 });
    world.asked.at(-1)!.answer(solved(layer, [a!, b!, c!], [0.4, 2.2, 0.1]));
    await done;
    expect(now().history.labels.slice(steps)).toEqual(['A matched by hue & saturation']);
    expect(now().committed.layers[0]!.what.settings).toMatchObject({ hue: 12 });
    expect(now().notice).toBe('A: 9.0 → 0.4; B has moved by 2.2: it lies under the same layer, which could have a mask.');
    expect(now().solving).toBeNull();
  });

  it('puts a new layer where a new one goes: into a group, above the selected one; on the region that all is of', async () => {
    const document = {
      ...first,
      layers: [
        {
          ...groupLayer('g', 'G'),
          what: { kind: 'group' as const, settings: { apart: false }, layers: [adjustmentLayer('in', 'exposure', 'In')] },
        },
      ],
      regions: [{ id: 'r', name: 'Vessel', where: { parts: [], refine: [], strength: 1, invert: true } }],
    };
    const world = open({}, document);
    const { now } = world;
    readRegion(now(), document.regions[0]!);
    const [reading] = readingsOf(now());
    setTarget(now(), reading!, { kind: 'colour', lab: { l: 40, a: 0, b: 0 } });
    now().select('g');
    const done = match(now, way('colourBalance'), [reading!.id]);
    const { layer, put } = asked(world);
    expect(layer).toMatchObject({ what: { kind: 'colourBalance', settings: { keepLightness: false } }, where: { link: 'r' } });
    expect(put).toMatchObject([{ op: 'add', path: ['layers', 0, 'what', 'layers', 1] }]);
    world.asked.at(-1)!.answer(solved(layer, [reading!], [3.4]));
    await done;
    const [group] = now().committed.layers;
    expect(group!.what).toMatchObject({ layers: [{ id: 'in' }, { id: layer.id }] });
    expect(now().layerId).toBe(layer.id);
    expect(now().notice).toMatch(/^A: 9\.0 → 3\.4, out of reach so: still /);
    await now().step(-1);
    expect(now().committed.layers[0]!.what).toMatchObject({ layers: [{ id: 'in' }] });
  });

  it('neutralises by a fill that divides, from white on', async () => {
    const world = open();
    const { now } = world;
    const [a] = withSpots(world, [0.6, 0.5, 0.4]);
    const done = match(now, way('dividing'), [a!.id], new Map([[a!.id, { kind: 'neutral' }]]));
    const { layer, wanted } = asked(world);
    expect(layer).toMatchObject({
      name: 'Dividing fill',
      how: { mode: 'divide' },
      what: { kind: 'fill', settings: { colour: [1, 1, 1] } },
    });
    expect(wanted).toEqual([{ id: a!.id, aim: { kind: 'neutral' } }]);
    world.asked.at(-1)!.answer(solved(layer, [a!], [0.5]));
    await done;
    expect(now().history.labels.at(-1)).toBe('A neutralised by dividing fill');
    expect(now().notice).toBe('A: cast 9.0 → 0.5.');
  });

  it('changes nothing when it is stopped, fails, or the edit has gone on', async () => {
    const world = open();
    const { now } = world;
    const [a] = withSpots(world, [0.6, 0.5, 0.4]);
    setTarget(now(), a!, { kind: 'neutral' });
    now().select('a');
    const before = now().committed;
    const stopped = match(now, { selected: 'opacity' });
    stopSolving(now());
    world.asked.at(-1)!.answer(solved(sourceLayer('x', 'fill', 'X', first.photo), [a!], [1]));
    await stopped;
    const failed = match(now, { selected: 'settings' });
    world.asked.at(-1)!.fail(new Error('Nothing of these readings lies on the photograph.'));
    await failed;
    expect(now().notice).toBe('Nothing was matched: Nothing of these readings lies on the photograph.');
    expect(now().committed).toBe(before);
    const late = match(now, { selected: 'settings' });
    renameReading(now(), a!, 'Meanwhile');
    const after = now().committed;
    world.asked.at(-1)!.answer(solved(asked(world).layer, [a!], [1]));
    await late;
    expect(now().committed).toBe(after);
    expect(now().notice).toContain('changed meanwhile');
    expect(now().solving).toBeNull();
    await settled();
  });
});

describe('warnings', () => {
  it('are shown, eased, and put away', async () => {
    const world = open();
    const { now } = world;
    const done = now().findWarnings();
    const warning = { key: 'clipping', words: '5 % of the picture is newly clipped', amount: 0.05, at: null, layerId: null };
    const empty = { key: 'emptyMask b', words: 'The mask of “B” catches nothing (0 %)', amount: 1, at: 'b', layerId: 'b' };
    world.asked.at(-1)!.answer([warning, empty]);
    await done;
    expect(openWarnings(now()).map(({ key }) => key)).toEqual(['clipping', 'emptyMask b']);
    showWarning(now(), warning);
    expect(now().look.clipped).toBe(true);
    showWarning(now(), empty);
    expect(now().layerId).toBe('b');
    const eased = easeWarning(now, warning);
    expect(world.asked.at(-1)!.ask).toEqual({ kind: 'behind', key: 'clipping' });
    world.asked.at(-1)!.answer('a');
    await eased;
    expect(now().committed.layers[0]!.how.opacity).toBe(0.5);
    expect(now().history.labels.at(-1)).toBe('A eased');
    await easeWarning(now, empty);
    expect(now().committed.layers[1]!.on).toBe(false);
    now().set({ dismissed: ['clipping'] });
    expect(openWarnings(now())).toEqual([empty]);
    // What was looked for is thrown away when the edit has gone on.
    const late = now().findWarnings();
    now().commit('More', (draft) => void (draft.strength = 0.5));
    world.asked.at(-1)!.answer([]);
    await late;
    expect(now().warnings).toHaveLength(2);
  });
});
