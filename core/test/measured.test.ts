/** What mask parts and adjustments are for, tried on the demo's photographs: against their truth masks and references. */
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import {
  createRaster,
  halveRows,
  levelSize,
  noPictures,
  overviewLevel,
  wholeOf,
  withOverview,
  writeRaster,
  type Pictures,
  type Raster,
  type Size,
} from '@umbo/core/base';
import { srgb, type Colour } from '@umbo/core/colour';
import { familyRange, type AdjustmentContent, type SettingsOf } from '@umbo/core/adjust';
import { adjustmentLayer, emptyDocument, everywhere, type Layer } from '@umbo/core/document';
import {
  maskPartKind,
  refineKind,
  renderMask,
  type GrownPart,
  type HueRangePart,
  type LikenessPart,
  type MaskPart,
  type OutlinePart,
  type PickPart,
  type RefineStep,
} from '@umbo/core/mask';
import { measurement } from '@umbo/core/measure';
import { renderRegion } from '@umbo/core/render';
import { demo, iou, meanDifference, meanLab, pixels16, spread, truth } from './measures.ts';

/** A photograph of the demo, how masks come out on it at half its size, and layers at full size. */
async function openScene(name: string) {
  const pixels = await pixels16(demo(`photographs/${name}.jpg`));
  const { width, height } = await sharp(demo(`photographs/${name}.jpg`)).metadata();
  const full = { width, height };
  const photograph = rasterOf(pixels, full);
  const level = overviewLevel(full);
  let overview = pixels;
  for (let i = 0; i < level; i++) overview = halveRows(overview, levelSize(full, i).width);
  const pictures: Pictures = withOverview(noPictures, rasterOf(overview, levelSize(full, level)));
  const half = levelSize(full, 1);
  const small = { picture: rasterOf(halveRows(pixels, width), half), scale: { picture: half, full } };
  const scale = { picture: full, full };
  const part = <P extends MaskPart>(kind: P['kind'], values: Partial<P>, combine: 'add' | 'common' = 'add'): P =>
    ({ ...maskPartKind<P>(kind).create(crypto.randomUUID(), combine, full), ...values }) as P;
  /** The mean colour of the pixels around a place. */
  const colourAt = (x: number, y: number, reach: number): Colour => {
    const sum: Colour = [0, 0, 0];
    for (let v = y - reach; v <= y + reach; v++)
      for (let u = x - reach; u <= x + reach; u++) for (let c = 0; c < 3; c++) sum[c]! += pixels[(v * full.width + u) * 3 + c]! / 65535;
    return sum.map((v) => v / (2 * reach + 1) ** 2) as unknown as Colour;
  };
  return {
    pixels,
    part,
    /** A hue range from where it begins to where it ends, as its handles say. */
    hues: ([from, full, over, to]: readonly [number, number, number, number], greys?: number): HueRangePart =>
      part<HueRangePart>('hueRange', {
        from,
        fadeIn: full - from,
        span: over - full,
        fadeOut: to - over,
        ...(greys !== undefined && { greys }),
      }),
    outline: (shape: number[]): OutlinePart => part<OutlinePart>('outline', { shapes: [shape] }, 'common'),
    /** A part that took colours, and then what it leaves out. */
    taking<P extends LikenessPart | PickPart>(one: P, caught: Places, away: Places, reach: number): P {
      for (const [places, leaveOut] of [
        [caught, false],
        [away, true],
      ] as const)
        for (const [x, y] of places) maskPartKind<P>(one.kind).take!(one, { space: srgb, colour: colourAt(x, y, reach), x, y }, leaveOut);
      return one;
    },
    cover: (parts: MaskPart[], ...refine: RefineStep[]): Uint16Array =>
      renderMask({ ...everywhere(), parts, refine }, small.scale, wholeOf(half), small.picture, pictures),
    /** Of a mask with the truth. */
    score: async (thing: string, mask: Uint16Array): Promise<number> => {
      const found = iou(mask, 65535, await truth(`${name}.${thing}`, half));
      console.log(`${name}.${thing}: IoU ${found.toFixed(3)}`);
      return found;
    },
    after(...layers: Layer[]): Uint16Array {
      const out = createRaster(wholeOf(full));
      renderRegion({ ...emptyDocument(full), layers }, scale, wholeOf(full), photograph, pictures, (tile, planes) =>
        writeRaster(out, tile, planes),
      );
      const all = new Uint16Array(pixels.length);
      for (let i = 0; i < out.r.length; i++) [all[3 * i], all[3 * i + 1], all[3 * i + 2]] = [out.r[i]!, out.g[i]!, out.b[i]!];
      return all;
    },
    small,
  };
}
const scenes = new Map<string, ReturnType<typeof openScene>>();
function scene(name: string): ReturnType<typeof openScene> {
  if (!scenes.has(name)) scenes.set(name, openScene(name));
  return scenes.get(name)!;
}

