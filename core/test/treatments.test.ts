/** Treatments to begin with, run on the demo's photographs: measured against their references and their truth masks. */
import { Ajv } from 'ajv';
import sharp from 'sharp';
import * as statistics from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { createRaster, wholeOf, type Pictures, type Raster, type Rect } from '@umbo/core/base';
import { answeredWords, carriedFrom, carriedHere, carryInto } from '@umbo/core/carry';
import { deltaE2000, labToLch, rgbToLab, srgb, type Lab } from '@umbo/core/colour';
import {
  adjustmentLayer,
  childrenOf,
  colourwayLayer,
  documentSchema,
  emptyDocument,
  everywhere,
  faultOf,
  fitDocument,
  repeatable,
  roleName,
  showing,
  type FoundBy,
  type Layer,
  type Reading,
  type Region,
  type Role,
  type UmboDocument,
} from '@umbo/core/document';
import type { AdjustmentContent } from '@umbo/core/adjust';
import { maskPartKind, type FoundPart } from '@umbo/core/mask';
import { findAnew, pixelsOf, readingPlace, type Places, type ReadingPlace } from '@umbo/core/solve';
import { faultOfTreatment, starters, treatmentFrom, type Treatment } from '@umbo/core/treatment';
import { demo } from './measures.ts';

const WIDTH = 256;
const validate = new Ajv({ discriminator: true }).compile(documentSchema);

async function load(path: string): Promise<Raster> {
  const { data, info } = await sharp(demo(path))
    .removeAlpha()
    .toColourspace('srgb')
    .resize(WIDTH)
    .raw()
    .toBuffer({ resolveWithObject: true });
  const raster = createRaster(wholeOf(info));
  for (let i = 0; i < raster.r.length; i++)
    for (const [c, plane] of (['r', 'g', 'b'] as const).entries())
      raster[plane][i] = data[i * info.channels + Math.min(c, info.channels - 1)]! * 257;
  return raster;
}

/** A photograph of the demo, with truth masks as what was found on it. */
async function scene(name: string, file: string, roles: Partial<Record<Role, string>> = {}) {
  const photograph = await load(`photographs/${file}`);
  const full = { width: photograph.area.width, height: photograph.area.height };
  const masks = new Map<string, Raster>();
  const regions: Region[] = [];
  for (const [role, truth] of Object.entries(roles) as [Role, string][]) {
    const sha256 = role.length.toString(16).padStart(2, '0').repeat(32).slice(0, 60) + String(1000 + regions.length);
    masks.set(sha256, await load(`truth/${name}.${truth}.png`));
    const part: FoundPart = {
      ...maskPartKind<FoundPart>('found').create(`p-${role}`, 'add', full),
      photograph: sha256,
      of: 'a'.repeat(64),
    };
    regions.push({ id: `own-${role}`, name: roleName(role), role, where: { ...everywhere(), parts: [part] } });
  }
  const scale = { picture: full, full };
  const pictures: Pictures = {
    find: (need) => {
      const level = need.kind === 'overview' ? photograph : masks.get(need.sha256);
      return level ? { full, level } : null;
    },
  };
  const place = (area: Rect): ReadingPlace => ({ scale, area, photograph, pictures });
  const places: Places = {
    // Small as it is, it is its own overview.
    reading: (_, reading) => place(readingPlace(reading, full).level === 0 ? readingPlace(reading, full).area : photograph.area),
    whole: () => place(photograph.area),
  };
  const document: UmboDocument = { ...emptyDocument(full), ...(regions.length > 0 && { regions }) };
  const shares = (role: Role): Uint16Array =>
    masks.get((regions.find((one) => one.role === role)!.where.parts[0] as FoundPart).photograph)!.r;
  return { photograph, full, document, places, place, shares };
}
type Scene = Awaited<ReturnType<typeof scene>>;

const starter = (id: string): Treatment => starters.find((one) => one.id === id)!;

/** Runs a treatment as the server does, with nobody's hand on the photograph. */
function run({ document, full, places }: Scene, { document: treatment, solve }: Pick<Treatment, 'document' | 'solve'>) {
  const carried = fitDocument(carriedFrom(treatment, { layers: 'all', regions: false, readings: false, geometry: false, solve }), full);
  const came = carryInto(document, carried, 'replace', 'c');
  const here = carriedHere(came, carried);
  const found = findAnew(
    came,
    solve.map((layer) => here.get(layer)!),
    places,
    () => undefined,
  );
  expect(faultOf(found.document)).toBeNull();
  return found;
}

