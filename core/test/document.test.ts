import { Ajv } from 'ajv';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adjustments } from '@umbo/core/adjust';
import { blendModes } from '@umbo/core/blend';
import { sources } from '@umbo/core/content';
import {
  adjustmentLayer,
  after,
  ALL_TONES,
  childrenOf,
  colourwayLayer,
  copyLayers,
  documentSchema,
  eachLayer,
  edit,
  emptyDocument,
  everywhere,
  faultOf,
  findLayer,
  fitLayer,
  groupLayer,
  groupLayers,
  inSpace,
  insertLayers,
  leadsTo,
  linksOf,
  mergeDocuments,
  moveLayers,
  newFault,
  onLayer,
  patch,
  peekAt,
  removeLayers,
  removeRegion,
  replaceWith,
  resolveLayers,
  sourceLayer,
  topmost,
  ungroup,
  waysOf,
  type Layer,
  type Recipe,
  type UmboDocument,
} from '@umbo/core/document';
import { maskPartKind, maskPartKinds, type BracketPart, type BrushPart, type Mask, type MaskPart } from '@umbo/core/mask';

const photo = { width: 100, height: 80 };
const layer = (id: string): Layer => adjustmentLayer(id, 'hueSaturation', id.toUpperCase());
const withLayers = (...ids: string[]): UmboDocument => ({ ...emptyDocument(photo), layers: ids.map(layer) });
const setHue = (id: string, hue: number): Recipe => onLayer(id, ({ what }) => void Object.assign(what.settings, { hue }));
const ids = (document: UmboDocument): string => document.layers.map(({ id }) => id).join('');

const group = (id: string, ...layers: Layer[]): Layer => {
  const made = groupLayer(id, id.toUpperCase());
  return { ...made, what: { ...made.what, layers } as Layer['what'] };
};
const ways = (id: string, ...layers: Layer[]): Layer => {
  const made = colourwayLayer(id, id.toUpperCase(), layers[0]!.id);
  return { ...made, what: { ...made.what, layers } as Layer['what'] };
};
const linked = (id: string, link: string): Layer => ({ ...layer(id), where: { ...layer(id).where, link } });
const of = (...layers: Layer[]): UmboDocument => ({ ...emptyDocument(photo), layers });
/** The tree in letters: groups in brackets. */
const tree = (document: UmboDocument): string => {
  const words = (layers: readonly Layer[]): string =>
    layers.map((one) => one.id + ('layers' in one.what ? `(${words(childrenOf(one))})` : '')).join('');
  return words(document.layers);
};

const bracket = maskPartKind<BracketPart>('bracket').create('bracket', 'add', photo);

