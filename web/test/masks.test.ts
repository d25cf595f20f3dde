/** What a person does with masks and regions: the history has it in one step, and the rendered masks are what they were said to be. */
import { createRaster, noPictures, withOverview, wholeOf, type Raster } from '@umbo/core/base';
import { lightWords, markDrawn, takeAlong } from '@umbo/core/carry';
import {
  adjustmentLayer,
  emptyDocument,
  faultOf,
  findLayer,
  findMaskOwner,
  freeRegionName,
  onLayer,
  resolveLayers,
  toBeChecked,
  type Layer,
  type Region,
  type UmboDocument,
} from '@umbo/core/document';
import { findPart, innerMask, maskPartKind, renderMask, sampledFrom, type MaskPart } from '@umbo/core/mask';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addLayer, ownSettings, pasteLayers, shareSettings } from '../src/bench/state/actions';
import type { BenchState } from '../src/bench/state/benchState';
import {
  addMaskOf,
  addPart,
  bracketPart,
  cutNarrower,
  deletePart,
  dissolveBracket,
  duplicatePart,
  movePart,
  onPart,
  ownInner,
  renamePart,
  shareMask,
  unlinkMask,
} from '../src/bench/state/masks';
import { makeRegion, newRegion, putRegion, renameRegion, setRole, takeRegionOut, usersOf } from '../src/bench/state/regions';
import { open, photograph, type World } from './world';

const full = { width: photograph.width, height: photograph.height };
const small = { width: 40, height: 30 };
const picture: Raster = createRaster(wholeOf(small));
for (let i = 0; i < 1200; i++) {
  picture.r[i] = (i % 40) * 1600;
  picture.g[i] = Math.floor(i / 40) * 2100;
  picture.b[i] = ((i * 7) % 40) * 1500;
}
const rendered = (document: UmboDocument, id: string): Uint16Array =>
  renderMask(
    resolveLayers(document).find(({ layer }) => layer.id === id)!.where,
    { picture: small, full },
    wholeOf(small),
    picture,
    withOverview(noPictures, picture),
  );

const KINDS = ['hueRange', 'luminosity', 'frameEdge', 'gradient', 'ellipse'] as const;
const part = (kind: MaskPart['kind'], id: string, values: object = {}): MaskPart =>
  ({ ...maskPartKind(kind).create(id, 'add', full), ...values }) as MaskPart;
const layer = (id: string, parts: MaskPart[] = [], rest: Partial<Layer> = {}): Layer => {
  const made = adjustmentLayer(id, 'exposure', id.toUpperCase());
  return { ...made, ...rest, where: { ...made.where, parts } };
};
const bench = (...layers: Layer[]): World => open({}, { ...emptyDocument(photograph), layers });
const steps = ({ history }: BenchState): number => history.labels.length;

const joined = fc
  .array(fc.record({ kind: fc.constantFrom(...KINDS), combine: fc.constantFrom('add', 'cut', 'common'), invert: fc.boolean() }), {
    minLength: 1,
    maxLength: 5,
  })
  .map((parts) => parts.map(({ kind, ...values }, i) => part(kind, `k${i}`, { ...values, ...(i === 0 && { combine: 'add' }) })));

