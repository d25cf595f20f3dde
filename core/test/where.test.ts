/** Mask parts and refining steps, against published definitions and against programs that were not written here. */
import Color from 'colorjs.io';
import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { createRaster, noPictures, withOverview, quantise, wholeOf, type Raster, type Rect } from '@umbo/core/base';
import { srgb, beyondPrint } from '@umbo/core/colour';
import { adjustmentLayer, emptyDocument } from '@umbo/core/document';
import { guidedFilter } from '@umbo/core/filter';
import {
  floodFill,
  luminosityCover,
  maskPartKind,
  maskPartKinds,
  maskReach,
  moveRegion,
  refineKind,
  refineKinds,
  renderMask,
  type BrushPart,
  type EllipsePart,
  type GradientPart,
  type HueRangePart,
  type LikenessPart,
  type LuminosityPart,
  type Mask,
  type MaskPart,
  type OutlinePart,
  type PickPart,
  type RefineStep,
  type Taken,
} from '@umbo/core/mask';
import { healthOf } from '@umbo/core/measure';
import { renderRegion } from '@umbo/core/render';

const size = { width: 96, height: 72 };
const whole = wholeOf(size);
const scale = { picture: size, full: size };
/** Patches of colours with a little noise, repeatable. */
const photograph: Raster = createRaster(whole);
{
  let state = 11;
  const noise = (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, i++) {
      const patch = ((x >> 5) + 3 * (y >> 4)) % 7;
      photograph.r[i] = Math.min(65535, [9000, 52000, 30000, 61000, 20000, 42000, 33000][patch]! + noise() * 3000);
      photograph.g[i] = Math.min(65535, [22000, 14000, 47000, 58000, 21000, 30000, 32000][patch]! + noise() * 3000);
      photograph.b[i] = Math.min(65535, [48000, 12000, 15000, 52000, 22000, 60000, 34000][patch]! + noise() * 3000);
    }
}
const pictures = withOverview(noPictures, photograph);
const mask = (parts: MaskPart[], refine: RefineStep[] = []): Mask => ({ parts, refine, strength: 1, invert: false });
const part = <P extends MaskPart>(kind: P['kind'], values: Partial<P>): P =>
  ({ ...maskPartKind<P>(kind).create('p', 'add', size), ...values }) as P;
const render = (m: Mask, region: Rect = whole): Uint16Array => renderMask(m, scale, region, photograph, pictures);
const colourAt = (x: number, y: number): [number, number, number] => {
  const i = y * size.width + x;
  return [photograph.r[i]! / 65535, photograph.g[i]! / 65535, photograph.b[i]! / 65535];
};
const taken = (x: number, y: number): Taken => ({ space: srgb, colour: colourAt(x, y), x: x + 0.5, y: y + 0.5 });

/** One of every kind, so that it covers something. */
const everyPart: MaskPart[] = maskPartKinds.map((kind) => {
  const made = kind.create(kind.kind, 'add', size) as MaskPart;
  if (made.kind === 'likeness' || made.kind === 'pick') maskPartKind(made.kind).take!(made, taken(40, 20), false);
  if (made.kind === 'outline') made.shapes = [[10, 8, 80, 14, 60, 66]];
  if (made.kind === 'bracket') made.mask = mask([maskPartKind('ellipse').create('inside', 'add', size) as MaskPart]);
  if (made.kind === 'texture') Object.assign(made, { threshold: 4, radius: 5 });
  if (made.kind === 'brush')
    made.strokes = [{ id: 's', size: 24, hardness: 0.4, flow: 0.5, opacity: 1, erase: false, points: [20, 20, 1, 70, 50, 1], alike: 12 }];
  return made;
});