/** Every pixel in CIELAB, as an edit shows it. */
function labs({ place, photograph }: Scene, document: UmboDocument): Lab[] {
  const { r, g, b } = pixelsOf(document, place(photograph.area));
  const held = (v: number): number => Math.min(1, Math.max(0, v));
  return Array.from(r, (_, i) => rgbToLab(srgb, held(r[i]!), held(g[i]!), held(b[i]!)));
}
const labsOf = ({ r, g, b }: Raster): Lab[] => Array.from(r, (_, i) => rgbToLab(srgb, r[i]! / 65535, g[i]! / 65535, b[i]! / 65535));
const apart = (a: readonly Lab[], b: readonly Lab[], weight?: Uint16Array): number => {
  let [sum, n] = [0, 0];
  for (let i = 0; i < a.length; i++) {
    const w = weight ? weight[i]! : 1;
    if (w === 0) continue;
    sum += w * deltaE2000(a[i]!, b[i]!);
    n += w;
  }
  return sum / n;
};
const meanOf = (all: readonly Lab[], weight: Uint16Array): Lab => {
  const total = weight.reduce((sum, w) => sum + w, 0);
  const of = (axis: keyof Lab): number => all.reduce((sum, lab, i) => sum + lab[axis] * weight[i]!, 0) / total;
  return { l: of('l'), a: of('a'), b: of('b') };
};
const inside = (all: readonly Lab[], weight: Uint16Array): Lab[] => all.filter((_, i) => weight[i]! > 60000);

const SKIN = { faceSkin: 'face-skin', bodySkin: 'body-skin' } as const;

/** Shares of what there was that is gone. */
const gone = (before: number, after: number): number => 1 - after / before;
const axisOf = (all: readonly Lab[], weight: Uint16Array, of: (lab: Lab) => number): number =>
  statistics.standardDeviation(inside(all, weight).map(of));