describe('a mask', () => {
  it('shows the same with brackets around one part, as a region, as a link, and as a copy of it; each is one step', () => {
    fc.assert(
      fc.property(joined, fc.nat(4), fc.boolean(), (parts, n, invert) => {
        const given = layer('a', parts);
        const { now, shown } = bench({ ...given, where: { ...given.where, invert, strength: 0.75 } }, layer('b'), layer('c'));
        const wanted = rendered(now().committed, 'a');
        // What is in brackets is rounded to 16 bits before it joins.
        const same = (id = 'a'): void => {
          const made = rendered(shown(), id);
          expect(made.reduce((most, value, i) => Math.max(most, Math.abs(value - wanted[i]!)), 0)).toBeLessThanOrEqual(3);
        };
        now().select('a');
        const chosen = parts[n % parts.length]!;
        bracketPart(now(), chosen.id);
        same();
        dissolveBracket(now(), now().partId!);
        same();
        expect(now().committed.layers[0]!.where.parts).toEqual(given.where.parts);
        shareMask(now(), 'a', 'b', 'link');
        same('b');
        makeRegion(now(), 'a');
        same();
        same('b');
        const region = now().committed.regions![0]!;
        expect(usersOf(now().committed, region.id)).toEqual(['A']);
        unlinkMask(now(), 'b');
        same('b');
        shareMask(now(), 'b', 'c', 'copy');
        same('c');
        expect(steps(now())).toBe(6);
        takeRegionOut(now(), region);
        expect(now().committed.regions ?? []).toEqual([]);
        same(); // its users keep what it showed
      }),
      { numRuns: 40 },
    );
  });

  it('has the rim of a part: nothing where the narrower one is full, and the part where that is nothing', () => {
    for (const kind of KINDS) {
      const { now } = bench(layer('a', [part(kind, 'k')]));
      const before = rendered(now().committed, 'a');
      now().select('a');
      cutNarrower(now(), 'k');
      const rim = rendered(now().committed, 'a');
      expect(rim.every((value, i) => value <= before[i]! + 2)).toBe(true);
      expect(rim).not.toEqual(before);
      const narrower = findPart(findMaskOwner(now().committed, 'a')!.where, now().partId!)!;
      expect(narrower.combine).toBe('cut');
      deletePart(now(), narrower.id);
      expect(rendered(now().committed, 'a')).toEqual(before);
    }
  });

  it('takes in that of another, alive until it is told to be a copy, and never one that waits for it', () => {
    const { now } = bench(layer('a', [part('ellipse', 'e')]), layer('b', [part('gradient', 'g')]));
    now().select('b');
    addMaskOf(now(), 'a');
    const before = rendered(now().committed, 'b');
    now().commit(
      'moved',
      onLayer('a', ({ where }) => void Object.assign(where.parts[0]!, { rx: 30 })),
    );
    const after = rendered(now().committed, 'b');
    expect(after).not.toEqual(before);
    now().select('a');
    addMaskOf(now(), 'b');
    expect(now().notice).toContain('they would wait for each other');
    expect(steps(now())).toBe(2);
    shareMask(now(), 'b', 'a', 'link');
    expect(steps(now())).toBe(2);
    now().select('b');
    const link = now().committed.layers[1]!.where.parts[1]!;
    ownInner(now(), link.id);
    expect(innerMask(findPart(now().committed.layers[1]!.where, link.id)!)!.link).toBeUndefined();
    expect(rendered(now().committed, 'b')).toEqual(after);
    shareMask(now(), 'b', 'a', 'link'); // nothing waits any longer
    expect(now().committed.layers[0]!.where.link).toBe('b');
    now().select('a');
    expect(addPart(now(), 'hueRange')).toBeNull();
    expect(now().notice).toContain('is linked');
  });

  it('has parts that are named, moved within their list, and copied with ids of their own', () => {
    const { now } = bench(layer('a', [part('hueRange', 'h'), part('luminosity', 'c')]));
    now().select('a');
    renamePart(now(), 'c', '  Dull ones ');
    movePart(now(), 'c', 1); // it is the last
    movePart(now(), 'c', -1);
    bracketPart(now(), 'c');
    duplicatePart(now(), now().partId!);
    const { parts } = now().committed.layers[0]!.where;
    expect(parts.map(({ kind }) => kind)).toEqual(['bracket', 'bracket', 'hueRange']);
    const inside = parts.flatMap((one) => innerMask(one)?.parts ?? []);
    expect(inside.map(({ name }) => name)).toEqual(['Dull ones', 'Dull ones']);
    expect(new Set([...parts, ...inside].map(({ id }) => id)).size).toBe(5);
    expect(now().history.labels).toEqual([
      'Name Dull ones',
      'Dull ones earlier on A',
      'Brackets around Dull ones on A',
      expect.stringMatching(/^Copy of /),
    ]);
  });
});

describe('a region', () => {
  it('is put into the selected layers, common with what is there; names are never twice', () => {
    const { now } = bench(layer('a', [part('hueRange', 'h')]), layer('b'), layer('c'));
    newRegion(now());
    const { id } = now().committed.regions![0]!;
    expect(now().layerId).toBe(id);
    expect(addPart(now(), 'ellipse')).not.toBeNull();
    expect(freeRegionName(now().committed, 'Region')).toBe('Region 2');
    now().selectAll(['a', 'b']);
    putRegion(now(), id);
    const [a, b] = now().committed.layers;
    expect([a!.where.parts.at(-1)!.combine, b!.where.parts.at(-1)!.combine]).toEqual(['common', 'add']);
    expect(rendered(now().committed, 'b')).toEqual(rendered({ ...now().committed, layers: [layer('b', [part('ellipse', 'x')])] }, 'b'));
    expect(usersOf(now().committed, id)).toEqual(['A', 'B']);
    renameRegion(now(), id, 'Face');
    setRole(now(), now().committed.regions![0]!, 'faceSkin');
    setRole(now(), now().committed.regions![0]!, null);
    expect(now().committed.regions![0]).toMatchObject({ name: 'Face' });
    expect(now().committed.regions![0]).not.toHaveProperty('role');
    now().select(id);
    addLayer(now(), 'exposure', { sameMask: true });
    expect(now().committed.layers.at(-1)).toMatchObject({ name: 'Exposure on Face', where: { link: id } });
    addLayer(now(), 'curves', { sameMask: true }); // on the same region, not on the layer that is linked to it
    expect(now().committed.layers.at(-1)!.where.link).toBe(id);
  });
});