describe('edits', () => {
  const some = fc.constantFrom('a', 'b', 'c', 'd', 'g', 'w', 'p', 'q');
  const target = fc.record({ id: some, side: fc.constantFrom('before' as const, 'after' as const, 'inside' as const) });
  const recipe = fc.oneof(
    fc.array(some, { maxLength: 3 }).map((gone) => removeLayers(gone)),
    fc.tuple(fc.constantFrom('x', 'y', 'z'), fc.option(some)).map(([id, after]) => insertLayers([layer(id)], after)),
    fc.tuple(fc.array(some, { maxLength: 3 }), target).map(([moving, to]) => moveLayers(moving, to)),
    fc.tuple(fc.array(some, { maxLength: 3 }), fc.constantFrom('n', 'm')).map(([inside, id]) => groupLayers(inside, groupLayer(id, id))),
    fc.constantFrom('g', 'w', 'n').map((id) => ungroup(id)),
    fc.tuple(fc.constantFrom('a', 'b', 'd', 'p'), fc.integer({ min: -180, max: 180 })).map(([id, hue]) => setHue(id, hue)),
    fc.tuple(some, some).map(([id, link]) =>
      onLayer(id, (draft) => {
        if (id !== link && id < link) draft.where.link = link;
      }),
    ),
    fc.tuple(some, some).map(([id, link]) =>
      onLayer(id, ({ where }) => {
        // Part ids are unique in a mask: the same recipe twice adds one part.
        if (id < link && !where.parts.some((part) => part.id === `${id}-${link}`))
          where.parts.push({ ...bracket, id: `${id}-${link}`, mask: { ...bracket.mask, link } });
      }),
    ),
  );
  const start = (): UmboDocument => of(layer('a'), group('g', layer('b'), layer('c')), layer('d'), ways('w', layer('p'), layer('q')));

  it('can be undone and redone through any sequence, to the letter', () => {
    fc.assert(
      fc.property(fc.array(recipe, { maxLength: 12 }), (recipes) => {
        const states = [start()];
        const entries = recipes.map((r) => {
          const step = edit(states.at(-1)!, r);
          states.push(step.document);
          return step;
        });
        let document = states.at(-1)!;
        for (const [i, { inverse }] of [...entries.entries()].reverse()) expect((document = patch(document, inverse))).toEqual(states[i]);
        for (const [i, { patches }] of entries.entries()) expect((document = patch(document, patches))).toEqual(states[i + 1]);
      }),
    );
  });

  it('leave a sound document, whatever is moved, grouped and removed; a recipe that runs twice does it once', () => {
    fc.assert(
      fc.property(fc.array(recipe, { maxLength: 12 }), (recipes) => {
        let document = start();
        for (const r of recipes) {
          const once = edit(document, r).document;
          const links = Array.from(eachLayer(once.layers)).flatMap(({ where }) => linksOf(where));
          // Links that these recipes make may lead into a removed layer only by their own doing.
          if (links.every((link) => findLayer(once, link))) expect(faultOf(once)).toBeNull();
          document = once;
        }
      }),
    );
    const moved = moveLayers(['a'], { id: 'g', side: 'inside' });
    for (const r of [insertLayers([layer('x')], 'b'), moved, groupLayers(['a', 'd'], groupLayer('n', 'n')), replaceWith(of(layer('z')))])
      expect(tree(edit(edit(start(), r).document, r).document)).toBe(tree(edit(start(), r).document));
  });

  it('move, insert and group in the order in which layers act', () => {
    const then = (...recipes: Recipe[]): string => tree(recipes.reduce((document, r) => edit(document, r).document, start()));
    expect(tree(start())).toBe('ag(bc)dw(pq)');
    expect(then(moveLayers(['d', 'a'], { id: 'b', side: 'after' }))).toBe('g(badc)w(pq)');
    expect(then(moveLayers(['a'], { id: 'g', side: 'inside' }))).toBe('g(bca)dw(pq)');
    expect(then(moveLayers(['g'], { id: 'b', side: 'before' }))).toBe('ag(bc)dw(pq)'); // not into itself
    expect(then(insertLayers([layer('x'), layer('y')], 'b'))).toBe('ag(bxyc)dw(pq)');
    expect(then(insertLayers([layer('x')], null))).toBe('xag(bc)dw(pq)');
    expect(then(groupLayers(['a', 'd'], groupLayer('n', 'n')))).toBe('g(bc)n(ad)w(pq)');
    expect(then(groupLayers(['b', 'd'], groupLayer('n', 'n')))).toBe('ag(c)n(bd)w(pq)');
    expect(then(ungroup('g'))).toBe('abcdw(pq)');
    // A set shows another one when its shown one goes, and goes itself when it is empty.
    const shown = edit(start(), removeLayers(['p'])).document.layers.at(-1)!.what;
    expect(shown.kind === 'colourways' && shown.settings.shown).toBe('q');
    expect(then(removeLayers(['p', 'q']))).toBe('ag(bc)d');
    expect(edit(start(), setHue('gone', 5)).patches).toEqual([]);
    expect(topmost(start(), new Set(['b', 'g', 'd'])).map(({ id }) => id)).toEqual(['g', 'd']);
  });

  it('copy with new ids, links and sets among the copies kept among them', () => {
    let n = 0;
    const [copy] = copyLayers([group('g', layer('a'), linked('b', 'a'), ways('w', layer('p')))], () => `n${++n}`);
    const inside = childrenOf(copy!);
    expect(new Set([copy!.id, ...inside.map(({ id }) => id)]).size).toBe(4);
    expect(inside[1]!.where.link).toBe(inside[0]!.id);
    const set = inside[2]!.what;
    expect(set.kind === 'colourways' && set.settings.shown).toBe(childrenOf(inside[2]!)[0]!.id);
  });
});