type Places = readonly (readonly [number, number])[];

function rasterOf(pixels: Uint16Array, size: Size): Raster {
  const raster = createRaster(wholeOf(size));
  for (let i = 0; i < raster.r.length; i++)
    [raster.r[i], raster.g[i], raster.b[i]] = [pixels[3 * i]!, pixels[3 * i + 1]!, pixels[3 * i + 2]!];
  return raster;
}

function layer<K extends AdjustmentContent['kind']>(
  kind: K,
  settings: Partial<SettingsOf<K>>,
  parts: MaskPart[],
  more: Partial<Layer['how']> = {},
): Layer {
  const made = adjustmentLayer(crypto.randomUUID(), kind, kind);
  Object.assign(made.what.settings, settings);
  Object.assign(made.how, more);
  return { ...made, where: { ...everywhere(), parts } };
}

/** Share of the pixels outside a mask that changed. */
function changedOutside(before: Uint16Array, after: Uint16Array, mask: Uint8Array): number {
  let [changed, n] = [0, 0];
  for (let i = 0; i < mask.length; i++) {
    if (mask[i] !== 0) continue;
    n++;
    if ([0, 1, 2].some((c) => before[i * 3 + c] !== after[i * 3 + c])) changed++;
  }
  return changed / n;
}

const STOOL = [18, 26, 54, 62] as const;
/** The light of the stool falls on what is around it: a rough outline keeps that out. */
const AROUND_STOOL = [310, 310, 950, 310, 1000, 1225, 250, 1225, 280, 460];

