import { Ajv } from 'ajv';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  adjustmentLayer,
  blendModes,
  copyLayer,
  documentSchema,
  edit,
  emptyDocument,
  insertLayer,
  maskPartKinds,
  mergeDocuments,
  moveLayer,
  onLayer,
  patch,
  removeLayer,
  type Layer,
  type Recipe,
  type UmboDocument,
} from '@umbo/core';

const photo = { width: 100, height: 80 };
const layer = (id: string): Layer => adjustmentLayer(id, 'hueSaturation', id.toUpperCase());
const withLayers = (...ids: string[]): UmboDocument => ({ ...emptyDocument(photo), layers: ids.map(layer) });
const setHue = (id: string, hue: number): Recipe => onLayer(id, ({ what }) => void (what.settings.hue = hue));
const ids = (document: UmboDocument): string => document.layers.map(({ id }) => id).join('');

describe('edits', () => {
  const recipe = fc.oneof(
    fc.constantFrom('a', 'b', 'c', 'd').map((id) => removeLayer(id)),
    fc.tuple(fc.constantFrom('x', 'y', 'z'), fc.constantFrom('a', 'c', null)).map(([id, after]) => insertLayer(layer(id), after)),
    fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.integer({ min: 0, max: 4 })).map(([id, to]) => moveLayer(id, to)),
    fc.tuple(fc.constantFrom('a', 'b', 'd'), fc.integer({ min: -180, max: 180 })).map(([id, hue]) => setHue(id, hue)),
  );

  it('can be undone and redone through any sequence, to the letter', () => {
    fc.assert(
      fc.property(fc.array(recipe, { maxLength: 12 }), (recipes) => {
        const states = [withLayers('a', 'b', 'c', 'd')];
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

  it('order, insert, copy', () => {
    const start = withLayers('a', 'b', 'c');
    expect(ids(edit(start, moveLayer('a', 2)).document)).toBe('bca');
    expect(ids(edit(start, insertLayer(layer('x'), 'a')).document)).toBe('axbc');
    expect(ids(edit(start, insertLayer(layer('x'), null)).document)).toBe('xabc');
    expect(edit(start, setHue('gone', 5)).patches).toEqual([]);
    const copy = copyLayer(
      { ...layer('a'), where: { ...layer('a').where, parts: [maskPartKinds[1].create('p', 'add')] } },
      () => 'new',
      'Copy',
    );
    expect([copy.id, copy.where.parts[0]!.id, copy.name]).toEqual(['new', 'new', 'Copy']);
  });
});

describe('merging two edits of the same state', () => {
  const base = withLayers('a', 'b', 'c');
  const change = (...recipes: Recipe[]): UmboDocument => recipes.reduce((document, r) => edit(document, r).document, base);

  it('joins changes of different layers, in either direction', () => {
    const mine = change(setHue('a', 10), insertLayer(layer('x'), 'b'));
    const theirs = change(setHue('c', 20), removeLayer('b'), moveLayer('c', 0));
    const merged = mergeDocuments(base, mine, theirs);
    expect(merged.conflicts).toEqual([]);
    expect([...ids(merged.document)].sort().join('')).toBe('acx');
    expect(merged.document.layers.find(({ id }) => id === 'a')!.what.settings.hue).toBe(10);
    expect(merged.document.layers.find(({ id }) => id === 'c')!.what.settings.hue).toBe(20);
    expect(ids(mergeDocuments(base, mine, base).document)).toBe(ids(mine));
    expect(ids(mergeDocuments(base, base, theirs).document)).toBe(ids(theirs));
  });

  it('joins changes of different settings of one layer', () => {
    const saturate = onLayer('a', ({ what }) => void (what.settings.saturation = -30));
    const { document, conflicts } = mergeDocuments(base, change(setHue('a', 10)), change(saturate));
    expect(conflicts).toEqual([]);
    expect(document.layers[0]!.what.settings).toMatchObject({ hue: 10, saturation: -30 });
  });

  it('names the layers that both changed, and sees equal changes as one', () => {
    expect(mergeDocuments(base, change(setHue('a', 10)), change(setHue('a', 30))).conflicts).toEqual(['A']);
    expect(mergeDocuments(base, change(setHue('a', 10)), change(removeLayer('a'))).conflicts).toEqual(['A']);
    expect(mergeDocuments(base, change(setHue('a', 10)), change(setHue('a', 10))).conflicts).toEqual([]);
  });
});

describe('the schema', () => {
  const validate = new Ajv({ discriminator: true }).compile(documentSchema);
  const good = (): UmboDocument => {
    const full = layer('a');
    full.where.parts = maskPartKinds.map((kind, i) => kind.create(`p${i}`, 'add'));
    full.where.refine = [{ kind: 'feather', radius: 3 }];
    return {
      ...emptyDocument(photo),
      layers: [full, ...blendModes.map((mode, i) => ({ ...layer(`m${i}`), how: { mode: mode.id, opacity: 0.5 } }))],
    };
  };

  it('accepts everything that is registered', () => {
    expect(validate(good()), JSON.stringify(validate.errors)).toBe(true);
    expect(validate(emptyDocument(photo))).toBe(true);
  });

  it('refuses foreign and broken documents', () => {
    const broken: ((document: Record<string, never> & UmboDocument) => void)[] = [
      (d) => void Object.assign(d, { extra: 1 }),
      (d) => void Object.assign(d, { version: 2 }),
      (d) => void (d.layers[0]!.how.mode = 'sparkle'),
      (d) => void (d.layers[0]!.how.opacity = 1.5),
      (d) => void (d.layers[0]!.where.parts[0]!.kind = 'unknown' as never),
      (d) => void Object.assign(d.layers[0]!.what.settings, { hue: 'red' }),
      (d) => void (d.layers = Array.from({ length: 501 }, (_, i) => layer(`l${i}`))),
    ];
    for (const spoil of broken) {
      const document = structuredClone(good()) as Record<string, never> & UmboDocument;
      spoil(document);
      expect(validate(document)).toBe(false);
    }
  });
});