describe('links between masks', () => {
  const part = maskPartKinds[0].create('part', 'add', { width: 90, height: 60 });
  const giver = (): Layer => ({ ...layer('a'), where: { ...layer('a').where, parts: [part], refine: [{ kind: 'feather', radius: 4 }] } });

  it('give the parts of the layer at their end, with the strength and inversion of their own', () => {
    const taker = linked('b', 'c');
    taker.where.strength = 0.5;
    const resolved = resolveLayers(of(giver(), taker, linked('c', 'a')));
    expect(resolved[1]!.where).toEqual({ parts: [part], refine: [{ kind: 'feather', radius: 4 }], strength: 0.5, invert: false });
    expect(resolved[2]!.where.parts).toBe(resolved[0]!.where.parts);
  });

  it('end as copies when their layer goes, and a loop of them ends as a mask without parts', () => {
    const after = edit(of(giver(), linked('b', 'a'), linked('c', 'b')), removeLayers(['a'])).document;
    expect(after.layers[0]!.where).toMatchObject({ parts: [{ kind: part.kind }], refine: [{ radius: 4 }] });
    expect(after.layers[0]!.where.link).toBeUndefined();
    expect(after.layers[1]!.where.link).toBe('b');
    expect(resolveLayers(of(linked('a', 'b'), linked('b', 'a')))[0]!.where.parts).toEqual([]);
  });
});

describe('looking at less than the whole', () => {
  const document = of(layer('a'), group('g', layer('b'), layer('c')), ways('w', layer('p'), layer('q')));
  const on = ({ layers }: Pick<UmboDocument, 'layers'>): string =>
    layers.flatMap((one) => (one.on ? [one.id + on({ layers: childrenOf(one) })] : [])).join('');

  it('shows the stack up to a layer, below it, or the layer alone', () => {
    const look = (peek: Partial<Parameters<typeof peekAt>[1]>): string => on(peekAt(document, { solo: null, upTo: null, ...peek }));
    expect(look({})).toBe(on(document));
    expect(look({ upTo: 'photograph' })).toBe('');
    expect(look({ upTo: 'b' })).toBe('agb');
    expect(look({ upTo: 'g' })).toBe('agbc');
    expect(look({ below: 'c' })).toBe('agb');
    expect(look({ solo: 'c' })).toBe('gc');
    expect(look({ solo: 'gone' })).toBe(on(document));
  });

  it('shows a layer without its mask, while those that are linked to its mask keep it', () => {
    const part = maskPartKind('ellipse').create('e', 'add', { width: 60, height: 40 });
    const masked: Layer = { ...layer('a'), where: { parts: [part], refine: [], strength: 1, invert: false } };
    const resolved = resolveLayers(peekAt(of(masked, linked('b', 'a')), { solo: null, upTo: null, unmasked: 'a' }));
    expect(resolved.map(({ where }) => where.parts.length)).toEqual([0, 1]);
    const chained = resolveLayers(peekAt(of(masked, linked('b', 'a'), linked('c', 'b')), { solo: null, upTo: null, unmasked: 'b' }));
    expect(chained.map(({ where }) => where.parts.length)).toEqual([1, 0, 1]);
  });

  it('shows each alternative of a set in turn', () => {
    const shown = waysOf(document, 'w').map(({ name, document: way }) => {
      const { what } = way.layers[2]!;
      return [name, what.kind === 'colourways' && what.settings.shown];
    });
    expect(shown).toEqual([
      ['P', 'p'],
      ['Q', 'q'],
    ]);
    expect(waysOf(document, 'g')).toEqual([]);
  });
});

