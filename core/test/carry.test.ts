/** What goes from one photograph to others: what comes of it, told by formulas and by counting, and that nothing done there is lost. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createRaster, noPictures, wholeOf, type Raster } from '@umbo/core/base';
import {
  answeredWords,
  asFound,
  carriedFrom,
  carriedHere,
  carryChanges,
  carryInto,
  cameWith,
  clippingWords,
  factsOf,
  markDrawn,
  maskWords,
  sampleAnew,
  sampleHere,
  foundHereIn,
  correctionFor,
  type CarryHow,
  type OneCarry,
  type FoundHere,
  type CorrectionWish,
} from '@umbo/core/carry';
import {
  adjustmentLayer,
  after,
  eachLayer,
  emptyDocument,
  everywhere,
  faultOf,
  findLayer,
  fitDocument,
  groupLayer,
  removeLayers,
  onLayer,
  scaleOf,
  toBeChecked,
  type FoundBy,
  type FoundBySolver,
  type Layer,
  type Reading,
  type Region,
  type UmboDocument,
} from '@umbo/core/document';
import { noGeometry } from '@umbo/core/geometry';
import { findAnew, type Places } from '@umbo/core/solve';
import { maskPartKind, type EllipsePart, type FoundPart, type LikenessPart } from '@umbo/core/mask';

const size = { width: 60, height: 40 };
const scale = { picture: size, full: size };
const ALL = { layers: 'all', regions: false, readings: false, geometry: false } as const;

const exposure = (id: string, stops: number, more: Partial<Layer> = {}): Layer => {
  const made = adjustmentLayer(id, 'exposure', id.toUpperCase());
  Object.assign(made.what.settings, { stops });
  return { ...made, ...more };
};
const group = (id: string, ...layers: Layer[]): Layer => {
  const made = groupLayer(id, id.toUpperCase());
  (made.what as { layers: Layer[] }).layers.push(...layers);
  return made;
};
const ellipse = (id: string, values: Partial<EllipsePart> = {}): EllipsePart => ({
  ...maskPartKind<EllipsePart>('ellipse').create(id, 'add', size),
  ...values,
});
const within = (...parts: ReturnType<typeof ellipse>[]): Layer['where'] => ({ ...everywhere(), parts });
const edit = (layers: Layer[], more: Partial<UmboDocument> = {}): UmboDocument => ({ ...emptyDocument(size), ...more, layers });
const stopsOf = (document: UmboDocument, id: string): number | undefined =>
  (findLayer(document, id)?.what.settings as { stops: number } | undefined)?.stops;

/** A carry of all of a source, or of what is said of it. */
const carryOf = (by: string, carried: UmboDocument, settled: FoundHere = {}, source = carried): OneCarry => ({
  by,
  source,
  carried,
  settled,
});

/** Of one grey, 0..1; or of a function of the place. */
function picture(value: (x: number, y: number) => number): Raster {
  const raster = createRaster(wholeOf(size));
  for (let i = 0; i < raster.r.length; i++) {
    const v = Math.round(value(i % size.width, Math.floor(i / size.width)) * 65535);
    raster.r[i] = raster.g[i] = raster.b[i] = v;
  }
  return raster;
}

const face: Region = { id: 'face', name: 'Face', role: 'faceSkin', where: within(ellipse('e')) };