describe('every kind of part and step', () => {
  const steps: RefineStep[] = [
    ...refineKinds.map((kind) => kind.create() as RefineStep),
    { kind: 'feather', radius: 7, side: 'inward' },
    { kind: 'feather', radius: 7, side: 'outward' },
    { kind: 'grow', by: -2.5 },
  ];
  const region: Rect = { x: 31, y: 17, width: 40, height: 33 };

  it('gives the same bytes for a part of the picture as for the whole', () => {
    const masks = [
      ...everyPart.map((one) => mask([one])),
      ...steps.map((step) => mask([everyPart[0]!, { ...everyPart[1]!, combine: 'cut' }], [step])),
    ];
    for (const m of masks) {
      const all = render(m);
      const some = render(m, region);
      for (let y = 0; y < region.height; y++)
        expect(
          Buffer.compare(
            Buffer.from(some.slice(y * region.width, (y + 1) * region.width).buffer),
            Buffer.from(all.slice((region.y + y) * size.width + region.x, (region.y + y) * size.width + region.x + region.width).buffer),
          ),
        ).toBe(0);
    }
  });

  it('is defined on a single pixel and on a strip, and never leaves its range', () => {
    for (const odd of [
      { width: 1, height: 1 },
      { width: 400, height: 1 },
    ]) {
      const raster = createRaster(wholeOf(odd));
      raster.r.fill(40000);
      for (const one of everyPart)
        for (const step of steps) {
          const out = renderMask(mask([one], [step]), { picture: odd, full: odd }, wholeOf(odd), raster, withOverview(noPictures, raster));
          // Along a strip of one colour everything that is a rule alone is the same everywhere.
          const isRule = !['gradient', 'ellipse', 'outline', 'brush', 'frameEdge', 'pick', 'picture', 'found', 'bracket'].includes(
            one.kind,
          );
          if (isRule) expect(new Set(out).size, `${one.kind}, ${step.kind}`).toBe(1);
          else expect(out.some((v) => v > 0) || one.kind !== 'gradient', one.kind).toBe(true);
        }
    }
  });

  it('weakens by its strength: half of an added cover, half of what is not common', () => {
    fc.assert(
      fc.property(fc.constantFrom(...everyPart), fc.double({ min: 0, max: 1, noNaN: true }), (one, strength) => {
        const plain = render(mask([one]));
        const base = everyPart[5]!;
        const [below, common] = [render(mask([base])), render(mask([base, { ...one, combine: 'common', strength }]))];
        const weak = render(mask([{ ...one, strength }]));
        for (let i = 0; i < plain.length; i += 37) {
          expect(Math.abs(weak[i]! - plain[i]! * strength)).toBeLessThan(2);
          expect(Math.abs(common[i]! - below[i]! * (1 - strength * (1 - plain[i]! / 65535)))).toBeLessThan(3);
        }
      }),
      { numRuns: 30 },
    );
  });

  it('agrees between scales', () => {
    // Twice as large: the photograph as it is, and the same pixels doubled, with the overview of the smaller one for both.
    const full = { width: size.width * 2, height: size.height * 2 };
    const large = createRaster(wholeOf(full));
    for (const plane of ['r', 'g', 'b'] as const)
      for (let y = 0; y < full.height; y++)
        for (let x = 0; x < full.width; x++) large[plane][y * full.width + x] = photograph[plane][(y >> 1) * size.width + (x >> 1)]!;
    for (const step of [...steps, null]) {
      const shape = part<OutlinePart>('outline', { shapes: [[30, 24, 150, 40, 120, 120, 44, 110]] });
      const m = mask([shape, { ...everyPart[0]!, combine: 'cut' }], step ? [step] : []);
      const big = renderMask(m, { picture: full, full }, wholeOf(full), large, pictures);
      const small = renderMask(m, { picture: size, full }, whole, photograph, pictures);
      let sum = 0;
      for (let y = 0; y < size.height; y++)
        for (let x = 0; x < size.width; x++) {
          const at = 2 * y * full.width + 2 * x;
          sum += Math.abs(small[y * size.width + x]! - (big[at]! + big[at + 1]! + big[at + full.width]! + big[at + full.width + 1]!) / 4);
        }
      expect(sum / small.length / 65535, step?.kind ?? 'none').toBeLessThan(2 / 255);
    }
  });
});

