/** Brackets in masks and live links to masks, against the formula and against masks that are written out. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createRaster, noPictures, withOverview, wholeOf, type Raster } from '@umbo/core/base';
import {
  adjustmentLayer,
  edit,
  emptyDocument,
  faultOf,
  onLayer,
  ownParts,
  removeLayers,
  resolveLayers,
  type Layer,
  type UmboDocument,
} from '@umbo/core/document';
import {
  findPart,
  maskChange,
  maskPartKind,
  maskPartKinds,
  partsAt,
  renderMask,
  type BracketPart,
  type Mask,
  type MaskPart,
} from '@umbo/core/mask';

const size = { width: 48, height: 36 };
const whole = wholeOf(size);
const scale = { picture: size, full: size };
const photograph: Raster = createRaster(whole);
for (let y = 0, i = 0; y < size.height; y++)
  for (let x = 0; x < size.width; x++, i++) {
    photograph.r[i] = (x / size.width) * 65535;
    photograph.g[i] = (y / size.height) * 65535;
    photograph.b[i] = (((x * 7 + y * 13) % 48) / 48) * 65535;
  }
const pictures = withOverview(noPictures, photograph);
const mask = (parts: MaskPart[], rest: Partial<Mask> = {}): Mask => ({ parts, refine: [], strength: 1, invert: false, ...rest });
const part = (kind: MaskPart['kind'], id: string, values: object = {}): MaskPart =>
  ({ ...maskPartKind(kind).create(id, 'add', size), ...values }) as MaskPart;
const bracket = (id: string, inner: Partial<Mask>, values: object = {}): BracketPart =>
  part('bracket', id, { mask: { ...mask([]), ...inner }, ...values }) as BracketPart;
const render = (m: Mask): Uint16Array => renderMask(m, scale, whole, photograph, pictures);

const layer = (id: string, where: Mask = mask([])): Layer => ({ ...adjustmentLayer(id, 'exposure', id.toUpperCase()), where });
const of = (...layers: Layer[]): UmboDocument => ({ ...emptyDocument(size), layers });
const maskIn = (document: UmboDocument, id: string): Mask => resolveLayers(document).find((one) => one.layer.id === id)!.where;

const lights = part('luminosity', 'lights');
const narrower = part('luminosity', 'narrower', { grade: 3 });
const ellipse = part('ellipse', 'ellipse');
const fade = part('gradient', 'fade');

describe('a bracket', () => {
  it('counts as one part: lights, less narrower lights, within an ellipse', () => {
    const [a, b, c] = [lights, narrower, ellipse].map((one) => render(mask([one])));
    const inside = bracket('b', { parts: [lights, { ...narrower, combine: 'cut' }] });
    const made = render(mask([inside, { ...ellipse, combine: 'common' }]));
    // The same the other way round: what is in the bracket is kept common with what stands before it.
    const turned = render(mask([ellipse, { ...inside, combine: 'common' }]));
    for (let i = 0; i < made.length; i++) {
      const wanted = (Math.max(0, a![i]! - b![i]!) * c![i]!) / 65535;
      expect(Math.abs(made[i]! - wanted)).toBeLessThan(2.5);
      expect(Math.abs(turned[i]! - wanted)).toBeLessThan(2.5);
    }
  });

  it('has strength, sense and refining steps of its own, and does not count while it is empty', () => {
    const weak = render(mask([bracket('b', { parts: [ellipse], strength: 0.5, invert: true })]));
    const own = render(mask([ellipse], { strength: 0.5, invert: true }));
    expect([...weak]).toEqual([...own]);
    const soft = bracket('b', { parts: [ellipse], refine: [{ kind: 'feather', radius: 5 }] });
    expect([...render(mask([soft]))]).toEqual([...render(mask([ellipse], { refine: [{ kind: 'feather', radius: 5 }] }))]);
    for (const combine of ['add', 'cut', 'common'] as const)
      expect([...render(mask([ellipse, bracket('b', { parts: [bracket('c', {})] }, { combine })]))]).toEqual([...render(mask([ellipse]))]);
  });

  it('is gone into: parts are found in it, and new ones go where the one in work stands', () => {
    const m = mask([ellipse, bracket('b', { parts: [lights, bracket('c', { link: 'other' })] })]);
    expect(findPart(m, 'lights')).toBe(lights);
    expect([null, 'ellipse', 'b', 'lights', 'c', 'gone'].map((id) => partsAt(m, id).length)).toEqual([2, 2, 2, 2, 2, 2]);
    expect(partsAt(m, 'b')).toBe((m.parts[1] as BracketPart).mask.parts);
    expect(partsAt(m, 'c')).toBe(partsAt(m, 'lights'));
  });

  it('shows where a mask changed, whatever changes in it', () => {
    const stroke = { id: 's', size: 6, hardness: 1, flow: 1, opacity: 1, erase: false, points: [10, 10, 1] };
    const brush = (strokes: object[]): MaskPart => part('brush', 'brush', { strokes });
    const states = [
      mask([bracket('b', { parts: [brush([])] })]),
      mask([bracket('b', { parts: [brush([stroke])] })]),
      mask([bracket('b', { parts: [brush([stroke])], invert: true })]),
      mask([bracket('b', { parts: [brush([stroke]), fade] })]),
      mask([bracket('b', { parts: [] })]),
    ];
    for (const before of states)
      for (const after of states) {
        const area = maskChange(before, after, scale);
        const [a, b] = [render(before), render(after)];
        for (let i = 0; i < a.length; i++) {
          const [x, y] = [i % size.width, Math.floor(i / size.width)];
          const inside = x >= area.x && y >= area.y && x < area.x + area.width && y < area.y + area.height;
          if (!inside) expect(a[i]).toBe(b[i]);
        }
      }
    expect(maskChange(states[0]!, states[1]!, scale).width).toBeLessThan(20);
  });
});

describe('narrower', () => {
  it('catches less of the same, for every kind that has a way', () => {
    const samples: Record<string, object> = {
      hueRange: { from: 0, span: 120 },
      likeness: { colours: [{ colour: [0.5, 0.5, 0.5], away: false }], tolerance: 20, softness: 20 },
      pick: { picks: [{ x: 24, y: 18, colour: [0.5, 0.5, 0.5], away: false }], contiguous: false, tolerance: 30, softness: 20 },
    };
    const sum = (m: Mask): number => render(m).reduce((total, v) => total + v, 0);
    const kinds = maskPartKinds.filter((kind: { narrow?: unknown }) => kind.narrow);
    expect(kinds.length).toBeGreaterThan(3);
    for (const { kind } of kinds) {
      const before = part(kind, 'n', samples[kind]);
      const after = structuredClone(before);
      maskPartKind(kind).narrow!(after);
      const [wide, less] = [render(mask([before])), render(mask([after]))];
      expect(sum(mask([after])), kind).toBeLessThan(0.8 * sum(mask([before])));
      expect(
        less.every((v, i) => v <= wide[i]! + 1),
        kind,
      ).toBe(true);
    }
  });
});

describe('live links in masks', () => {
  const giver = layer('a', mask([ellipse, { ...fade, combine: 'common' }], { refine: [{ kind: 'grow', by: 2 }] }));

  it('show what the other mask is now, with strength, sense and further steps of their own', () => {
    const taker = layer(
      't',
      mask([lights, bracket('b', { link: 'a', invert: true, refine: [{ kind: 'feather', radius: 3 }] }, { combine: 'cut' })]),
    );
    const written = bracket(
      'b',
      { ...giver.where, invert: true, refine: [...giver.where.refine, { kind: 'feather', radius: 3 }] },
      { combine: 'cut' },
    );
    expect([...render(maskIn(of(giver, taker), 't'))]).toEqual([...render(mask([lights, written]))]);
    const painted = layer('p', mask([part('brush', 'x', { start: 'full', through: mask([], { link: 'a' }) })]));
    const through = part('brush', 'x', { start: 'full', through: giver.where });
    expect([...render(maskIn(of(giver, painted), 'p'))]).toEqual([...render(mask([through]))]);
  });

  it('stay the same object until what they show changes', () => {
    const taker = layer('t', mask([bracket('b', { link: 'a' })]));
    const document = of(giver, taker, layer('c', mask([], { link: 't', refine: [{ kind: 'feather', radius: 1 }] })));
    const other = edit(
      document,
      onLayer('a', (draft) => void (draft.how.opacity = 0.5)),
    ).document;
    expect(['t', 'c'].map((id) => maskIn(other, id) === maskIn(document, id))).toEqual([true, true]);
    const changed = edit(
      document,
      onLayer('a', ({ where }) => void (where.refine = [])),
    ).document;
    expect(['t', 'c'].map((id) => maskIn(changed, id) === maskIn(document, id))).toEqual([false, false]);
  });

  it('become copies when their layer goes, or when that is asked for', () => {
    const document = of(giver, layer('t', mask([lights, bracket('b', { link: 'a' }, { combine: 'common' })])));
    const before = render(maskIn(document, 't'));
    const gone = edit(document, removeLayers(['a'])).document;
    const owned = edit(document, (draft) => ownParts(draft, (draft.layers[1]!.where.parts[1] as BracketPart).mask as Mask)).document;
    for (const after of [gone, owned]) {
      expect(faultOf(after)).toBeNull();
      expect(JSON.stringify(after.layers.at(-1))).not.toContain('"link"');
      expect([...render(maskIn(after, 't'))]).toEqual([...before]);
    }
  });

  it('are refused in a loop and into nothing, and only then, whatever links to what', () => {
    const ids = ['a', 'b', 'c', 'd', 'e'];
    const links = fc.array(fc.tuple(fc.constantFrom(...ids), fc.constantFrom(...ids, 'gone'), fc.boolean()), { maxLength: 7 });
    fc.assert(
      fc.property(links, (drawn) => {
        const document = of(
          ...ids.map((id) => {
            const mine = drawn.filter(([from]) => from === id);
            const whole = mine.find(([, , isWhole]) => isWhole)?.[1];
            return layer(
              id,
              mask(
                mine.filter(([, , isWhole]) => !isWhole).map(([, to], i) => bracket(`${id}${i}`, { link: to })),
                whole ? { link: whole } : {},
              ),
            );
          }),
        );
        const edges = document.layers.flatMap(({ id, where }) => [
          ...(where.link ? [[id, where.link]] : []),
          ...where.parts.map((one) => [id, (one as BracketPart).mask.link!]),
        ]);
        // What leads nowhere further can be taken away, again and again: in a loop, something always leads further.
        let left = edges;
        for (let n = 0; n < ids.length; n++) left = left.filter(([, to]) => left.some(([from]) => from === to));
        const fault = faultOf(document);
        if (left.length > 0) expect(fault).toMatch(/linked in a loop|does not exist/);
        else if (edges.some(([, to]) => to === 'gone')) expect(fault).toMatch(/does not exist/);
        else expect(fault).toBeNull();
        for (const id of ids) render(maskIn(document, id));
      }),
      { numRuns: 60 },
    );
  });

  it('are refused where masks that stand in each other twice would grow without end', () => {
    const twice = (i: number): Layer =>
      layer(`l${i}`, mask(i === 0 ? [ellipse] : [0, 1].map((n) => bracket(`b${i}-${n}`, { link: `l${i - 1}` }))));
    expect(faultOf(of(...Array.from({ length: 8 }, (_, i) => twice(i))))).toBeNull();
    expect(faultOf(of(...Array.from({ length: 40 }, (_, i) => twice(i))))).toMatch(/more than 1000 parts/);
    let deep: MaskPart = ellipse;
    for (let i = 0; i < 12; i++) deep = bracket(`d${i}`, { parts: [deep] });
    expect(faultOf(of(layer('a', mask([deep]))))).toMatch(/nested more than 8 deep/);
  });
});