describe('what is carried', () => {
  const spare: Region = { id: 'spare', name: 'Spare', where: within(ellipse('s')) };
  const reading: Reading = { id: 'r', letter: 'A', name: 'Cheek', where: { ...everywhere(), link: 'face' } };
  const linked = exposure('a', 1, { where: { ...everywhere(), link: 'face' } });
  const source = edit([linked, group('g', exposure('b', 0.5)), exposure('c', 0.25)], {
    regions: [face, spare],
    readings: [reading],
    strength: 0.5,
  });

  it('is what was chosen, with what it cannot do without', () => {
    const one = carriedFrom(source, { ...ALL, layers: ['a', 'b'] });
    expect([one.layers.map(({ id }) => id), one.regions!.map(({ id }) => id), one.readings, one.geometry, one.strength]).toEqual([
      ['a', 'b'],
      ['face'],
      undefined,
      undefined,
      undefined,
    ]);
    const whole = carriedFrom(source, { layers: 'all', regions: true, readings: true, geometry: true });
    expect(whole).toMatchObject({
      regions: [{ id: 'face' }, { id: 'spare' }],
      readings: [{ id: 'r' }],
      geometry: noGeometry,
      strength: 0.5,
    });
    expect(carriedFrom(source, { ...ALL, layers: [], readings: true }).regions!.map(({ id }) => id)).toEqual(['face']);
  });

  it('lies beside what is there, takes the place of what came before, or of all; never two with one id, no link broken', () => {
    const carried = carriedFrom(source, { layers: 'all', regions: false, readings: true, geometry: true });
    const own = exposure('own', 2);
    const ownFace: Region = { id: 'other', name: 'Face', role: 'faceSkin', where: within(ellipse('o')) };
    let there = edit([own], { regions: [ownFace], geometry: { ...noGeometry, quarters: 1 } });
    const carry = (how: CarryHow): void => {
      there = carryInto(there, carried, how, 'c');
      expect(faultOf(there)).toBeNull();
      const ids = Array.from(eachLayer(there.layers), ({ id }) => id);
      expect(new Set(ids).size).toBe(ids.length);
    };
    carry('add');
    expect(there.layers.map(({ id }) => id)).toEqual(['own', 'a', 'g', 'c']);
    // By role and name it is there already: what comes is linked to that.
    expect([there.regions, there.layers[1]!.where.link, there.readings![0]!.where!.link]).toEqual([[ownFace], 'other', 'other']);
    expect([there.geometry, there.strength]).toEqual([undefined, undefined]);
    carry('add');
    expect(Array.from(eachLayer(there.layers), ({ id }) => id)).toEqual(['own', 'a', 'g', 'b', 'c', 'a-2', 'g-2', 'b-2', 'c-2']);
    expect(there.readings).toHaveLength(1);
    there = after(there, removeLayers(['a', 'g', 'c']));
    there = after(
      there,
      onLayer('b-2', ({ what }) => void Object.assign(what.settings, { stops: 4 })),
    );
    expect(carriedHere(there, carried)).toEqual(new Map([...['a', 'g', 'b', 'c'].map((id) => [id, `${id}-2`] as const), ['face', 'other']])); // prettier-ignore
    carry('replace');
    expect(Array.from(eachLayer(there.layers), ({ id }) => id)).toEqual(['own', 'a-2', 'g-2', 'b-2', 'c-2']);
    expect(stopsOf(there, 'b-2')).toBe(0.5);
    carry('whole');
    expect([there.layers.map(({ id }) => id), there.strength, there.regions]).toEqual([['a', 'g', 'c'], 0.5, [ownFace]]);
  });

  it('leaves no link broken, and no id twice, where a group was taken apart or a region shows what a layer did', () => {
    const carried = carriedFrom(source, ALL);
    const begun = carryInto(edit([exposure('own', 2)]), carried, 'add', 'c');
    // What was in the group stands by itself now, and another layer and a region are linked to what is about to go.
    const apart = after(begun, (draft) => {
      const inside = findLayer(draft, 'g')!.what as { layers: Layer[] };
      draft.layers.push(...inside.layers.splice(0), exposure('z', 1, { where: { ...everywhere(), link: 'c' } }));
      inside.layers.push(exposure('extra', 3, { where: within(ellipse('x')) }));
      draft.layers.push(exposure('y', 1, { where: { ...everywhere(), link: 'extra' } }));
      draft.regions!.push({ id: 'shown', name: 'Shown', where: { ...everywhere(), link: 'own' } });
    });
    for (const how of ['replace', 'whole', 'add'] as const) {
      const next = carryInto(apart, carried, how, 'd');
      expect(faultOf(next)).toBeNull();
      const ids = Array.from(eachLayer(next.layers), ({ id }) => id);
      expect(new Set(ids).size).toBe(ids.length);
    }
    const replaced = carryInto(apart, carried, 'replace', 'd');
    expect(findLayer(replaced, 'z')!.where.link).toBe('c');
    // What it showed of a layer that went, it keeps.
    expect(findLayer(replaced, 'y')!.where.parts).toHaveLength(1);
    expect(stopsOf(replaced, 'b')).toBe(0.5);
    expect(faultOf(carryChanges(apart, [carryOf('c', carried)], carryOf('d', carried)).document)).toBeNull();
    expect(carryChanges(apart, [carryOf('c', carried)], carryOf('d', carried)).document).toEqual(apart);
  });

  it('keeps ids within their length, however often it is carried on', () => {
    let from = edit([exposure('0123456789012345678901234567890123456789', 1)]);
    for (let i = 0; i < 6; i++) {
      const once = carryInto(from, carriedFrom(from, ALL), 'add', `c${i}`);
      expect(new Set(once.layers.map(({ id }) => id)).size).toBe(once.layers.length);
      expect(Math.max(...once.layers.map(({ id }) => id.length))).toBeLessThanOrEqual(40);
      from = edit([once.layers.at(-1)!]);
    }
  });

  it('takes the colours of regions anew, as the photograph here has them', () => {
    const likeness: LikenessPart = {
      ...maskPartKind<LikenessPart>('likeness').create('l', 'add', size),
      colours: [{ colour: [1, 0, 0], away: false }],
      sampled: 'face',
    };
    const document = edit([exposure('a', 1, { where: { ...everywhere(), parts: [likeness] } })], { regions: [face] });
    const made = sampleAnew(
      document,
      scale,
      picture(() => 0.5),
      noPictures,
      ['a'],
    );
    const [part] = made.layers[0]!.where.parts as LikenessPart[];
    expect(part!.colours.length).toBeGreaterThan(0);
    for (const { colour } of part!.colours) for (const v of colour) expect(v).toBeCloseTo(0.5, 2);
    expect(document.layers[0]!.where.parts[0]).toBe(likeness);
  });
});