describe('pick', () => {
  it('floods what a plain search reaches', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 80, maxLength: 80 }), fc.nat(9), fc.nat(7), (open, x, y) => {
        const reached = new Set<number>();
        const visit = (at: number): void => {
          if (!open[at] || reached.has(at)) return;
          reached.add(at);
          const [u, v] = [at % 10, Math.floor(at / 10)];
          if (u > 0) visit(at - 1);
          if (u < 9) visit(at + 1);
          if (v > 0) visit(at - 10);
          if (v < 7) visit(at + 10);
        };
        visit(y * 10 + x);
        expect([...floodFill(10, 8, x, y, (i) => open[i]!)].flatMap((v, i) => (v ? [i] : []))).toEqual([...reached].sort((a, b) => a - b));
      }),
    );
  });

  it('keeps what each of two hundred clicks reaches while others are looked at, and lets go of it with the click', () => {
    let looked = 0;
    const at = (i: number): [number, number] => [(i * 7) % size.width, (i * 3) % size.height];
    const picks = Array.from({ length: 200 }, (_, i) => ({
      // Where a click is, is only asked for when what it reaches is looked for.
      get x() {
        looked++;
        return at(i)[0];
      },
      y: at(i)[1],
      colour: taken(...at(i)).colour,
      away: false,
    }));
    const where = mask([part<PickPart>('pick', { tolerance: 8, softness: 3, picks })]);
    const first = render(where);
    const once = looked;
    expect(render(where)).toEqual(first);
    expect([once, looked]).toEqual([200, 200]);
  });

  it('takes what is connected to the click, or what is alike everywhere, and gives back what is left out', () => {
    const picked = part<PickPart>('pick', { tolerance: 8, softness: 3 });
    const kind = maskPartKind<PickPart>('pick');
    kind.take!(picked, taken(10, 6), false);
    const near = render(mask([picked]));
    const everywhere = render(mask([{ ...picked, contiguous: false }]));
    const sum = (values: Uint16Array): number => values.reduce((total, v) => total + v, 0);
    expect(near[6 * size.width + 10]).toBe(65535);
    expect(sum(everywhere)).toBeGreaterThan(sum(near) * 1.3);
    for (let i = 0; i < near.length; i++) expect(near[i]!).toBeLessThanOrEqual(everywhere[i]!);
    kind.take!(picked, taken(12, 8), true);
    expect(sum(render(mask([picked])))).toBeLessThan(sum(near));
  });
});

describe('likeness', () => {
  it('forgets no colour when there are more than it holds: those nearest to each other become one', () => {
    const kind = maskPartKind<LikenessPart>('likeness');
    const probe = part<LikenessPart>('likeness', {});
    const values = Array.from({ length: 39 }, (_, i) => 0.05 + i * 0.024 + (i % 2) * 0.003);
    kind.take!(probe, { space: srgb, colour: [0.9, 0.1, 0.1], x: 0, y: 0 }, false);
    values.forEach((v, i) => kind.take!(probe, { space: srgb, colour: [v, v, v], x: 0, y: 0 }, i % 2 === 1));
    expect(probe.colours).toHaveLength(40);
    kind.take!(probe, { space: srgb, colour: [0.1, 0.1, 0.9], x: 0, y: 0 }, true);
    expect(probe.colours).toHaveLength(40);
    expect([probe.colours[0], probe.colours.at(-1)]).toEqual([
      { colour: [0.9, 0.1, 0.1], away: false },
      { colour: [0.1, 0.1, 0.9], away: true },
    ]);
    // Two greys of one kind are their mean now, all others are as they were.
    const greys = probe.colours.slice(1, -1).map(({ colour: [v] }) => v);
    expect(greys.filter((v) => !values.some((one) => Math.abs(one - v) < 1e-9))).toHaveLength(1);
    expect(greys).toHaveLength(38);
  });

  it('measures as colorjs.io does in OKLab, with a and b counted twice', () => {
    const probe = part<LikenessPart>('likeness', { tolerance: 0, softness: 60, lightness: 100 });
    maskPartKind<LikenessPart>('likeness').take!(probe, taken(3, 3), false);
    const values = render(mask([probe]));
    const [l, a, b] = new Color('srgb', colourAt(3, 3)).to('oklab').coords as [number, number, number];
    for (let i = 0; i < values.length; i += 101) {
      const [x, y, z] = new Color('srgb', colourAt(i % size.width, Math.floor(i / size.width))).to('oklab').coords as [
        number,
        number,
        number,
      ];
      const distance = 100 * Math.hypot(x - l, 2 * (y - a), 2 * (z - b));
      const t = Math.max(0, (60 - distance) / 60);
      expect(Math.abs(values[i]! / 65535 - t * t * (3 - 2 * t))).toBeLessThan(1e-3);
    }
  });

  it('lets the nearer colour decide, and a colour that is caught again is no longer left out', () => {
    const kind = maskPartKind<LikenessPart>('likeness');
    const probe = part<LikenessPart>('likeness', { tolerance: 60, softness: 2 });
    kind.take!(probe, taken(3, 3), false);
    kind.take!(probe, taken(40, 3), true);
    const values = render(mask([probe]));
    expect([values[3 * size.width + 3], values[3 * size.width + 40]]).toEqual([65535, 0]);
    kind.take!(probe, taken(40, 3), false);
    expect(probe.colours.map(({ away }) => away)).toEqual([false, false]);
  });
});