describe('bringing layers to another photograph', () => {
  it('scales places, radii, strokes and gradients, leaves rules alone, and comes back', () => {
    const paint = sourceLayer('s', 'paint', 'S', photo);
    const stroke = { id: 'k', size: 10, hardness: 0.5, flow: 1, opacity: 1, erase: false, points: [10, 20, 1, 30, 40, 0.5] };
    if (paint.what.kind === 'paint') paint.what.settings.strokes = [{ ...stroke, colour: [1, 0, 0] }];
    const fill = sourceLayer('f', 'fill', 'F', photo);
    fill.where.parts = maskPartKinds.map((kind, i) => kind.create(`p${i}`, 'add', { width: 90, height: 60 }));
    fill.where.refine = [{ kind: 'feather', radius: 6 }];
    const both = group('g', paint, fill);
    const large = { width: photo.width * 4, height: photo.height * 4 };
    const fitted = fitLayer(both, photo, large);
    const [one, two] = childrenOf(fitted);
    expect(one!.what.settings).toMatchObject({ strokes: [{ size: 40, points: [40, 80, 1, 120, 160, 0.5], colour: [1, 0, 0] }] });
    expect(two!.what.settings).toMatchObject({ from: { x: 200, y: 80 }, to: { x: 200, y: 240 } });
    expect(two!.where.refine).toEqual([{ kind: 'feather', radius: 24 }]);
    const rules = (layer: Layer): MaskPart[] => layer.where.parts.filter(({ kind }) => !maskPartKind(kind).fit);
    expect(rules(two!)).toEqual(rules(fill)); // a hue is a hue
    const ofKind = (kind: string): MaskPart | undefined => two!.where.parts.find((part) => part.kind === kind);
    expect(ofKind('gradient')).toMatchObject({ from: { x: 180, y: 60 }, to: { x: 180, y: 144 } });
    expect(ofKind('ellipse')).toMatchObject({ x: 180, y: 120, rx: 90, ry: 60 });
    expect(fitLayer(fitted, large, photo)).toEqual(both);
    expect(fitLayer(both, photo, photo)).toEqual(both);
  });
});

describe('layers that share their settings', () => {
  const sharing = (id: string): Layer => ({ ...layer(id), shared: 'set' });
  const base = of(sharing('a'), group('g', sharing('b')), layer('c'), { ...adjustmentLayer('e', 'exposure', 'E'), shared: 'set' });
  const hues = (document: UmboDocument): (number | undefined)[] =>
    Array.from(eachLayer(document.layers)).map(({ what }) => (what.settings as { hue?: number }).hue);
  const join = (id: string): Recipe => onLayer(id, (draft) => void (draft.shared = 'set'));

  it('change together, join with what the others have, and are one when two windows are joined', () => {
    const turned = edit(base, setHue('b', 30));
    expect(hues(turned.document)).toEqual([30, undefined, 30, 0, undefined]);
    expect(patch(turned.document, turned.inverse)).toEqual(base);
    const joined = edit(edit(turned.document, setHue('c', -9)).document, join('c')).document;
    expect(hues(joined)).toEqual([30, undefined, 30, 30, undefined]);
    const alone = edit(
      edit(
        joined,
        onLayer('a', (draft) => void delete draft.shared),
      ).document,
      setHue('a', 5),
    ).document;
    expect(hues(alone)).toEqual([5, undefined, 30, 30, undefined]);
    // One window turns the hue while the other lets a further layer in, whatever settings that had.
    const merged = mergeDocuments(base, turned.document, edit(base, join('c')).document);
    expect([merged.conflicts, hues(merged.document)]).toEqual([[], [30, undefined, 30, 30, undefined]]);
  });

  it('have the same settings whatever is done to them', () => {
    const some = fc.constantFrom('a', 'b', 'c');
    const recipe = fc.oneof(
      fc.tuple(some, fc.integer({ min: -9, max: 9 })).map(([id, hue]) => setHue(id, hue)),
      some.map(join),
      some.map((id) => onLayer(id, (draft) => void delete draft.shared)),
      some.map((id) => removeLayers([id])),
    );
    const consistent = (document: UmboDocument): void => {
      const set = Array.from(eachLayer(document.layers)).filter(({ shared, what }) => shared === 'set' && what.kind === 'hueSaturation');
      expect(new Set(set.map(({ what }) => JSON.stringify(what.settings))).size).toBeLessThanOrEqual(1);
    };
    const run = (recipes: readonly Recipe[]): UmboDocument => recipes.reduce((document, r) => edit(document, r).document, base);
    fc.assert(
      fc.property(fc.array(recipe, { maxLength: 6 }), fc.array(recipe, { maxLength: 6 }), (left, right) => {
        const [mine, theirs] = [run(left), run(right)];
        for (const document of [mine, theirs, mergeDocuments(base, mine, theirs).document]) consistent(document);
      }),
    );
  });
});