// The bounds are what was measured, rounded to the careful side; none of the treatments was made on one of these photographs.
describe('a treatment to begin with', () => {
  it('is sound, and everything that can be found anew is', () => {
    expect(new Set(starters.map(({ id }) => id)).size).toBe(starters.length);
    for (const { document, solve, name } of starters) {
      expect(validate(document), JSON.stringify(validate.errors)).toBe(true);
      expect(faultOf(document)).toBeNull();
      expect(faultOfTreatment({ document, solve })).toBeNull();
      expect(document.layers[0]!.name).toBe(name);
    }
  });

  it.each(['faded-print-1', 'faded-print-2'])('takes most of a veil off: %s', async (name) => {
    const one = await scene(name, `${name}.jpg`);
    const truth = labsOf(await load(`references/${name}-truth.jpg`));
    const made = labs(one, run(one, starter('faded-print')).document);
    expect(gone(apart(labs(one, one.document), truth), apart(made, truth))).toBeGreaterThan(0.55);
  });

  it.each(['smile', 'window-portrait'])('evens skin without changing what it is: %s', async (name) => {
    const one = await scene(name, `${name}.jpg`, SKIN);
    const [was, is] = [labs(one, one.document), labs(one, run(one, starter('even-skin')).document)];
    for (const role of ['faceSkin', 'bodySkin'] as const) {
      const skin = one.shares(role);
      const hue = (lab: Lab): number => labToLch(lab).h;
      // In the shade below a chin hues are chance.
      expect(gone(axisOf(was, skin, hue), axisOf(is, skin, hue)), role).toBeGreaterThan(role === 'faceSkin' ? 0.25 : 0.04);
      expect(
        Math.abs(
          gone(
            axisOf(was, skin, ({ l }) => l),
            axisOf(is, skin, ({ l }) => l),
          ),
        ),
      ).toBeLessThan(0.01);
      expect(deltaE2000(meanOf(was, skin), meanOf(is, skin))).toBeLessThan(0.5);
    }
  });

  it('colours a monochrome portrait, region by region, and leaves its light alone', async () => {
    const also = { hair: 'hair', lips: 'lips', garment: 'garment', backdrop: 'backdrop', iris: 'iris' } as const;
    const one = await scene('archive-mono', 'archive-mono.jpg', { ...SKIN, ...also });
    const truth = labsOf(await load('references/archive-colour.jpg'));
    const [was, is] = [labs(one, one.document), labs(one, run(one, starter('colour-portrait')).document)];
    // The scan is lighter than the scene was: what counts is the colour. Cloth has any colour that it is given.
    const off = (all: readonly Lab[], role: Role): number => {
      const [here, there] = [meanOf(all, one.shares(role)), meanOf(truth, one.shares(role))];
      return Math.hypot(here.a - there.a, here.b - there.b);
    };
    const roles = ['faceSkin', 'bodySkin', 'hair', 'lips', 'backdrop'] as const;
    const together = (all: readonly Lab[]): number => statistics.mean(roles.map((role) => off(all, role)));
    expect(gone(together(was), together(is))).toBeGreaterThan(0.4);
    for (const role of roles) expect(Math.abs(meanOf(was, one.shares(role)).l - meanOf(is, one.shares(role)).l), role).toBeLessThan(0.7);
  });

  it('gives a flat sky drawing, and leaves the land alone', async () => {
    const one = await scene('estuary-dusk', 'estuary-dusk.jpg', { sky: 'sky', object: 'foreground' });
    const [was, is] = [labs(one, one.document), labs(one, run(one, starter('flat-sky')).document)];
    const sky = one.shares('sky');
    expect(
      gone(
        axisOf(was, sky, ({ l }) => l),
        axisOf(is, sky, ({ l }) => l),
      ),
    ).toBeLessThan(-0.3);
    expect(meanOf(is, sky).l).toBeLessThan(meanOf(was, sky).l - 3);
    expect(apart(was, is, one.shares('object'))).toBeLessThan(0.1);
  });

  it('takes lamp light out of walls, and leaves the sky', async () => {
    const one = await scene('lane-sodium', 'lane-sodium.jpg', { object: 'wall', sky: 'sky' });
    const truth = labsOf(await load('references/lane-neutral.jpg'));
    const [was, is] = [labs(one, one.document), labs(one, run(one, starter('lamp-light')).document)];
    const [wall, sky] = [one.shares('object'), one.shares('sky')];
    expect(gone(apart(was, truth, wall), apart(is, truth, wall))).toBeGreaterThan(0.5);
    expect(apart(is, truth, sky)).toBeLessThan(apart(was, truth, sky));
  });

  // Dark cloth made white is lifted by much, and so is what noise it has: less of its drawing is as it was.
  it.each([
    ['stool', 'stool', 0.98],
    ['pinafore', 'garment', 0.75],
  ])('makes a product white, whatever colour it has, and leaves what is around it: %s', async (name, truthMask, structure) => {
    const one = await scene(name, `${name}.jpg`, { object: truthMask });
    const { document, answered } = run(one, starter('product-to-white'));
    const [was, is] = [labs(one, one.document), labs(one, document)];
    const product = one.shares('object');
    const truth = labsOf(await load(`references/${name}-white.jpg`));
    expect(answered.flatMap(({ reached }) => reached.map(({ after }) => after))[0]).toBeLessThan(0.5);
    expect(gone(apart(was, truth, product), apart(is, truth, product))).toBeGreaterThan(0.75);
    const light = (all: readonly Lab[]): number[] => inside(all, product).map(({ l }) => l);
    expect(statistics.sampleCorrelation(light(was), light(is))).toBeGreaterThan(structure);
    expect(
      apart(
        was,
        is,
        product.map((v) => 65535 - v),
      ),
    ).toBeLessThan(0.2);
  });
});