describe('looking at the result so far', () => {
  const turned = (part: MaskPart): Raster => {
    const first = adjustmentLayer('t', 'hueSaturation', 'Turned');
    Object.assign(first.what.settings, { hue: 120 });
    const second = adjustmentLayer('s', 'hueSaturation', 'Second');
    Object.assign(second.what.settings, { saturation: -100 });
    second.where.parts = [part];
    const out = createRaster(whole);
    renderRegion({ ...emptyDocument(size), layers: [first, second] }, scale, whole, photograph, pictures, (tile, pixels) => {
      for (const plane of ['r', 'g', 'b'] as const)
        for (let y = 0, i = 0; y < tile.height; y++)
          for (let x = 0; x < tile.width; x++, i++) out[plane][(tile.y + y) * size.width + tile.x + x] = quantise(pixels[plane][i]!, 65535);
    });
    return out;
  };
  const grey = ({ r, g, b }: Raster, x: number, y: number): boolean => {
    const i = y * size.width + x;
    return Math.max(r[i]!, g[i]!, b[i]!) - Math.min(r[i]!, g[i]!, b[i]!) < 900;
  };

  it('catches the colours that the layers below made, and those of the photograph no longer', () => {
    const none = part<LikenessPart>('likeness', { colours: [{ colour: [0, 0, 0], away: false }], tolerance: 0 });
    const made = turned(none);
    const i = 8 * size.width + 40;
    const colour: [number, number, number] = [made.r[i]! / 65535, made.g[i]! / 65535, made.b[i]! / 65535];
    const caught = { tolerance: 12, softness: 3, lightness: 100 } as const;
    const ofResult = part<LikenessPart>('likeness', { ...caught, result: true, colours: [{ colour, away: false }] });
    expect([grey(turned(ofResult), 40, 8), grey(turned({ ...ofResult, result: false }), 40, 8)]).toEqual([true, false]);
    const picked = part<PickPart>('pick', { tolerance: 12, softness: 3, result: true, picks: [{ x: 40.5, y: 8.5, colour, away: false }] });
    const pickedPicture = turned(picked);
    expect([grey(pickedPicture, 40, 8), grey(pickedPicture, 3, 3)]).toEqual([true, false]);
  });
});

describe('luminosity', () => {
  it('has grades that are the first one multiplied with itself (common practice, no source), and mirrored darks', () => {
    for (const l of [0, 0.2, 0.5, 0.83, 1])
      for (const grade of [1, 2, 3, 6]) {
        const at = (tones: LuminosityPart['tones'], v: number, g: number): number =>
          luminosityCover({ tones, grade: g, range: [0, 0, 1, 1] }, v);
        for (const tones of ['lights', 'midtones', 'darks'] as const) expect(at(tones, l, grade)).toBeCloseTo(at(tones, l, 1) ** grade, 12);
        expect(at('darks', l, grade)).toBeCloseTo(at('lights', 1 - l, grade), 12);
      }
  });

  it('drops a blue out of the darks when blue counts as light, and leaves greys alone', () => {
    const flat = createRaster({ x: 0, y: 0, width: 2, height: 1 });
    flat.r.set([4000, 20000]);
    flat.g.set([9000, 20000]);
    flat.b.set([40000, 20000]);
    const dark = (blue: number): Uint16Array =>
      renderMask(
        mask([part<LuminosityPart>('luminosity', { tones: 'darks', grade: 2, blue })]),
        { picture: { width: 2, height: 1 }, full: { width: 2, height: 1 } },
        flat.area,
        flat,
        noPictures,
      );
    expect(dark(100)[0]!).toBeLessThan(dark(0)[0]! * 0.5);
    expect(dark(100)[1]).toBe(dark(0)[1]);
  });
});

