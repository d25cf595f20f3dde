/** Regions of an edit: live in masks, carried, joined when two windows changed them; and what was found, as it is kept. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createRaster, noPictures, wholeOf, type FindPicture } from '@umbo/core/base';
import {
  addRegions,
  adjustmentLayer,
  edit,
  emptyDocument,
  faultOf,
  findMaskOwner,
  fitDocument,
  freeLetter,
  linksOf,
  maskDocument,
  mergeDocuments,
  onMaskOwner,
  removeLayers,
  removeRegion,
  replaceWith,
  resolveLayers,
  type Layer,
  type Reading,
  type Recipe,
  type Region,
  type UmboDocument,
} from '@umbo/core/document';
import { maskPartKind, renderMask, type BracketPart, type FoundPart, type Mask, type MaskPart } from '@umbo/core/mask';
import { picturesNeeded } from '@umbo/core/render';

const size = { width: 40, height: 30 };
const mask = (parts: MaskPart[] = [], rest: Partial<Mask> = {}): Mask => ({ parts, refine: [], strength: 1, invert: false, ...rest });
const ellipse = (id: string): MaskPart => maskPartKind('ellipse').create(id, 'add', size);
const link = (to: string): MaskPart => ({
  ...maskPartKind<BracketPart>('bracket').create(`to-${to}`, 'add', size),
  mask: mask([], { link: to }),
});
const layer = (id: string, where: Mask): Layer => ({ ...adjustmentLayer(id, 'exposure', id.toUpperCase()), where });
const region = (id: string, where: Mask): Region => ({ id, name: `Region ${id}`, where });
const of = (layers: Layer[], regions: Region[]): UmboDocument => ({ ...emptyDocument(size), layers, regions });
const maskIn = (document: UmboDocument, id: string): Mask => resolveLayers(document).find((one) => one.layer.id === id)!.where;
const found = (values: Partial<FoundPart>): FoundPart => ({ ...maskPartKind<FoundPart>('found').create('f', 'add', size), ...values });

describe('regions', () => {
  const hair = region('hair', mask([ellipse('e')], { refine: [{ kind: 'feather', radius: 3 }] }));
  const document = of([layer('a', mask([link('hair')])), layer('b', mask([], { link: 'hair', invert: true }))], [hair]);

  it('are in every mask that is linked to them, whole or in a part, and change nothing by themselves', () => {
    expect(maskIn(document, 'b')).toEqual({ ...hair.where, invert: true });
    expect((maskIn(document, 'a').parts[0] as BracketPart).mask.parts).toBe(hair.where.parts);
    const grown = edit(
      document,
      onMaskOwner('hair', ({ where }) => void where.parts.push(ellipse('second'))),
    ).document;
    expect([maskIn(grown, 'b').parts.length, (maskIn(grown, 'a').parts[0] as BracketPart).mask.parts.length]).toEqual([2, 2]);
    // As a layer it never acts, but its mask can be looked at, and be a picture.
    expect(resolveLayers(document).at(-1)!.layer.on).toBe(false);
    expect(maskDocument(document, 'hair')!.layers[1]!.where).toEqual(hair.where);
  });

  it('leave copies when they go, and come along with all of an edit, to a photograph of any size', () => {
    const gone = edit(document, removeRegion('hair')).document;
    expect([faultOf(gone), gone.regions]).toEqual([null, undefined]);
    expect(maskIn(gone, 'b')).toMatchObject({ parts: [{ kind: 'ellipse' }], refine: [{ radius: 3 }], invert: true });
    expect(edit(emptyDocument(size), replaceWith(document)).document.regions).toEqual([hair]);
    const large = fitDocument(document, { width: 80, height: 60 });
    expect(large.regions![0]!.where).toMatchObject({ parts: [{ x: 40, y: 30, rx: 20 }], refine: [{ radius: 6 }] });
  });

  it('are refused in loops, into nothing, and under an id that is taken', () => {
    const loop = of([], [region('a', mask([link('b')])), region('b', mask([link('a')]))]);
    expect(faultOf(loop)).toMatch(/linked in a loop/);
    expect(faultOf(of([], [region('a', mask([link('gone')]))]))).toMatch(/does not exist/);
    expect(faultOf(of([layer('a', mask())], [region('a', mask())]))).toMatch(/have the id "a"/);
    expect(edit(document, addRegions([region('a', mask())])).patches).toEqual([]);
  });

  it('are joined one by one when two windows changed them, and stay sound whatever both did', () => {
    const mine = edit(
      document,
      onMaskOwner('hair', (owner) => void (owner.name = 'Locks')),
    ).document;
    const theirs = edit(document, addRegions([region('skin', mask([link('hair')]))])).document;
    const { document: joined, conflicts } = mergeDocuments(document, mine, theirs);
    expect([conflicts, joined.regions!.map(({ name }) => name)]).toEqual([[], ['Locks', 'Region skin']]);
    expect(
      mergeDocuments(
        document,
        mine,
        edit(
          document,
          onMaskOwner('hair', (owner) => void (owner.name = 'Mane')),
        ).document,
      ).conflicts,
    ).toEqual(['the regions']);
    // A link to what the other side removes becomes a copy with parts of its own; what leads elsewhere stays a link.
    const bracketed = edit(
      document,
      onMaskOwner('a', ({ where }) => void where.parts.push({ ...link('b'), id: 'second' }, { ...link('b'), id: 'third' })),
    ).document;
    const both = mergeDocuments(document, edit(document, removeLayers(['b'])).document, bracketed).document;
    expect(faultOf(both)).toBeNull();
    const [first, ...copies] = both.layers[0]!.where.parts as BracketPart[];
    expect([first!.mask.link, ...copies.map(({ mask: { link: to, parts } }) => [to, parts.length])]).toEqual([
      'hair',
      [undefined, 1],
      [undefined, 1],
    ]);
    const some = fc.constantFrom('a', 'b', 'hair', 'skin', 'x');
    const recipe = fc.oneof(
      some.map((id) => removeRegion(id)),
      some.map((id) => removeLayers([id])),
      fc.constantFrom('skin', 'x').map((id) => addRegions([region(id, mask())])),
      fc.tuple(some, some).map(([from, to]): Recipe => (draft) => {
        const owner = findMaskOwner(draft, from);
        if (!owner || !findMaskOwner(draft, to) || from === to) return;
        const before = owner.where.parts.length;
        owner.where.parts.push({ ...link(to), id: `${from}-${to}-${before}` });
        if (faultOf(draft)) owner.where.parts.pop();
      }),
    );
    const run = (recipes: readonly Recipe[]): UmboDocument => recipes.reduce((state, r) => edit(state, r).document, document);
    fc.assert(
      fc.property(fc.array(recipe, { maxLength: 5 }), fc.array(recipe, { maxLength: 5 }), (left, right) => {
        const [one, other] = [run(left), run(right)];
        for (const state of [one, other, mergeDocuments(document, one, other).document]) {
          expect(faultOf(state)).toBeNull();
          for (const owner of [...state.layers, ...(state.regions ?? [])])
            for (const id of linksOf(owner.where)) expect(findMaskOwner(state, id)).toBeDefined();
        }
      }),
    );
  });
});

describe('what was found', () => {
  const sha256 = 'a'.repeat(64);
  it('is the picture that it is kept as, and is loaded for what uses it, or looks at it', () => {
    const kept = createRaster(wholeOf(size));
    for (let i = 0; i < kept.r.length; i++) kept.r[i] = kept.g[i] = kept.b[i] = (i * 37) % 65536;
    const find: FindPicture = (need) => (need.kind === 'photograph' && need.sha256 === sha256 ? { full: size, level: kept } : null);
    const photograph = createRaster(wholeOf(size));
    const drawn = renderMask(mask([found({ photograph: sha256 })]), { picture: size, full: size }, wholeOf(size), photograph, { find });
    for (let i = 0; i < drawn.length; i++) expect(Math.abs(drawn[i]! - kept.r[i]!)).toBeLessThan(2);
    expect(renderMask(mask([found({})]), { picture: size, full: size }, wholeOf(size), photograph, noPictures).every((v) => v === 0)).toBe(
      true,
    );
    const regions = [region('used', mask([found({ photograph: sha256 })])), region('idle', mask([found({ photograph: 'b'.repeat(64) })]))];
    const document = of([layer('a', mask([link('used')]))], regions);
    const names = (viewed?: (id: string) => boolean): string[] =>
      picturesNeeded(document, viewed).map((need) => (need.kind === 'photograph' ? need.sha256[0]! : need.kind));
    expect([names(), names((id) => id === 'idle')]).toEqual([['a'], ['a', 'b']]);
  });
});

describe('readings', () => {
  const spot = (id: string, letter: string, x = 3): Reading => ({ id, letter, name: `Reading ${letter}`, spot: { x, y: 4, side: 5 } });
  const area = (id: string, where: Mask): Reading => ({ id, letter: 'R', name: 'Reading R', where });
  const hair = region('hair', mask([ellipse('e')]));
  const document: UmboDocument = { ...of([layer('a', mask())], [hair]), readings: [spot('s', 'A'), area('r', mask([], { link: 'hair' }))] };

  it('of a region are what it shows; when it goes they keep that, and they change no pixel', () => {
    expect(maskIn(document, 'r')).toEqual(hair.where);
    expect(resolveLayers(document).find((one) => one.layer.id === 'r')!.layer.on).toBe(false);
    const left = edit(document, removeRegion('hair')).document;
    expect(left.readings![1]!.where).toMatchObject({ parts: [{ kind: 'ellipse' }] });
    expect(left.readings![1]!.where!.link).toBeUndefined();
    expect(faultOf(left)).toBeNull();
    // What only they would need is not loaded until they are read.
    const needy = { ...document, readings: [area('r', mask([found({ photograph: 'f'.repeat(64) })]))] };
    expect(picturesNeeded(needy).map(({ kind }) => kind)).not.toContain('photograph');
    expect(picturesNeeded(needy, (id) => id === 'r').length).toBeGreaterThan(picturesNeeded(needy).length);
  });

  it('are joined one by one when two windows changed them, and fit a photograph of another size', () => {
    const mine = edit(document, (draft) => void draft.readings!.push(spot('m', 'B'))).document;
    const theirs = edit(document, (draft) => void (draft.readings![0]!.target = { kind: 'neutral' })).document;
    const { document: joined, conflicts } = mergeDocuments(document, mine, theirs);
    expect(conflicts).toEqual([]);
    expect(joined.readings!.map(({ id }) => id)).toEqual(['s', 'r', 'm']);
    expect(joined.readings![0]!.target).toEqual({ kind: 'neutral' });
    // Both sides have pinned one, and called it the same.
    const other = edit(document, (draft) => void draft.readings!.push(spot('t', 'B'))).document;
    const letters = mergeDocuments(document, mine, other).document.readings!.map(({ letter }) => letter);
    expect(new Set(letters).size).toBe(4);
    // One side takes the region away while the other reads it: the reading keeps what it showed.
    const without = edit(document, removeRegion('hair')).document;
    const reads = edit(document, (draft) => void draft.readings!.push(area('late', mask([], { link: 'hair' })))).document;
    const both = mergeDocuments(document, without, reads).document;
    expect(faultOf(both)).toBeNull();
    expect(both.readings!.find(({ id }) => id === 'late')!.where!.parts).toHaveLength(1);
    const larger = fitDocument({ ...document, readings: [spot('s', 'A'), area('own', mask([ellipse('o')]))] }, { width: 80, height: 60 });
    expect(larger.readings![0]!.spot).toEqual({ x: 6, y: 8, side: 5 });
    expect(larger.readings![1]!.where!.parts[0]).toMatchObject({ x: 40, y: 30 });
  });

  it('without a place, with two, or twice the same are refused', () => {
    expect(faultOf(document)).toBeNull();
    const nowhere: Reading = { id: 'n', letter: 'C', name: 'Reading C' };
    for (const [wrong, why] of [
      [nowhere, 'reading C has no place, or two'],
      [{ ...spot('t', 'D'), where: mask() }, 'reading D has no place, or two'],
      [spot('s', 'E'), 'two readings have the same id'],
      [area('a', mask()), 'two layers have the id "a"'],
      [area('q', mask([], { link: 'nobody' })), 'the mask of "Reading R" is linked to a layer that does not exist'],
    ] as const)
      expect(faultOf({ ...document, readings: [...document.readings!, wrong] })).toBe(why);
  });

  it('take the first letter that is free, after Z as columns of a table go on', () => {
    const letters: { letter: string }[] = [];
    for (let i = 0; i < 54; i++) letters.push({ letter: freeLetter(letters) });
    expect([0, 25, 26, 51, 52, 53].map((i) => letters[i]!.letter)).toEqual(['A', 'Z', 'AA', 'AZ', 'BA', 'BB']);
    expect(freeLetter(letters.filter((_, i) => i !== 30))).toBe('AE');
  });
});