describe('merging two edits of the same state', () => {
  const base = withLayers('a', 'b', 'c');
  const change = (...recipes: Recipe[]): UmboDocument => recipes.reduce((document, r) => edit(document, r).document, base);

  it('joins changes of different layers, in either direction', () => {
    const mine = change(setHue('a', 10), insertLayers([layer('x')], 'b'));
    const theirs = change(setHue('c', 20), removeLayers(['b']), moveLayers(['c'], { id: 'a', side: 'before' }));
    const merged = mergeDocuments(base, mine, theirs);
    expect(merged.conflicts).toEqual([]);
    expect([...ids(merged.document)].sort().join('')).toBe('acx');
    expect(merged.document.layers.find(({ id }) => id === 'a')!.what.settings).toMatchObject({ hue: 10 });
    expect(merged.document.layers.find(({ id }) => id === 'c')!.what.settings).toMatchObject({ hue: 20 });
    expect(ids(mergeDocuments(base, mine, base).document)).toBe(ids(mine));
    expect(ids(mergeDocuments(base, base, theirs).document)).toBe(ids(theirs));
  });

  it('joins changes of different settings of one layer', () => {
    const saturate = onLayer('a', ({ what }) => void Object.assign(what.settings, { saturation: -30 }));
    const { document, conflicts } = mergeDocuments(base, change(setHue('a', 10)), change(saturate));
    expect(conflicts).toEqual([]);
    expect(document.layers[0]!.what.settings).toMatchObject({ hue: 10, saturation: -30 });
  });

  it('names the layers that both changed, and sees equal changes as one', () => {
    expect(mergeDocuments(base, change(setHue('a', 10)), change(setHue('a', 30))).conflicts).toEqual(['A']);
    expect(mergeDocuments(base, change(setHue('a', 10)), change(removeLayers(['a']))).conflicts).toEqual(['A']);
    expect(mergeDocuments(base, change(setHue('a', 10)), change(setHue('a', 10))).conflicts).toEqual([]);
  });
});