describe('hue range', () => {
  it('is widened to catch a hue and narrowed to leave it out, whatever the range and the hue', () => {
    const kind = maskPartKind<HueRangePart>('hueRange');
    const colours = [[0.8, 0.2, 0.2], [0.7, 0.6, 0.1], [0.2, 0.7, 0.3], [0.1, 0.6, 0.7], [0.2, 0.3, 0.8], [0.7, 0.2, 0.6]] as const; // prettier-ignore
    fc.assert(
      fc.property(fc.constantFrom(...colours), fc.nat(359), fc.nat(40), fc.nat(150), fc.nat(40), (colour, from, fadeIn, span, fadeOut) => {
        const covered = (range: HueRangePart): number => {
          const flat = createRaster({ x: 0, y: 0, width: 1, height: 1 });
          (['r', 'g', 'b'] as const).forEach((plane, c) => flat[plane].fill(Math.round(colour[c]! * 65535)));
          return renderMask(mask([{ ...range }]), { picture: flat.area, full: flat.area }, flat.area, flat, noPictures)[0]!;
        };
        const range = part<HueRangePart>('hueRange', { from, fadeIn, span, fadeOut });
        kind.take!(range, { space: srgb, colour: [...colour], x: 0, y: 0 }, false);
        expect(covered(range)).toBe(65535);
        kind.take!(range, { space: srgb, colour: [...colour], x: 0, y: 0 }, true);
        expect(covered(range)).toBe(0);
      }),
    );
  });
});

describe('shapes', () => {
  it('fills an outline as librsvg does, by the even-odd rule', async () => {
    const shapes = [
      [12, 9, 84.5, 14, 60.2, 66.7, 20, 50],
      [30, 20, 60, 22, 45, 50],
    ];
    const ours = render(mask([part<OutlinePart>('outline', { shapes })]));
    const path = shapes.map((shape) => `M${shape.join(' ')}Z`).join('');
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}"><rect width="100%" height="100%"/><path d="${path}" fill="#fff" fill-rule="evenodd"/></svg>`;
    sharp.unblock({ operation: ['VipsForeignLoadSvg'] }); // the server's code closes it, for all of a process
    const theirs = await sharp(Buffer.from(svg)).removeAlpha().toColourspace('b-w').raw().toBuffer();
    let sum = 0;
    for (let i = 0; i < ours.length; i++) {
      const off = Math.abs(ours[i]! / 257 - theirs[i]!);
      sum += off;
      expect(off).toBeLessThan(70); // a rim pixel: both take samples of it
    }
    expect(sum / ours.length).toBeLessThan(0.6);
  });

  it('moves, scales and copies what has a place, and nothing else', () => {
    const m = mask(structuredClone([everyPart[0]!, ...everyPart.filter(({ kind }) => kind === 'outline' || kind === 'ellipse')]));
    const before = structuredClone(m);
    moveRegion(m, { dx: 5, dy: -3, scale: 2, about: { x: 10, y: 8 } }, null, null);
    expect(m.parts[0]).toEqual(before.parts[0]);
    const outline = m.parts.find(({ kind }) => kind === 'outline') as OutlinePart;
    expect(outline.shapes[0]).toEqual([15, 5, 155, 17, 115, 121]);
    moveRegion(m, { dx: 1, dy: 1, scale: 1, about: { x: 0, y: 0 } }, null, (id) => `${id}2`);
    expect(m.parts.map(({ id }) => id)).toEqual(['hueRange', 'ellipse', 'outline', 'ellipse2', 'outline2']);
  });
});

describe('brush', () => {
  it('paints only what is like its centre, and only through the mask it is given', () => {
    const flat = createRaster({ x: 0, y: 0, width: 60, height: 30 });
    for (let i = 0; i < 1800; i++) flat.r[i] = i % 60 < 30 ? 50000 : 10000;
    const stroke = { id: 's', size: 40, hardness: 1, flow: 1, opacity: 1, erase: false, points: [22, 15, 1] };
    const at = { picture: flat.area, full: flat.area };
    const painted = (values: Partial<BrushPart>): Uint16Array =>
      renderMask(mask([part<BrushPart>('brush', values)]), at, flat.area, flat, withOverview(noPictures, flat));
    const plain = painted({ strokes: [stroke] });
    const stopped = painted({ strokes: [{ ...stroke, alike: 6 }] });
    const row = 15 * 60;
    expect([plain[row + 25], plain[row + 35]]).toEqual([65535, 65535]);
    expect([stopped[row + 25], stopped[row + 35]]).toEqual([65535, 0]);
    const through = mask([part<OutlinePart>('outline', { shapes: [[0, 0, 60, 0, 60, 15, 0, 15]] })]);
    const half = painted({ strokes: [stroke], through });
    expect([half[10 * 60 + 25], half[20 * 60 + 25]]).toEqual([65535, 0]);
    expect(
      maskReach(mask([part<BrushPart>('brush', { through: { ...through, refine: [{ kind: 'feather', radius: 8 }] } })]), at),
    ).toBeGreaterThan(8);
  });
});