describe('a mask of', () => {
  it.each([
    ['vases', 'red', [10, 18, 42, 48], undefined, [260, 615, 498, 615, 498, 955, 260, 955], 0.9],
    ['vases', 'green', [112, 127, 167, 177], undefined, null, 0.9],
    ['vases', 'blue', [228, 243, 278, 293], 0.012, null, 0.9],
    [
      'vases',
      'ochre',
      [45, 53, 98, 108],
      undefined,
      [
        1115, 653, 1219, 687, 1241, 717, 1238, 748, 1229, 778, 1218, 808, 1202, 838, 1180, 868, 1146, 899, 1103, 929, 1064, 963, 940, 963,
        901, 929, 860, 899, 827, 868, 804, 838, 788, 808, 777, 778, 768, 748, 763, 717, 776, 687, 869, 653,
      ],
      0.9,
    ],
    [
      'vases',
      'white',
      [30, 40, 140, 150],
      0,
      [
        1410, 407, 1438, 460, 1437, 508, 1467, 557, 1485, 605, 1492, 654, 1490, 702, 1480, 751, 1464, 799, 1442, 848, 1396, 900, 1237, 900,
        1182, 848, 1207, 799, 1225, 751, 1210, 702, 1133, 654, 1139, 605, 1158, 557, 1190, 508, 1201, 460, 1213, 407,
      ],
      0.9,
    ],
    ['enamel-red', 'red', [5, 13, 43, 51], 0.03, null, 0.9],
    ['stool', 'stool', STOOL, 0.05, null, 0.95],
  ] as const)('one hue range and at most an outline is the thing: %s, %s', async (photograph, thing, hues, greys, outline, least) => {
    const { cover, score, ...one } = await scene(photograph);
    const mask = cover([one.hues(hues, greys), ...(outline ? [one.outline([...outline])] : [])]);
    expect(await score(thing, mask)).toBeGreaterThanOrEqual(least);
  });

  it.each([
    ['vases', 'blue', 0.95, [[900, 100, 900, 300, 960, 450, 960, 620], [840, 420, 840, 620, 940, 640]], [[830, 60, 850, 250, 770, 380, 770, 620, 770, 680], [1000, 60, 1000, 250, 1060, 400, 1070, 640, 950, 720, 850, 720]]],
    ['vases', 'ochre', 0.9, [[820, 740, 960, 820, 1180, 750], [820, 690, 980, 680, 1180, 700]], [[740, 650, 760, 740, 800, 850, 890, 960, 1000, 1000, 1130, 960, 1220, 850, 1260, 740], [840, 620, 1000, 600, 1180, 620, 1240, 660]]],
    ['stool', 'stool', 0.95, [[330, 400, 600, 420, 850, 390, 900, 420], [430, 520, 410, 800, 390, 1150]], [[230, 400, 300, 300, 500, 260, 850, 280, 980, 400, 1040, 800, 1020, 1180, 600, 1180, 430, 1260], [550, 560, 680, 560, 680, 720, 560, 740, 520, 650]]],
    ['throw-cast', 'throw', 0.9, [[230, 450, 350, 410, 600, 420, 830, 430, 850, 700, 900, 1100], [200, 900, 200, 720, 450, 700, 400, 1000, 420, 1350, 700, 1250, 1050, 1310]], [[90, 720, 120, 450, 200, 340, 500, 330, 860, 350, 940, 500, 1000, 800, 1050, 1200], [70, 760, 80, 900, 200, 1250, 300, 1500, 700, 1480, 1150, 1400]]],
  ])('two strokes inside and two outside grows to the thing: %s, %s', async (photograph, thing, least, inside, outside) => {
    const { cover, score, part } = await scene(photograph);
    const strokes = [inside, outside].flatMap((side, k) =>
      side.map((points, i) => ({
        id: `${k} ${i}`, size: 20, hardness: 0.3, flow: 0.4, opacity: 1, erase: k === 1,
        points: points.flatMap((v, j) => (j % 2 === 0 ? [v] : [v, 1])),
      })),
    );
    expect(await score(thing, cover([part<GrownPart>('grown', { strokes })]))).toBeGreaterThanOrEqual(least);
  }); // prettier-ignore

  it('likeness is hair, by colours that it catches and others that it leaves out, along its edges', async () => {
    const { cover, score, taking, part } = await scene('window-portrait');
    const hair: Places = [[640, 420], [560, 560], [500, 900], [480, 1150], [380, 1350], [500, 1350], [1000, 380], [1150, 500], [1200, 800], [1220, 1100], [1250, 1300], [1150, 1500], [1400, 1300], [850, 330]]; // prettier-ignore
    const others: Places = [[900, 600], [750, 800], [1000, 1000], [850, 1250], [900, 1500], [400, 1700], [1500, 800], [350, 500], [300, 700], [1450, 400], [1000, 200], [1450, 1700]]; // prettier-ignore
    const likeness = taking(part<LikenessPart>('likeness', { softness: 5, lightness: 20 }), hair, others, 2);
    expect(await score('hair', cover([likeness], refineKind('edges').create() as RefineStep))).toBeGreaterThanOrEqual(0.85);
  });

  it('picks and an outline is teeth', async () => {
    const { cover, score, taking, part, outline } = await scene('smile');
    const teeth: Places = [[799, 1137], [832, 1137], [863, 1131], [885, 1125], [897, 1116], [767, 1137], [742, 1134], [726, 1130], [802, 1160], [828, 1158], [790, 1128], [845, 1126], [775, 1128], [735, 1128], [752, 1140], [875, 1128], [720, 1124], [905, 1109], [715, 1121]]; // prettier-ignore
    const others: Places = [[815, 1154], [780, 1153], [750, 1150], [850, 1151], [715, 1118], [800, 1120], [830, 1119], [765, 1121], [735, 1119], [860, 1116], [785, 1165], [840, 1165], [880, 1143], [722, 1142], [740, 1149], [870, 1147], [895, 1134]]; // prettier-ignore
    const picks = taking(part<PickPart>('pick', { tolerance: 9, softness: 4 }), teeth, others, 1);
    const edge = outline([
      702, 1110, 712, 1116, 724, 1117, 736, 1118, 748, 1119, 760, 1121, 772, 1121, 784, 1123, 796, 1120, 808, 1120, 820, 1120, 832, 1118, 844, 1119,
      856, 1116, 868, 1114, 880, 1111, 892, 1108, 904, 1105, 916, 1096, 904, 1125, 892, 1136, 880, 1143, 868, 1147, 856, 1158, 844, 1162, 832, 1166,
      820, 1167, 808, 1167, 796, 1166, 784, 1163, 772, 1153, 760, 1153, 748, 1151, 736, 1148, 724, 1141, 712, 1133,
    ]); // prettier-ignore
    expect(await score('teeth', cover([picks, edge]))).toBeGreaterThanOrEqual(0.85);
  });
});