describe('what joins element by element', () => {
  const ellipse = (id: string) => maskPartKind('ellipse').create(id, 'add', photo);
  const region = (id: string) => ({ id, name: id, where: everywhere() });
  const masked = (...parts: MaskPart[]): UmboDocument => of({ ...layer('a'), where: { ...everywhere(), parts } });
  const soften = (i: number, soft: number) => (document: UmboDocument) =>
    after(document, (draft) => void Object.assign(draft.layers[0]!.where.parts[i]!, { soft }));

  it('parts, steps and regions: each is changed, added, taken out and moved by either side', () => {
    const base = masked(ellipse('p'), ellipse('q'));
    const joined = mergeDocuments(base, soften(0, 11)(base), soften(1, 22)(base));
    expect([joined.document.layers[0]!.where.parts.map((part) => (part as { soft: number }).soft), joined.conflicts]).toEqual([
      [11, 22],
      [],
    ]);
    expect(mergeDocuments(base, soften(0, 11)(base), soften(0, 22)(base)).conflicts).toEqual(['A']);

    const refine = (...feathers: number[]) => ({ ...base, layers: [{ ...base.layers[0]!, where: { ...everywhere(), refine: [...feathers.map((radius) => ({ kind: 'feather', radius, side: 'both' })), { kind: 'contrast', black: 0, white: 100, middle: 50 }] as never } }] }); // prettier-ignore
    const steps = mergeDocuments(refine(1, 2), refine(5, 2), refine(1, 7)).document.layers[0]!.where.refine;
    expect(steps.map((step) => (step as { radius?: number }).radius)).toEqual([5, 7, undefined]);

    const some = { ...base, regions: ['a', 'b', 'c'].map((id) => region(`r${id}`)) };
    const moved = { ...some, regions: [some.regions[2]!, some.regions[0]!, some.regions[1]!] };
    const mine = after(some, (draft) => void draft.regions!.push(region('new')));
    expect(mergeDocuments(some, mine, moved).document.regions!.map(({ id }) => id)).toEqual(['rc', 'new', 'ra', 'rb']);
    const reversed = { ...some, regions: some.regions.toReversed() };
    const both = (side: 'mine' | 'theirs') => mergeDocuments(some, moved, reversed, side);
    expect([both('theirs').document.regions!.map(({ id }) => id), both('mine').conflicts]).toEqual([['rc', 'rb', 'ra'], ['the regions']]);
  });

  it('the order of layers is that of the side which moved one, and both are asked', () => {
    const base = withLayers('a', 'b', 'c');
    const [mine, theirs] = [moveLayers(['a'], { id: 'c', side: 'after' }), moveLayers(['c'], { id: 'a', side: 'before' })].map((recipe) => after(base, recipe)) as [UmboDocument, UmboDocument]; // prettier-ignore
    expect([ids(mergeDocuments(base, mine, base).document), ids(mergeDocuments(base, base, theirs).document)]).toEqual(['bca', 'cab']);
    const added = after(mine, insertLayers([layer('n')], 'b'));
    expect(ids(mergeDocuments(base, added, after(base, setHue('a', 5))).document)).toBe('bnca');
    expect(mergeDocuments(base, mine, theirs, 'theirs')).toMatchObject({ conflicts: ['the order of the layers'] });
    expect(ids(mergeDocuments(base, mine, theirs, 'theirs').document)).toBe('cab');
  });

  it('a working space that both changed is asked about', () => {
    const base = withLayers('a');
    const both = (side: 'mine' | 'theirs') => mergeDocuments(base, inSpace(base, 'display-p3'), inSpace(base, 'prophoto-rgb'), side);
    expect([both('mine').document.workingSpace, both('theirs').document.workingSpace]).toEqual(['display-p3', 'prophoto-rgb']);
    expect(both('mine').conflicts).toEqual(['the working space']);
  });

  it('what has to be looked at stays so in another space, in a version, and whatever is done beside it', () => {
    const base = masked({ ...maskPartKind('pick').create('p', 'add', photo), picks: [{ x: 1, y: 1, colour: [0.9, 0.1, 0.1], away: false }], check: true } as MaskPart); // prettier-ignore
    const marks = (document: UmboDocument): unknown => document.layers[0]!.where.parts[0]!.check;
    expect(marks(after(base, replaceWith(inSpace(base, 'display-p3'))))).toBe(true);
    expect(marks(after(base, replaceWith(structuredClone(base))))).toBe(true);
    expect(marks(after(base, (draft) => void (draft.layers = structuredClone(base.layers))))).toBe(true);
    expect(marks(after(base, (draft) => void Object.assign(draft.layers[0]!.where.parts[0]!, { tolerance: 3 })))).toBeUndefined();
  });

  it('parts that stop being links have ids of their own, and the same whenever it is done', () => {
    const long = '123e4567-e89b-12d3-a456-426614174000';
    const bracket = (id: string) => ({ ...maskPartKind<BracketPart>('bracket').create(id, 'add', photo), mask: { ...everywhere(), link: 'r' } }) as MaskPart; // prettier-ignore
    const base = {
      ...masked(bracket('b1'), bracket('b2')),
      regions: [{ ...region('r'), where: { ...everywhere(), parts: [ellipse(long)] } }],
    };
    const next = after(base, removeRegion('r'));
    expect([faultOf(next), after(base, removeRegion('r'))]).toEqual([null, next]);
    const inner = next.layers[0]!.where.parts.map((part) => ((part as BracketPart).mask as Mask).parts[0]!.id);
    expect(new Set([long, ...inner]).size).toBe(3);
    const twice = masked(ellipse('p'), ellipse('p'));
    expect([faultOf(twice), newFault(after(twice, setHue('a', 3)), twice)]).toEqual([
      'two parts of the mask of "A" have the same id',
      null,
    ]);
  });
});