describe('refining', () => {
  /** He, Sun & Tang 2013, equations 19 to 21, as they are written: windows by loops, and a general solution of the equations. */
  function byDefinition(p: number[], guide: number[][], width: number, height: number, radius: number, epsilon: number): number[] {
    const windowOf = (at: number): number[] => {
      const [x, y] = [at % width, Math.floor(at / width)];
      const list: number[] = [];
      for (let v = Math.max(0, y - radius); v <= Math.min(height - 1, y + radius); v++)
        for (let u = Math.max(0, x - radius); u <= Math.min(width - 1, x + radius); u++) list.push(v * width + u);
      return list;
    };
    const mean = (list: number[], of: (i: number) => number): number => list.reduce((sum, i) => sum + of(i), 0) / list.length;
    const lines = p.map((_, at) => {
      const list = windowOf(at);
      const mu = guide.map((channel) => mean(list, (i) => channel[i]!));
      const pm = mean(list, (i) => p[i]!);
      const rows = guide.map((first, r) => [
        ...guide.map((second, c) => mean(list, (i) => first[i]! * second[i]!) - mu[r]! * mu[c]! + (r === c ? epsilon : 0)),
        mean(list, (i) => first[i]! * p[i]!) - mu[r]! * pm,
      ]);
      for (let k = 0; k < 3; k++)
        for (let r = 0; r < 3; r++) {
          if (r === k) continue;
          const f = rows[r]![k]! / rows[k]![k]!;
          rows[r] = rows[r]!.map((v, c) => v - f * rows[k]![c]!);
        }
      const a = rows.map((row, k) => row[3]! / row[k]!);
      return { a, b: pm - a.reduce((sum, v, k) => sum + v * mu[k]!, 0) };
    });
    return p.map((_, at) => {
      const list = windowOf(at);
      return guide.reduce(
        (sum, channel, k) => sum + mean(list, (i) => lines[i]!.a[k]!) * channel[at]!,
        mean(list, (i) => lines[i]!.b),
      );
    });
  }

  it('follows edges as the guided filter of its paper does', () => {
    const [width, height] = [14, 11];
    let state = 3;
    const noise = (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
    const guide = [0, 1, 2].map((c) =>
      Float32Array.from({ length: width * height }, (_, i) => (i % width > 6 ? 0.7 : 0.2) + c * 0.05 + noise() * 0.15),
    );
    const input = Uint16Array.from({ length: width * height }, (_, i) => (i % width > 5 ? 60000 : 3000));
    for (const [radius, epsilon] of [
      [1, 1e-3],
      [2, 1e-4],
      [4, 1e-2],
    ] as const) {
      const ours = input.slice();
      guidedFilter(ours, { r: guide[0]!, g: guide[1]!, b: guide[2]! }, width, height, radius, epsilon);
      const theirs = byDefinition(
        [...input].map((v) => v / 65535),
        guide.map((channel) => [...channel].map((v) => Math.round(v * 1023) / 1023)),
        width,
        height,
        radius,
        epsilon,
      );
      theirs.forEach((v, i) => expect(Math.abs(ours[i]! / 65535 - Math.max(0, Math.min(1, v)))).toBeLessThan(2e-3));
    }
  });

  const apply = (step: RefineStep, plane: Uint16Array, width: number, height: number): Uint16Array => {
    const out = plane.slice();
    const region = { x: 0, y: 0, width, height };
    refineKind(step.kind).apply(step, 1, out, { region } as never);
    return out;
  };
  const plane = (rows: string[]): Uint16Array => Uint16Array.from(rows.join(''), (c) => (c === '#' ? 65535 : c === '+' ? 20000 : 0));

  it('drops islands and fills holes up to a size, at every level of grey, and leaves the rest to the bit', () => {
    const before = plane(['..........', '.#..######', '....##.###', '....######', '++..######', '....######']);
    const after = plane(['..........', '....######', '....######', '....######', '....######', '....######']);
    expect([...apply({ kind: 'clean', islands: 2, holes: 2 }, before, 10, 6)]).toEqual([...after]);
    expect([...apply({ kind: 'clean', islands: 0, holes: 0 }, before, 10, 6)]).toEqual([...before]);
    // Once clean, it stays as it is.
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(0, 9000, 30000, 65535), { minLength: 120, maxLength: 120 }),
        fc.integer({ min: 1, max: 5 }),
        (values, side) => {
          const once = apply({ kind: 'clean', islands: side, holes: 0 }, Uint16Array.from(values), 12, 10);
          expect([...apply({ kind: 'clean', islands: side, holes: 0 }, once, 12, 10)]).toEqual([...once]);
        },
      ),
    );
  });

  it('grows by discs: every pixel is the greatest within the radius; shrinking is growing what is outside', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(65535), { minLength: 130, maxLength: 130 }), fc.integer({ min: 1, max: 5 }), (values, by) => {
        const input = Uint16Array.from(values);
        const grown = apply({ kind: 'grow', by }, input, 13, 10);
        for (let y = 0; y < 10; y++)
          for (let x = 0; x < 13; x++) {
            let most = 0;
            for (let v = 0; v < 10; v++)
              for (let u = 0; u < 13; u++) if ((u - x) ** 2 + (v - y) ** 2 <= by * by) most = Math.max(most, values[v * 13 + u]!);
            expect(grown[y * 13 + x]).toBe(most);
          }
        const inverse = apply(
          { kind: 'grow', by: -by },
          input.map((v) => 65535 - v),
          13,
          10,
        );
        expect([...inverse].map((v) => 65535 - v)).toEqual([...grown]);
      }),
      { numRuns: 40 },
    );
  });

  it('feathers inward without touching the outside, outward without touching the inside', () => {
    const edge = Uint16Array.from({ length: 60 * 5 }, (_, i) => (i % 60 >= 30 ? 65535 : 0));
    const [inward, outward] = (['inward', 'outward'] as const).map((side) => apply({ kind: 'feather', radius: 12, side }, edge, 60, 5));
    for (let x = 0; x < 60; x++) {
      if (x < 30) expect(inward![x]).toBe(0);
      else expect(outward![x]).toBe(65535);
    }
    expect(inward![31]!).toBeLessThan(20000);
    expect(outward![28]!).toBeGreaterThan(45000);
  });

  it('stretches between black and white point, with the middle at one half', () => {
    const ramp = Uint16Array.from({ length: 101 }, (_, i) => Math.round((i / 100) * 65535));
    const out = apply({ kind: 'contrast', black: 20, white: 80, middle: 50 }, ramp, 101, 1);
    expect([out[20], out[80], out[0], out[100]]).toEqual([0, 65535, 0, 65535]);
    expect(Math.abs(out[50]! - 32768)).toBeLessThan(400);
    const dark = apply({ kind: 'contrast', black: 0, white: 100, middle: 25 }, ramp, 101, 1);
    expect(Math.abs(dark[25]! - 32768)).toBeLessThan(400);
  });

  it('finds stray marks, pinholes and hard edges, and only those', () => {
    const [width, height] = [40, 30];
    const values = Uint16Array.from({ length: width * height }, (_, i) => (i % width > 12 && i % width < 34 ? 65535 : 0));
    values[5 * width + 20] = 0;
    values[9 * width + 3] = 65535;
    values[9 * width + 4] = 65535;
    const found = healthOf(values, width, height, 0.1);
    expect(found.stray).toEqual([{ x: 3, y: 9, width: 2, height: 1 }]);
    expect(found.pinholes).toEqual([{ x: 20, y: 5, width: 1, height: 1 }]);
    expect(found.hardShare).toBe(1);
    expect(found.hard).toHaveLength(2);
    // Room for their rims, and less than what is meant.
    expect([found.straySide, found.pinholeSide]).toEqual([5, 4]);
    const soft = apply({ kind: 'feather', radius: 8 }, values, width, height);
    expect(healthOf(soft, width, height, 0.1)).toMatchObject({ stray: [], pinholes: [], hardShare: 0 });
  });
});