describe('layers that are copied', () => {
  const region = (id: string, name: string, rest: Partial<Region> = {}): Region => ({ id, name, where: layer('x').where, ...rest });
  const linked = (id: string, link: string): Layer => {
    const made = layer(id);
    return { ...made, where: { ...made.where, link } };
  };
  const edit: UmboDocument = {
    ...emptyDocument(photograph),
    regions: [
      region('face', 'Face', { role: 'faceSkin', where: { ...layer('x').where, parts: [part('ellipse', 'e')] } }),
      region('rim', 'Rim', { where: layer('x', [part('bracket', 'i', { mask: { ...layer('x').where, link: 'face' } })]).where }),
      region('of layer', 'Of a layer', { where: linked('x', 'stays').where }),
      region('unused', 'Unused'),
    ],
    layers: [layer('stays', [part('gradient', 'g')]), linked('a', 'rim'), linked('b', 'a'), linked('c', 'of layer')],
  };

  it('take the regions along that they use, through others as well, and what they showed of what stays behind', () => {
    const { layers, regions } = takeAlong(edit, edit.layers.slice(1));
    expect(regions.map(({ id }) => id)).toEqual(['rim', 'face', 'of layer']);
    expect(layers.map(({ where }) => where.link)).toEqual(['rim', 'a', 'of layer']);
    const there = { ...emptyDocument(photograph), layers, regions };
    for (const id of ['a', 'b', 'c']) expect(rendered(there, id)).toEqual(rendered(edit, id));
    expect(faultOf(there)).toBeNull();
  });

  it('are said to be made in other light where first corrections are far apart, and not otherwise', () => {
    const lamp = { kelvin: 4200, tint: 3 };
    expect(lightWords(lamp, { kelvin: 6500, tint: 2 })).toBe(
      'The light is another: neutral there at 4200 K, tint 3, here at 6500 K, tint 2.',
    );
    expect(lightWords({ kelvin: 6000, tint: 0 }, { kelvin: 6000, tint: 9 })).toContain('tint 9');
    expect(lightWords(lamp, { kelvin: 4350, tint: 1 })).toBeNull();
  });

  it('bring marks to what was drawn, until it is changed, and the regions whose colours they took', () => {
    const likeness = { ...part('likeness', 'l'), sampled: 'face' } as MaskPart;
    const from = { ...edit, layers: [layer('on', [likeness, part('brush', 'b'), part('hueRange', 'h')])] };
    const carried = takeAlong(from, from.layers);
    expect(carried.regions.map(({ id }) => id)).toEqual(['face']);
    markDrawn(carried.layers);
    const { now } = open({}, { ...emptyDocument(photograph), layers: [], regions: [region('own', 'Face', { role: 'faceSkin' })] });
    const { id } = pasteLayers(now(), carried).layers[0]!;
    const parts = (): readonly MaskPart[] => findLayer(now().committed, id)!.where.parts;
    expect(parts().map(({ check }) => check)).toEqual([undefined, true, undefined]);
    expect(sampledFrom(parts()[0]!)).toBe('own');
    now().commit(
      'Renamed',
      onLayer(id, (draft) => void (draft.name = 'Other')),
    );
    expect(toBeChecked(findLayer(now().committed, id)!.where)).toHaveLength(1);
    now().commit(
      'Inverted',
      onPart(id, parts()[1]!.id, (draft) => void (draft.invert = true)),
    );
    expect(toBeChecked(findLayer(now().committed, id)!.where)).toEqual([]);
  });

  it('use what is there already by its role and name, and bring the rest', () => {
    const carried = takeAlong(edit, edit.layers.slice(1, 2));
    const { now } = open({}, { ...emptyDocument(photograph), layers: [], regions: [region('own', 'Face', { role: 'faceSkin' })] });
    const brought = pasteLayers(now(), carried);
    expect(brought.regions.map(({ name }) => name)).toEqual(['Rim']);
    expect(now().committed.regions!.map(({ id }) => id)).toEqual(['own', 'rim']);
    expect(innerMask(now().committed.regions![1]!.where.parts[0]!)!.link).toBe('own');
    expect(steps(now())).toBe(1);
    expect(pasteLayers(now(), carried).regions).toEqual([]); // a second time, it is there itself
    expect(now().committed.layers.map(({ where }) => where.link)).toEqual(['rim', 'rim']);
    expect(faultOf(now().committed)).toBeNull();
  });
});

describe('shared settings', () => {
  it('are those of the other from the beginning, change together, and part again', () => {
    const { now } = bench(layer('a'), layer('b'), layer('c'));
    const exposure = (id: string, ev: number): void =>
      void now().commit(
        'x',
        onLayer(id, ({ what }) => void Object.assign(what.settings, { stops: ev })),
      );
    const all = (): unknown[] => now().committed.layers.map(({ what }) => (what.settings as { stops: number }).stops);
    exposure('b', 1);
    shareSettings(now(), 'a', 'b');
    expect(all()).toEqual([1, 1, 0]);
    shareSettings(now(), 'c', 'a');
    exposure('c', 2);
    expect(all()).toEqual([2, 2, 2]);
    ownSettings(now(), 'b');
    exposure('b', 3);
    exposure('a', -1);
    expect(all()).toEqual([-1, 3, -1]);
  });
});