describe('settings that are found anew', () => {
  const grey = picture((x) => 0.2 + 0.6 * (x / size.width));
  const places: Places = {
    reading: () => ({ scale, area: grey.area, photograph: grey, pictures: noPictures }),
    whole: () => ({ scale, area: grey.area, photograph: grey, pictures: noPictures }),
  };
  const whole = (more: Partial<Reading> = {}): Reading => ({ id: 'r', letter: 'A', name: 'All', where: everywhere(), ...more });
  const solvedFor = (l: number): FoundBy => ({
    kind: 'solver',
    turned: 'settings',
    readings: [{ id: 'r', aim: { kind: 'colour', lab: { l, a: 0, b: 0 } } }],
  });
  const found = (layer: Layer, readings: Reading[] = [whole()]) =>
    findAnew(edit([exposure('own', 0.5), layer], { readings }), [layer.id], places, () => undefined);

  it('reach what they are found for, say what they cannot reach, and stay where nothing is there to be found for', () => {
    const near = found(exposure('x', 0, { foundBy: solvedFor(60) }));
    expect(near.answered[0]!.reached[0]!.after).toBeLessThan(0.2);
    expect(answeredWords(near.answered)).toEqual([]);
    expect(stopsOf(near.document, 'own')).toBe(0.5);
    const coloured: FoundBy = {
      ...solvedFor(60),
      readings: [{ id: 'r', aim: { kind: 'colour', lab: { l: 60, a: 40, b: 0 } } }],
    } as FoundBy;
    expect(answeredWords(found(exposure('x', 0, { foundBy: coloured })).answered)[0]).toMatch(
      /^All is out of reach: still \d+\.\d ΔE00 off$/,
    );
    const held = [{ id: 'r', aim: { kind: 'hold' } }, ...(solvedFor(80) as FoundBySolver).readings.map((one) => ({ ...one, id: 's' }))];
    const both = found(exposure('x', 0, { foundBy: { ...solvedFor(80), readings: held } as FoundBy }), [
      whole(),
      whole({ id: 's', letter: 'B', name: 'Also' }),
    ]);
    expect(answeredWords(both.answered).some((words) => /^All was to stay, and has moved by/.test(words))).toBe(true);
    const gone = found(exposure('x', 1, { foundBy: solvedFor(60) }), [whole({ id: 'another' })]);
    expect([gone.answered, stopsOf(gone.document, 'x')]).toEqual([[], 1]);
    const invert = found({ ...adjustmentLayer('x', 'invert', 'Turned'), foundBy: solvedFor(60) });
    expect(answeredWords(invert.answered)).toEqual(['Turned stays as it was there: “Turned” has no settings that could be solved for.']);
  });

  it('are measured of what the layer’s mask lets in of the picture below it', () => {
    const evened = { ...adjustmentLayer('x', 'evenness', 'Even'), foundBy: { kind: 'measurement', measurement: 'ownColours' } as const };
    const { document, answered } = found(evened);
    expect(answered).toMatchObject([{ layerId: 'x', reached: [], problem: null }]);
    const mean = grey.r.reduce((sum, v) => sum + v, 0) / grey.r.length / 65535;
    // Below it half a stop lies on the photograph.
    expect((findLayer(document, 'x')!.what.settings as { middle: number }).middle).toBeGreaterThan(mean);
    const unknown = found({ ...evened, foundBy: { kind: 'measurement', measurement: 'nothing' } });
    expect(answeredWords(unknown.answered)[0]).toMatch(/There is no measurement/);
  });

  it('bring a region to a colour wherever there is one of its role, with a layer that is known again', () => {
    const wish: CorrectionWish = { role: 'faceSkin', name: 'Face skin', lab: { l: 60, a: 0, b: 0 }, tolerance: 1, by: 'exposure' };
    const { document: made, layerId } = correctionFor(wish);
    const named: Region = { ...face, id: 'mine', name: 'Ada’s face' };
    let there = edit([], { regions: [named] });
    for (let i = 0; i < 2; i++) there = carryInto(there, fitDocument(carriedFrom(made, ALL), size), 'replace', `c${i}`);
    expect(faultOf(there)).toBeNull();
    expect([there.layers.length, there.layers[0]!.where.link, there.regions]).toEqual([1, 'mine', [named]]);
    const solved = findAnew(there, [layerId], places, () => undefined);
    expect(solved.answered[0]!.reached[0]!.after).toBeLessThan(1);
  });
});