it('slips of the brush are stray beside a large part, whatever their pixels, and not beside one of their own size', () => {
  // A quarter of 1600 × 2000: a face of 440 × 560, dabs of 125 and 60.
  const [width, height] = [400, 500];
  const plane = new Uint16Array(width * height);
  const disc = (cx: number, cy: number, rx: number, ry = rx): void => {
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) if (((x - cx) / rx) ** 2 + ((y - cy) / ry) ** 2 <= 1) plane[y * width + x] = 65535;
  };
  disc(300, 60, 125 / 8);
  disc(60, 60, 60 / 8);
  expect(healthOf(plane, width, height, 0.1).stray).toHaveLength(0);
  disc(200, 300, 110, 140);
  const { stray, straySide } = healthOf(plane, width, height, 0.1);
  expect(stray.map((box) => box.width)).toEqual([expect.closeTo(31, -1), expect.closeTo(15, -1)]);
  expect(straySide).toBeGreaterThan(31);
  expect(straySide).toBeLessThan(220);
  expect(healthOf(plane, width, height, 0.01).stray).toHaveLength(1);
});

it('is drawn by a drag: a gradient from its full end to its empty one, an ellipse from corner to corner, both evenly when asked', () => {
  const drawn = (kind: 'gradient' | 'ellipse', to: [number, number], even: boolean): object => {
    const made = maskPartKind(kind).create('d', 'add', size);
    maskPartKind(kind).draw!(made, { x: 10, y: 20 }, { x: to[0], y: to[1] }, even);
    return made;
  };
  expect(drawn('gradient', [40, 60], false)).toMatchObject({ from: { x: 10, y: 20 }, to: { x: 40, y: 60 } });
  // 53.1° is nearest to 60°; the length stays 50.
  expect(drawn('gradient', [40, 60], true)).toMatchObject({ to: { x: 35, y: 63.3 } });
  expect(drawn('ellipse', [50, 0], false)).toMatchObject({ x: 30, y: 10, rx: 20, ry: 10, rotate: 0 });
  expect(drawn('ellipse', [50, 0], true)).toMatchObject({ x: 30, y: 0, rx: 20, ry: 20 });
});