describe('a treatment that was made on one photograph', () => {
  const linked = (region: string) => ({ ...everywhere(), link: region });
  const layer = (id: string, kind: AdjustmentContent['kind'], settings: object, more: Partial<Layer> = {}): Layer => {
    const made = adjustmentLayer(id, kind, id);
    Object.assign(made.what.settings, settings);
    return { ...made, ...more };
  };
  const aimedAt = (reading: string, lab: Lab): FoundBy => ({
    kind: 'solver',
    turned: 'settings',
    readings: [{ id: reading, aim: { kind: 'colour', lab } }],
  });
  /** What is made of an edit with readings and layers on a photograph. */
  function madeOn(one: Scene, layers: Layer[], readings: Reading[]): Treatment {
    const document = { ...one.document, layers, readings };
    const solve = repeatable(document).map(({ id }) => id);
    return {
      name: 'Made',
      note: '',
      solve,
      document: treatmentFrom(
        document,
        layers.map(({ id }) => id),
        'Made',
        () => 'made',
      ),
    };
  }

  // Stated before it was measured: faces within 2.0 of each other, and half of what they are off gone, on all three.
  it('brings the faces of a series together, and to what they are in neutral light', async () => {
    const roles = { ...SKIN, hair: 'hair', backdrop: 'backdrop' } as const;
    const scenes = await Promise.all(['garden-1', 'garden-2', 'garden-3'].map((name) => scene(name, `${name}.jpg`, roles)));
    const neutral = await Promise.all([1, 2, 3].map(async (n) => labsOf(await load(`references/garden-${n}-neutral.jpg`))));
    const [first] = scenes as [Scene];
    const target = meanOf(neutral[0]!, first.shares('faceSkin'));
    const treatment = madeOn(
      first,
      [
        layer('greens', 'colourFamilies', { greenSaturation: -15, yellowSaturation: -10 }, { where: linked('own-backdrop') }),
        layer('hair', 'tone', { contrast: 8 }, { where: linked('own-hair') }),
        layer('body', 'colourBalance', { midtonesMagentaGreen: -12, highlightsMagentaGreen: -8 }, { where: linked('own-bodySkin') }),
        layer(
          'evener',
          'evenness',
          { hueBroad: -70, chromaBroad: -40 },
          { where: linked('own-faceSkin'), foundBy: { kind: 'measurement', measurement: 'ownColours' } },
        ),
        layer('face', 'curves', {}, { where: linked('own-faceSkin'), foundBy: aimedAt('skin', target) }),
      ],
      [{ id: 'skin', letter: 'A', name: 'Face', where: linked('own-faceSkin') }],
    );
    const means = scenes.map((one, i) => {
      const face = one.shares('faceSkin');
      const [was, is] = [labs(one, one.document), labs(one, run(one, treatment).document)];
      expect(gone(apart(was, neutral[i]!, face), apart(is, neutral[i]!, face)), `garden-${i + 1}`).toBeGreaterThan(0.5);
      return meanOf(is, face);
    });
    for (const a of means) for (const b of means) expect(deltaE2000(a, b)).toBeLessThan(2);
  });

  it('makes a sky as it is on the first, and leaves what is in front of it', async () => {
    const roles = { sky: 'sky', object: 'foreground' } as const;
    const scenes = await Promise.all(['estuary-dusk', 'estuary-2', 'estuary-3'].map((name) => scene(name, `${name}.jpg`, roles)));
    const [first] = scenes as [Scene];
    const darker = layer('darker', 'exposure', { stops: -0.5 }, { where: linked('own-sky') });
    const wanted = meanOf(labs(first, { ...first.document, layers: [darker] }), first.shares('sky'));
    const solved = layer('as-there', 'curves', {}, { where: linked('own-sky'), foundBy: aimedAt('sky', wanted) });
    const treatment = madeOn(first, [darker, solved], [{ id: 'sky', letter: 'A', name: 'Sky', where: linked('own-sky') }]);
    for (const one of scenes) {
      const [was, is] = [labs(one, one.document), labs(one, run(one, treatment).document)];
      expect(deltaE2000(meanOf(is, one.shares('sky')), wanted)).toBeLessThan(2);
      expect(apart(was, is, one.shares('object'))).toBeLessThan(1);
    }
  });

  const glazes = { celadon: [62, -14, 9], slate: [45, -2, -8], ochre: [62, 12, 44], signal: [55, 95, 60] } as const;

  it.each([
    ['stool', 'stool', ['celadon', 'slate', 'ochre'], 0.98],
    ['pinafore', 'garment', ['celadon', 'slate'], 0.98],
  ] as const)('brings a set of colourways to its targets: %s', async (name, truthMask, reachable, structure) => {
    const made = await scene('stool', 'stool.jpg', { object: 'stool' });
    const ways = Object.entries(glazes).map(([id, [l, a, b]]) =>
      layer(id, 'hueSaturation', {}, { foundBy: aimedAt('product', { l, a, b }) }),
    );
    const set = { ...colourwayLayer('set', 'Glazes', 'celadon'), where: linked('own-object') };
    childrenOf(set).push(...ways);
    const treatment = madeOn(made, [set], [{ id: 'product', letter: 'A', name: 'Product', tolerance: 1, where: linked('own-object') }]);
    const one = await scene(name, `${name}.jpg`, { object: truthMask });
    const { document, answered } = run(one, treatment);
    const was = labs(one, one.document);
    const light = (all: readonly Lab[]): number[] => inside(all, one.shares('object')).map(({ l }) => l);
    for (const way of answered) {
      const [reached] = way.reached;
      expect(reached!.passes, `${way.name} ${reached!.after}`).toBe((reachable as readonly string[]).includes(way.name));
      if (reached!.passes)
        expect(statistics.sampleCorrelation(light(was), light(labs(one, showing(document, way.layerId)))), way.name).toBeGreaterThan(
          structure,
        );
    }
    // What cannot be is said.
    expect(answeredWords(answered)).toHaveLength(4 - reachable.length);
  });
});