describe('what changed since', () => {
  /** Settings, opacity and what is switched on of three layers, one in a group. */
  type State = readonly { readonly stops: number; readonly opacity: number; readonly on: boolean }[];
  const IDS = ['a', 'b', 'c'] as const;
  const stateOf = (state: State): UmboDocument => {
    const [a, b, c] = state.map(({ stops, opacity, on }, i) => {
      const made = exposure(IDS[i]!, stops, { on, where: i === 0 ? within(ellipse('p')) : everywhere() });
      made.how.opacity = opacity;
      return made;
    }) as [Layer, Layer, Layer];
    return edit([a, group('g', b), c]);
  };
  const values = fc.record({
    stops: fc.constantFrom(-1, 0, 0.5, 1),
    opacity: fc.constantFrom(0.25, 0.5, 1),
    on: fc.boolean(),
  });
  const state = fc.tuple(values, values, values);
  const KEYS = ['stops', 'opacity', 'on'] as const;

  it('comes to eight photographs, each with its own, and what was changed on two of them stays', () => {
    const locally = fc.array(fc.record({ layer: fc.constantFrom(0, 1, 2), key: fc.constantFrom(...KEYS), to: values }), { maxLength: 4 });
    fc.assert(
      fc.property(state, state, locally, locally, (first, second, here, elsewhere) => {
        const [before, now] = [stateOf(first), stateOf(second)].map((document) => carriedFrom(document, ALL)) as [
          UmboDocument,
          UmboDocument,
        ];
        for (let i = 0; i < 8; i++) {
          const photo = { width: 60 + 20 * i, height: 40 + 10 * i };
          const changes = i === 2 ? here : i === 5 ? elsewhere : [];
          const own = exposure(`own-${i}`, i);
          const begun = carryInto({ ...emptyDocument(photo), layers: [own] }, fitDocument(before, photo), 'add', 'c');
          const wanted = second.map((one) => ({ ...one }));
          let there = begun;
          for (const { layer, key, to } of changes) {
            // What is as it was is no change.
            Object.assign(wanted[layer]!, { [key]: to[key] === first[layer]![key] ? second[layer]![key] : to[key] });
            there = after(
              there,
              onLayer(IDS[layer]!, (draft) => {
                if (key === 'stops') Object.assign(draft.what.settings, { stops: to.stops });
                else if (key === 'opacity') draft.how.opacity = to.opacity;
                else draft.on = to.on;
              }),
            );
          }
          const { document } = carryChanges(there, [carryOf('c', fitDocument(before, photo))], carryOf('d', fitDocument(now, photo)));
          expect(faultOf(document)).toBeNull();
          const got = IDS.map((id) => findLayer(document, id)!).map(({ what, how, on }) => ({
            stops: (what.settings as { stops: number }).stops,
            opacity: how.opacity,
            on,
          }));
          expect(got).toEqual(wanted);
          expect(document.layers[0]).toEqual(own);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('finds anew what was found there, and keeps what somebody changed there since', () => {
    const local = fc.option(fc.record({ layer: fc.constantFrom(0, 1, 2), stops: fc.constantFrom(-2, 3) }));
    fc.assert(
      fc.property(state, state, fc.array(local, { minLength: 8, maxLength: 8 }), (first, second, locals) => {
        const [before, now] = [first, second].map((one) => carriedFrom(stateOf(one), ALL)) as [UmboDocument, UmboDocument];
        for (const [i, changed] of locals.entries()) {
          // What a solver finds is another on each photograph, and for each version.
          const foundThen = 4 + i / 8;
          const set = (id: string, stops: number) => onLayer(id, (draft) => void Object.assign(draft.what.settings, { stops }));
          const came = after(carryInto(emptyDocument(size), before, 'add', 'c'), set('a', foundThen));
          const settled = foundHereIn(came, ['a'], carriedHere(came, before));
          const there = changed ? after(came, set(IDS[changed.layer]!, changed.stops)) : came;
          const { document, conflicts } = carryChanges(there, [carryOf('c', before, settled)], carryOf('d', now));
          const anew = asFound(document, ['a'], carriedHere(document, now), settled);
          expect(anew).toEqual(changed?.layer === 0 ? [] : ['a']);
          const wanted: number[] = second.map(({ stops }) => stops);
          // Nobody changed what was found: the treatment has no say in it, the solver has.
          wanted[0] = foundThen;
          if (changed) wanted[changed.layer] = changed.stops;
          const [, b, c] = [0, 1, 2].map((layer) => changed?.layer === layer && layer > 0 && first[layer]!.stops !== second[layer]!.stops);
          expect(conflicts).toEqual([...(b ? ['B'] : []), ...(c ? ['C'] : [])]);
          expect(IDS.map((id) => stopsOf(document, id))).toEqual(wanted);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('knows an opacity that was found anew from one that somebody set', () => {
    const solved = (opacity: number): Layer => {
      const made = exposure('a', 1, { foundBy: { kind: 'solver', turned: 'opacity', readings: [{ id: 'r', aim: { kind: 'neutral' } }] } });
      made.how.opacity = opacity;
      return made;
    };
    const before = edit([solved(1)]);
    const found = after(
      carryInto(edit([]), before, 'add', 'c'),
      onLayer('a', ({ how }) => void (how.opacity = 0.6)),
    );
    const settled = foundHereIn(found, ['a'], carriedHere(found, before));
    const next = (there: UmboDocument) => carryChanges(there, [carryOf('c', before, settled)], carryOf('d', edit([solved(0.5)])));
    expect(next(found)).toMatchObject({ document: found, conflicts: [] });
    const byHand = after(
      found,
      onLayer('a', ({ how }) => void (how.opacity = 0.2)),
    );
    expect(next(byHand).document.layers[0]!.how.opacity).toBe(0.2);
  });

  it('adds and takes out, leaves out what was taken out there, and says what was changed on both sides', () => {
    const before = edit([exposure('a', 1), exposure('b', 1), exposure('c', 1)]);
    const now = edit([exposure('a', 2), exposure('new', 3), exposure('c', 4)]);
    const there = carryInto(edit([exposure('own', 0)]), before, 'add', 'c');
    const both = (document: UmboDocument): unknown => {
      const { document: next, conflicts } = carryChanges(document, [carryOf('c', before)], carryOf('d', now));
      return [Array.from(eachLayer(next.layers), ({ id }) => `${id} ${stopsOf(next, id)}`), conflicts];
    };
    expect(both(there)).toEqual([['own 0', 'a 2', 'new 3', 'c 4'], []]);
    expect(both(after(there, removeLayers(['c'])))).toEqual([['own 0', 'a 2', 'new 3'], []]);
    const turned = after(
      there,
      onLayer('a', ({ what }) => void Object.assign(what.settings, { stops: -1 })),
    );
    expect(both(turned)).toEqual([['own 0', 'a -1', 'new 3', 'c 4'], ['A']]);
    expect(carryChanges(there, [carryOf('c', before)], carryOf('d', before)).document).toEqual(there);
  });
});

describe('what came in portions', () => {
  const NAMES = ['a', 'b', 'c', 'd'] as const;
  const SOURCES = ['s', 't'] as const;
  const chosen = fc.subarray([...NAMES], { minLength: 1 });
  const layer = fc.constantFrom(...NAMES);
  const source = fc.constantFrom(...SOURCES);
  /** What happens to two sources, to what comes from them, and by hand where it came to. Each value is another. */
  const action = fc.oneof(
    { weight: 3, arbitrary: fc.record({ does: fc.constant('changes' as const), source, chosen }) },
    { weight: 1, arbitrary: fc.record({ does: fc.constant('replace' as const), source, chosen }) },
    { weight: 3, arbitrary: fc.record({ does: fc.constant('source' as const), source, layer }) },
    { weight: 2, arbitrary: fc.record({ does: fc.constant('hand' as const), source, layer }) },
    { weight: 1, arbitrary: fc.record({ does: fc.constantFrom('take out' as const, 'gone' as const), source, layer }) },
  );

  it('of whatever layers each time: what was not chosen and what a person did stays, all else is as it is at the source', () => {
    fc.assert(
      fc.property(fc.array(action, { maxLength: 14 }), (actions) => {
        let value = 0;
        const next = (): number => (value += 1 / 64);
        const sources = new Map(SOURCES.map((id) => [id, edit(NAMES.map((name) => exposure(`${id}-${name}`, next())))]));
        const earlier = new Map<string, OneCarry[]>(SOURCES.map((id) => [id, []]));
        let there = edit([exposure('own', 0)]);
        /** What each layer is to be there, and what it was when it came last; null: a person took it out, or it went with its original. */
        const wanted = new Map<string, { is: number; came: number } | null>();
        for (const one of actions) {
          const from = sources.get(one.source)!;
          if (!('chosen' in one)) {
            const id = `${one.source}-${one.layer}`;
            const set = onLayer(id, ({ what }) => void Object.assign(what.settings, { stops: next() }));
            if (one.does === 'source') sources.set(one.source, after(from, set));
            else if (one.does === 'gone') sources.set(one.source, after(from, removeLayers([id])));
            else if (wanted.get(id)) {
              there = after(there, one.does === 'hand' ? set : removeLayers([id]));
              if (one.does === 'hand') wanted.get(id)!.is = value;
              else wanted.set(id, null);
            }
            continue;
          }
          const layers = one.chosen.map((name) => `${one.source}-${name}`).filter((id) => findLayer(from, id));
          const by = `${one.source}${earlier.get(one.source)!.length}`;
          const now = carryOf(by, carriedFrom(from, { ...ALL, layers }), {}, from);
          const asked: string[] = [];
          const come = (id: string): void => void wanted.set(id, { is: stopsOf(from, id)!, came: stopsOf(from, id)! });
          if (one.does === 'replace') {
            there = carryInto(there, now.carried, 'replace', by);
            layers.forEach(come);
          } else {
            const { document, conflicts } = carryChanges(there, earlier.get(one.source)!, now);
            there = document;
            for (const id of layers) {
              const was = wanted.get(id);
              const is = stopsOf(from, id)!;
              if (was === undefined || (was && was.is === was.came)) come(id);
              else if (was) {
                if (is !== was.came) asked.push(id.toUpperCase());
                was.came = is;
              }
            }
            // What is gone at the source goes where all of the source was chosen, unless it was changed here.
            for (const name of layers.length === from.layers.length ? NAMES : []) {
              const [id, was] = [`${one.source}-${name}`, wanted.get(`${one.source}-${name}`)];
              if (findLayer(from, id) || !was) continue;
              if (was.is === was.came) wanted.set(id, null);
              else asked.push(id.toUpperCase());
            }
            expect(conflicts.toSorted()).toEqual(asked.toSorted());
          }
          earlier.get(one.source)!.push(now);
          expect(faultOf(there)).toBeNull();
          const is = Object.fromEntries(there.layers.slice(1).map(({ id }) => [id, stopsOf(there, id)]));
          expect(is).toEqual(Object.fromEntries([...wanted].flatMap(([id, was]) => (was ? [[id, was.is]] : []))));
        }
      }),
      { numRuns: 300 },
    );
  });

  it('comes in the order and as strong as at the source, unless those were changed here', () => {
    const of = (document: UmboDocument, by: string): OneCarry => carryOf(by, carriedFrom(document, ALL), {}, document);
    const before = edit([exposure('a', 1), exposure('b', 1), exposure('c', 1)], { strength: 0.5 });
    const now = { ...before, layers: [before.layers[2]!, before.layers[0]!, before.layers[1]!], strength: 0.8 };
    const came = carryInto(edit([]), of(before, '1').carried, 'add', '1');
    const next = (there: UmboDocument) => carryChanges(there, [of(before, '1')], of(now, '2')).document;
    expect([next(came).layers.map(({ id }) => id), next(came).strength]).toEqual([['c', 'a', 'b'], 0.8]);
    const own = { ...came, layers: [came.layers[1]!, came.layers[0]!, came.layers[2]!], strength: 0.4 };
    expect([next(own).layers.map(({ id }) => id), next(own).strength]).toEqual([['b', 'a', 'c'], 0.4]);
  });

  it('stays as it is where nothing is known of how it came, and that is said', () => {
    const there = edit([exposure('pasted', -1, { origin: 'a' })]);
    const now = edit([exposure('a', 2)], { readings: [] });
    expect(carryChanges(there, [], carryOf('1', now))).toMatchObject({ document: there, conflicts: ['PASTED'] });
  });

  it('reaches parts whose colours were taken anew here, and leaves colours that somebody took by hand', () => {
    const likeness = (tolerance: number, colour: number): UmboDocument => {
      const part = maskPartKind<LikenessPart>('likeness').create('p', 'add', size);
      const colours = [{ colour: [colour, 0.4, 0.3] as [number, number, number], away: false }];
      return edit([exposure('l', 1, { where: { ...everywhere(), parts: [{ ...part, colours, sampled: 'face', tolerance }] } })], {
        regions: [{ id: 'face', name: 'Face', role: 'faceSkin', where: within(ellipse('f')) }],
      });
    };
    const partIn = (document: UmboDocument): LikenessPart => document.layers[0]!.where.parts[0] as LikenessPart;
    const coloured = (document: UmboDocument, red: number): UmboDocument =>
      after(document, (draft) => void (partIn(draft).colours[0]!.colour[0] = red));
    const first = carryInto(edit([]), likeness(5, 0.5), 'replace', '1');
    const here = (document: UmboDocument) => carriedHere(document, likeness(5, 0.5));
    const { document: there, settled } = sampleHere(first, coloured(first, 0.7), likeness(5, 0.5), here(first), {});
    const next = (document: UmboDocument) =>
      carryChanges(document, [carryOf('1', likeness(5, 0.5), settled)], carryOf('2', likeness(9, 0.2)));
    const { document, conflicts } = next(there);
    expect([partIn(document).tolerance, partIn(document).colours[0]!.colour[0], conflicts]).toEqual([9, 0.7, []]);
    const byHand = next(coloured(there, 0.1)).document;
    const again = sampleHere(byHand, coloured(byHand, 0.6), likeness(9, 0.2), here(byHand), settled);
    expect([partIn(again.document).tolerance, partIn(again.document).colours[0]!.colour[0], again.settled]).toEqual([9, 0.1, settled]);
  });
});

describe('the report', () => {
  const half = exposure('half', 1, { where: within(ellipse('p', { x: 30, y: 20, rx: 20, ry: 12, soft: 0 })) });

  it('says how much masks cover, by the area of an ellipse', () => {
    const document = edit([half, exposure('all', 0), exposure('link', 0, { where: { ...everywhere(), link: 'half' } })]);
    const { shares } = factsOf(
      document,
      scale,
      picture(() => 0.5),
      noPictures,
      ['half', 'all', 'link'],
    );
    expect(Object.keys(shares)).toEqual(['half']);
    expect(shares.half).toBeCloseTo((Math.PI * 20 * 12) / (60 * 40), 2);
  });

  it('counts what newly clips as one counts by hand, only within the crop', () => {
    // One stop doubles linear light: what is above half of it clips; the sRGB curve has 0.7354 there (IEC 61966-2-1).
    const steps = picture((x) => (x < 20 ? 0.77 : x < 40 ? 0.5 : 0.7));
    const document = edit([exposure('up', 1)]);
    expect(factsOf(document, scale, steps, noPictures, []).clipped).toBeCloseTo(20 / 60, 5);
    const cut = { ...document, geometry: { ...noGeometry, crop: { x: 10, y: 0, width: 20, height: 40 } } };
    expect(factsOf(cut, scaleOf(cut, size), steps, noPictures, []).clipped).toBeCloseTo(10 / 20, 5);
    expect(factsOf(edit([]), scale, steps, noPictures, []).clipped).toBe(0);
  });

  it('speaks of masks that catch nothing, twice as much, half, or are to be checked, and is silent of others', () => {
    const words = (before: number | null, now: number, owner: Layer | Region = half): string | null =>
      maskWords(owner, 'here', before, now);
    expect(maskWords(undefined, 'here', 0.1, 0.1)).toBe('is gone');
    expect([words(0.1, 0), words(0, 0), words(null, 0)]).toEqual(['catches nothing', null, 'catches nothing']);
    expect([words(0.1, 0.21), words(0.1, 0.19), words(0.1, 0.049), words(0.1, 0.051)]).toEqual([
      '2.1 times as much',
      null,
      'less than half as much',
      null,
    ]);
    const drawn = structuredClone(half);
    markDrawn([drawn]);
    expect([toBeChecked(drawn.where).length, words(0.1, 0.1, drawn)]).toEqual([1, 'drawn: check']);
    const found = (of: string, sure: FoundPart['sure']): Region => {
      const part = { ...maskPartKind<FoundPart>('found').create('f', 'add', size), photograph: 'm', of, by: 'x', sure };
      return { id: 'r', name: 'R', where: { ...everywhere(), parts: [part] } };
    };
    expect([words(0.1, 0.1, found('here', 'sure')), words(0.1, 0.1, found('there', 'sure'))]).toEqual([null, 'not found here']);
    expect(words(0.1, 0.1, found('here', 'check the edge'))).toBe('check the edge');
  });

  it('speaks of clipping that came along, and is silent of what was there before', () => {
    expect(clippingWords({ there: 0, was: 0.1, now: 0.1 })).toBeNull();
    expect(clippingWords({ there: 0.01, was: 0, now: 0.03 })).toBe('3.0 % more of the picture is clipped; there it is 1.0 %.');
  });

  it('lays what is here beside what is there, mask by mask', () => {
    const document = edit([{ ...half, id: 'half-2' }]);
    const facts = { shares: { half: 0.3 }, clipped: 0, light: { kelvin: 6500, tint: 0 } };
    const now = { shares: { 'half-2': 0.31 }, clipped: 0.05, light: { kelvin: 4200, tint: 0 } };
    const { masks, clipped, words } = cameWith(document, 'here', new Map([['half', 'half-2'], ['gone', 'x']]), facts, now, 0.01); // prettier-ignore
    expect(masks).toEqual([{ id: 'half-2', name: 'HALF', before: 0.3, now: 0.31, words: null }]);
    expect(clipped).toEqual({ there: 0, was: 0.01, now: 0.05 });
    expect(words).toHaveLength(2);
  });
});