it('is moved by its handles and typed in numbers: each changes what it says, and nothing else', () => {
  const spots = fc.record({ x: fc.integer({ min: -50, max: 150 }), y: fc.integer({ min: -50, max: 150 }) });
  fc.assert(
    fc.property(spots, spots, fc.nat(3), fc.double({ min: 0.1, max: 0.9, noNaN: true }), (from, to, index, share) => {
      fc.pre(Math.hypot(to.x - from.x, to.y - from.y) > 5);
      const gradient = part<GradientPart>('gradient', { from, to });
      const numbers = maskPartKind<GradientPart>('gradient').numbers!(gradient);
      const before = numbers.map(({ get }) => get(gradient));
      const [typed, wanted] = [numbers[index]!, Math.round(10 + share * 100)];
      typed.set(gradient, wanted);
      for (const [i, { get }] of numbers.entries())
        expect(Math.abs(get(gradient) - (i === index ? wanted : before[i]!))).toBeLessThan(i === 0 ? 2 : 0.3);
      // The handle of the middle says where half of the cover is.
      const line = { ...gradient, from: { x: 0.5, y: 10.5 }, to: { x: 80.5, y: 10.5 } };
      const kind = maskPartKind<GradientPart>('gradient');
      kind.moveHandle!(line, kind.handles!(line, size)[2]!.name, 0.5 + 80 * share, 40, size);
      const row = render(mask([line])).slice(10 * size.width, 11 * size.width);
      expect(row.findIndex((v) => v < 32768) / 80).toBeCloseTo(share, 1);
      expect(row.every((v, x) => x === 0 || v <= row[x - 1]!)).toBe(true);
    }),
  );
  const ellipse = part<EllipsePart>('ellipse', { x: 40, y: 30, rx: 20, ry: 10, rotate: 30 });
  const kind = maskPartKind<EllipsePart>('ellipse');
  for (const soft of [0, 25, 50, 100]) {
    const { name, x, y } = kind.handles!({ ...ellipse, soft }, size)[3]!;
    kind.moveHandle!(ellipse, name, x, y, size);
    expect(ellipse.soft).toBe(soft);
  }
});

it('what print cannot show is out of gamut: pure screen colours are, greys and muted colours are not', () => {
  for (const grey of [0.1, 0.4, 0.7, 1]) expect(beyondPrint(grey, grey, grey)).toBe(0);
  expect(beyondPrint(0.6, 0.5, 0.45)).toBe(0);
  expect(beyondPrint(0, 0, 1)).toBeGreaterThan(8);
  expect(beyondPrint(0, 1, 0)).toBeGreaterThan(beyondPrint(0.2, 0.8, 0.2));
});