describe('merging edits with groups', () => {
  const base = of(group('g', layer('a'), layer('b')), layer('c'), ways('w', layer('p'), layer('q')), linked('l', 'c'));
  const change = (...recipes: Recipe[]): UmboDocument => recipes.reduce((document, r) => edit(document, r).document, base);

  it('joins what was moved, grouped and changed inside', () => {
    const mine = change(setHue('a', 10), moveLayers(['c'], { id: 'g', side: 'inside' }));
    const theirs = change(setHue('b', 20), insertLayers([layer('x')], 'p'));
    const { document, conflicts } = mergeDocuments(base, mine, theirs);
    expect(conflicts).toEqual([]);
    expect(tree(document)).toBe('g(abc)w(pxq)l');
    expect(findLayer(document, 'a')!.what.settings).toMatchObject({ hue: 10 });
    expect(findLayer(document, 'b')!.what.settings).toMatchObject({ hue: 20 });
  });

  it('is sound whatever both sides did: no link into nothing, no set without the one it shows, no layer lost', () => {
    const some = fc.constantFrom('a', 'b', 'c', 'g', 'w', 'p', 'q', 'l');
    const recipe = fc.oneof(
      fc.tuple(some, fc.integer({ min: -9, max: 9 })).map(([id, hue]) => setHue(id, hue)),
      some.map((id) => removeLayers([id])),
      fc
        .tuple(some, some, fc.constantFrom('before' as const, 'after' as const, 'inside' as const))
        .map(([id, to, side]) => moveLayers([id], { id: to, side })),
      fc.tuple(some, fc.constantFrom('n', 'm')).map(([id, name]) => groupLayers([id], groupLayer(name, name))),
      fc.constantFrom('g', 'w').map((id) => ungroup(id)),
      // Each side by itself makes no loop of links; together they may.
      fc.tuple(some, some, fc.boolean()).map(([id, link, isWhole]): Recipe => (draft) => {
        const layer = findLayer(draft, id);
        if (!layer || !findLayer(draft, link) || leadsTo(draft, link, id)) return;
        if (isWhole) layer.where.link = link;
        else if (!layer.where.parts.some((part) => part.id === `${id}-${link}`))
          layer.where.parts.push({ ...bracket, id: `${id}-${link}`, mask: { ...bracket.mask, link } });
      }),
    );
    fc.assert(
      fc.property(fc.array(recipe, { maxLength: 5 }), fc.array(recipe, { maxLength: 5 }), (left, right) => {
        const [mine, theirs] = [change(...left), change(...right)];
        const { document } = mergeDocuments(base, mine, theirs);
        expect(faultOf(document)).toBeNull();
        const has = (side: UmboDocument, id: string): boolean => findLayer(side, id) !== undefined;
        // What neither side took away is there.
        for (const id of ['a', 'b', 'c', 'p', 'q', 'l']) if (has(mine, id) && has(theirs, id)) expect(has(document, id), id).toBe(true);
      }),
      { numRuns: 300 },
    );
  });
});