describe('a change', () => {
  it('of a bright stool makes it white by hue & saturation, deeper in Multiply, and touches nothing else', async () => {
    const { after, pixels, hues, outline } = await scene('stool');
    const [white, mask] = [await pixels16(demo('references/stool-white.jpg')), await truth('stool.stool')];
    const parts = [hues(STOOL, 0.05), outline(AROUND_STOOL)];
    const made = after(layer('hueSaturation', { saturation: -90, lightness: 55 }, parts));
    const [was, is] = [meanDifference(pixels, white, mask), meanDifference(made, white, mask)];
    console.log(`stool to white: mean ΔE00 ${was.toFixed(2)} before, ${is.toFixed(2)} after`);
    expect(is).toBeLessThan(was * 0.4);
    const deeper = after(layer('hueSaturation', { hue: 1 }, parts, { mode: 'multiply' }));
    expect(meanLab(deeper, mask).l).toBeLessThan(meanLab(pixels, mask).l - 8);
    for (const one of [made, deeper]) expect(changedOutside(pixels, one, mask)).toBeLessThan(0.002);
  });

  it.each([
    ['pinafore', 'garment', [235, 250, 310, 325], 0.02, {}, 0.0005],
    ['stool', 'stool', STOOL, 0.05, { red: 100 }, 0.01],
  ] as const)(
    'of dark cloth makes it white by black & white, and a stool by the same layer tuned once more: %s',
    async (name, thing, range, greys, tuned, outside) => {
      const { after, pixels, hues } = await scene(name);
      const [white, mask] = [await pixels16(demo(`references/${name}-white.jpg`)), await truth(`${name}.${thing}`)];
      const made = after(layer('blackWhite', { cyan: 500, blue: 500, magenta: 500, ...tuned }, [hues(range, greys)]));
      const [was, is] = [meanDifference(pixels, white, mask), meanDifference(made, white, mask)];
      console.log(`${name} to white: mean ΔE00 ${was.toFixed(2)} before, ${is.toFixed(2)} after`);
      expect(is).toBeLessThan(was * 0.4);
      expect(changedOutside(pixels, made, mask)).toBeLessThan(outside);
    },
  );

  it('of teeth brings them most of the way to clean ones, and not past them', async () => {
    const { after, pixels, outline } = await scene('smile');
    const parts = [outline([702, 1110, 736, 1118, 784, 1123, 820, 1120, 868, 1114, 916, 1096, 892, 1136, 856, 1158, 820, 1167, 796, 1166, 760, 1153, 736, 1148, 712, 1133])]; // prettier-ignore
    // Yellow goes out by its opposite, and some saturation from what yellow is left.
    const yellows = { ...familyRange('oklch', 'yellow'), saturation: -20 };
    const made = after(
      layer('colourBalance', { midtonesYellowBlue: 12, midtonesMagentaGreen: 6, highlightsYellowBlue: 12 }, parts),
      layer('hueSaturation', { lightness: 4, ranges: [yellows] }, parts),
    );
    const mask = await truth('smile.teeth');
    const [was, is, right] = [
      meanLab(pixels, mask),
      meanLab(made, mask),
      meanLab(await pixels16(demo('references/smile-clean.jpg')), mask),
    ];
    const way = (was.b - is.b) / (was.b - right.b);
    console.log(
      `teeth: b* ${was.b.toFixed(2)} to ${is.b.toFixed(2)} of ${right.b.toFixed(2)}, L* ${is.l.toFixed(2)} of ${right.l.toFixed(2)}`,
    );
    expect(way).toBeGreaterThan(0.6);
    expect(way).toBeLessThanOrEqual(1);
    expect(Math.abs(is.l - right.l)).toBeLessThan(3);
  });

  it('by the ramp of a sound patch evens the hues of skin, and keeps its chroma and light', async () => {
    const { after, cover, pixels, outline, small } = await scene('garden-1');
    const forehead = cover([outline([780, 570, 890, 570, 890, 670, 780, 670])]);
    const colours = measurement('ramp').measure({ driver: 'luminosity' }, { ...small, weight: forehead });
    const face = outline([560, 520, 700, 400, 900, 380, 1060, 480, 1120, 700, 1090, 1000, 950, 1220, 800, 1220, 640, 1080, 560, 850]);
    const made = after(layer('evenRamp', { colours }, [face], { letThrough: { lightness: 0, hue: 1, chroma: 0 } }));
    const mask = await truth('garden-1.face-skin');
    const [was, is] = [spread(pixels, mask), spread(made, mask)];
    console.log(
      `skin: spread of hue ${was.h.toFixed(1)}° to ${is.h.toFixed(1)}°, of chroma ${was.c.toFixed(4)} to ${is.c.toFixed(4)}, of lightness ${was.l.toFixed(4)} to ${is.l.toFixed(4)}`,
    );
    expect(is.h).toBeLessThan(was.h / 2);
    expect(Math.abs(is.c / was.c - 1)).toBeLessThan(0.1);
    expect(Math.abs(is.l / was.l - 1)).toBeLessThan(0.1);
  });
});
