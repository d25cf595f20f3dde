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
  linksOf,
  maskDocument,
  mergeDocuments,
  onMaskOwner,
  removeLayers,
  removeRegion,
  replaceWith,
  resolveLayers,
  type Layer,
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