describe('the schema', () => {
  const validate = new Ajv({ discriminator: true }).compile(documentSchema);
  const good = (): UmboDocument => {
    const full = layer('a');
    full.where.parts = maskPartKinds.map((kind, i) => kind.create(`p${i}`, 'add', { width: 90, height: 60 }));
    full.where.refine = [{ kind: 'feather', radius: 3 }];
    return {
      ...emptyDocument(photo),
      strength: 0.5,
      layers: [
        full,
        ...blendModes.map((mode, i) => ({ ...layer(`m${i}`), how: { mode: mode.id, opacity: 0.5 } })),
        ...adjustments.map(({ kind }) => adjustmentLayer(`j${kind}`, kind, kind)),
        group('g', ...sources.map(({ kind }) => sourceLayer(`s${kind}`, kind, kind, photo)), ways('w', layer('p'), linked('q', 'a'))),
        {
          ...layer('z'),
          clip: true,
          note: 'Ask for the swatch',
          how: {
            mode: 'normal',
            opacity: 1,
            letThrough: { lightness: 0, hue: 1, chroma: 0.5 },
            limitsBelow: ALL_TONES,
            limitsSelf: ALL_TONES,
          },
        },
      ],
    };
  };

  it('accepts everything that is registered', () => {
    expect(validate(good()), JSON.stringify(validate.errors)).toBe(true);
    expect(validate(emptyDocument(photo))).toBe(true);
    expect(faultOf(good())).toBeNull();
  });

  it('refuses foreign and broken documents', () => {
    const broken: ((document: Record<string, never> & UmboDocument) => void)[] = [
      (d) => void Object.assign(d, { extra: 1 }),
      (d) => void Object.assign(d, { version: 1 }),
      (d) => void (d.layers[0]!.how.mode = 'sparkle'),
      (d) => void (d.layers[0]!.how.opacity = 1.5),
      (d) => void (d.layers[0]!.where.parts[0]!.kind = 'unknown' as never),
      (d) => void Object.assign(d.layers[0]!.what.settings, { hue: 'red' }),
      (d) => void Object.assign(d.layers[0]!.how, { letThrough: { lightness: 2, hue: 1, chroma: 1 } }),
      (d) => void Object.assign(d.layers[0]!.what, { kind: 'fill' }),
      (d) => void (d.layers = Array.from({ length: 501 }, (_, i) => layer(`l${i}`))),
    ];
    for (const spoil of broken) {
      const document = structuredClone(good()) as Record<string, never> & UmboDocument;
      spoil(document);
      expect(validate(document)).toBe(false);
    }
  });

  it('and what it cannot say is said in a sentence: loops, doubles, foreign sets, too much', () => {
    const stroke = (points: number) => ({
      id: 's',
      size: 9,
      hardness: 1,
      flow: 1,
      opacity: 1,
      erase: false,
      points: new Array<number>(points).fill(1),
    });
    const heavy = layer('h');
    heavy.where.parts = [
      {
        ...maskPartKind<BrushPart>('brush').create('b', 'add', { width: 90, height: 60 }),
        strokes: Array.from({ length: 26 }, () => stroke(60_000)),
      },
    ];
    const deep = Array.from({ length: 8 }).reduce<Layer>((inside, _, i) => group(`g${i}`, inside), layer('a'));
    const faults: [UmboDocument, RegExp][] = [
      [of(linked('a', 'b'), linked('b', 'c'), linked('c', 'a')), /linked in a loop/],
      [of(linked('a', 'a')), /linked in a loop/],
      [of(linked('a', 'gone')), /does not exist/],
      [of(layer('a'), group('g', layer('a'))), /two layers have the id/],
      [of({ ...ways('w', layer('p')), what: { kind: 'colourways', settings: { shown: 'x' }, layers: [layer('p')] } }), /not in it/],
      [of(...Array.from({ length: 300 }, (_, i) => group(`g${i}`, layer(`l${i}`)))), /more than 500 layers/],
      [of(deep), /nested more than 8/],
      [of(heavy), /500 000 points/],
    ];
    for (const [document, words] of faults) expect(faultOf(document)).toMatch(words);
  });
});
