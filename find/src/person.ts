/** People in a picture: where they are, and what of them is hair, skin and clothes. */
import { sizeOf, type Face } from './faces.ts';
import { boxMean } from './guide.ts';
import { CHIN, CLEAR_SKIN, NOSE, OUTER_LIPS } from './landmarks.ts';
import type { Nets } from './nets.ts';
import {
  connected,
  createPlane,
  crop,
  filled,
  map,
  median,
  resized,
  smooth,
  whole,
  type Picture,
  type Plane,
  type Turned,
} from './picture.ts';

/** What the parser tells apart, in its order. */
const CLASSES = 6;
const [BACKDROP, HAIR, BODY_SKIN, FACE_SKIN] = [0, 1, 2, 3] as const;
/** The side of the pictures that the parser and the segmenter look at. */
const SIDE = 256;
/** A head is looked at again, as much larger than the mesh's square. */
const HEAD = 1.5;

function softmax(logits: Float32Array): Float32Array {
  const out = new Float32Array(logits.length);
  for (let i = 0; i < logits.length; i += CLASSES) {
    let most = -Infinity;
    for (let c = 0; c < CLASSES; c++) most = Math.max(most, logits[i + c]!);
    let sum = 0;
    for (let c = 0; c < CLASSES; c++) sum += out[i + c] = Math.exp(logits[i + c]! - most);
    for (let c = 0; c < CLASSES; c++) out[i + c] = out[i + c]! / sum;
  }
  return out;
}

/** The shares of the classes at a size in work: of the whole picture, and again of a square about each head. */
function classesOf({ classes }: Nets, pyramid: readonly Picture[], faces: readonly Face[], width: number, height: number): Plane[] {
  const picture = pyramid[0]!;
  const out = Array.from({ length: CLASSES }, () => createPlane(width, height));
  const side = Math.max(picture.width, picture.height);
  const all: Turned = { cx: picture.width / 2, cy: picture.height / 2, width: side, height: side, angle: 0 };
  const heads = faces
    .map(({ square }): Turned => ({ ...square, width: square.width * HEAD, height: square.height * HEAD, angle: 0 }))
    .filter((head) => head.width < side * 0.8);
  for (const [pass, area] of [all, ...heads].entries()) {
    const shares = softmax(classes.run(crop(pyramid, area, SIDE, SIDE, { low: -1, high: 1, beside: 'edge' }))[0]!);
    layShares(out, shares, area, picture, pass > 0);
  }
  return out;
}

/** Lays what was found in an area over what is there. @param fades towards its sides, where they lie within the picture */
function layShares(out: readonly Plane[], shares: Float32Array, area: Turned, picture: Picture, fades: boolean): void {
  const { width, height } = out[0]!;
  const [kx, ky] = [picture.width / width, picture.height / height];
  const [left, top] = [area.cx - area.width / 2, area.cy - area.height / 2];
  const inside = {
    left: left > 0,
    right: left + area.width < picture.width,
    top: top > 0,
    bottom: top + area.height < picture.height,
  };
  const fade = (t: number, low: boolean, high: boolean): number => Math.min(low ? t : 1, high ? 1 - t : 1) / 0.15;
  const [x0, x1] = [Math.max(0, Math.floor(left / kx)), Math.min(width, Math.ceil((left + area.width) / kx))];
  const [y0, y1] = [Math.max(0, Math.floor(top / ky)), Math.min(height, Math.ceil((top + area.height) / ky))];
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const u = ((x + 0.5) * kx - left) / area.width;
      const v = ((y + 0.5) * ky - top) / area.height;
      if (u < 0 || v < 0 || u >= 1 || v >= 1) continue;
      const weight = fades ? Math.min(1, fade(u, inside.left, inside.right), fade(v, inside.top, inside.bottom)) : 1;
      const [fx, fy] = [Math.min(SIDE - 1, Math.max(0, u * SIDE - 0.5)), Math.min(SIDE - 1, Math.max(0, v * SIDE - 0.5))];
      const [a, b] = [Math.floor(fx), Math.floor(fy)];
      const [a1, b1] = [Math.min(SIDE - 1, a + 1), Math.min(SIDE - 1, b + 1)];
      const [dx, dy] = [fx - a, fy - b];
      const i = y * width + x;
      for (const [c, { data }] of out.entries()) {
        const upper = shares[(b * SIDE + a) * CLASSES + c]! * (1 - dx) + shares[(b * SIDE + a1) * CLASSES + c]! * dx;
        const lower = shares[(b1 * SIDE + a) * CLASSES + c]! * (1 - dx) + shares[(b1 * SIDE + a1) * CLASSES + c]! * dx;
        data[i] = data[i]! * (1 - weight) + (upper * (1 - dy) + lower * dy) * weight;
      }
    }
}

/** Less than this of a pixel does not join parts. */
const JOINS = 0.3;
/** Parts without a face stay when they have this share of the largest one. */
const LARGE = 0.2;

/** Leaves out islands that hold no face and are small. @param seeds pixels of faces */
function withoutIslands(plane: Plane, seeds: readonly number[]): Plane {
  const { labels, sizes } = connected(plane, (i) => plane.data[i]! >= JOINS);
  const most = Math.max(...sizes);
  const kept = new Set(seeds.map((i) => labels[i]!).filter((label) => label > 0));
  for (const [label, size] of sizes.entries()) if (size > most * LARGE) kept.add(label);
  return map(plane, (v, i) => (labels[i]! > 0 && !kept.has(labels[i]!) ? 0 : v));
}

/** What of people is where, at a size in work. */
export interface People {
  readonly person: Plane;
  /** Shares of what lies within the people. */
  readonly hair: Plane;
  readonly bodySkin: Plane;
  readonly faceSkin: Plane;
  /** How far the two ways to find people agree, 0..1. */
  readonly agreement: number;
  /** How much of the face is beard, as far as that is seen by its colour. */
  readonly beard: number;
}

/** A beard is taken to be there from this share of the face on. */
const BEARD = 0.08;

export function findPeople(nets: Nets, pyramid: readonly Picture[], small: Picture, faces: readonly Face[]): People {
  const picture = pyramid[0]!;
  const { width, height } = small;
  const scale = width / picture.width;
  const classes = classesOf(nets, pyramid, faces, width, height);
  const backdrop = classes[BACKDROP]!;
  const second = resized(
    { width: SIDE, height: SIDE, data: nets.person.run(crop(pyramid, whole(picture), SIDE, SIDE))[0]! },
    width,
    height,
  );
  const both = map(backdrop, (v, i) => 0.5 * (1 - v) + 0.5 * second.data[i]!);
  const seeds = faces.map(({ square }) => {
    const [x, y] = [Math.round(square.cx * scale), Math.round(square.cy * scale)];
    return Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x));
  });
  const within = classes.map((plane, c) => (c === BACKDROP ? plane : map(plane, (v, i) => v / Math.max(1e-3, 1 - backdrop.data[i]!))));
  const beard = beardOf(small, faces, scale, classes[FACE_SKIN]!, within[FACE_SKIN]!);
  const share = sum(beard) / Math.max(1, sum(within[FACE_SKIN]!));
  const isBearded = share > BEARD;
  return {
    person: withoutIslands(both, seeds),
    hair: isBearded ? map(within[HAIR]!, (v, i) => Math.min(1, v + beard.data[i]!)) : within[HAIR]!,
    bodySkin: within[BODY_SKIN]!,
    faceSkin: isBearded ? map(within[FACE_SKIN]!, (v, i) => Math.max(0, v - beard.data[i]!)) : within[FACE_SKIN]!,
    agreement: agreementOf(backdrop, second),
    beard: share,
  };
}

const sum = ({ data }: Plane): number => data.reduce((total, v) => total + v, 0);

function agreementOf(backdrop: Plane, second: Plane): number {
  let [apart, either] = [0, 0];
  for (const [i, v] of backdrop.data.entries()) {
    apart += Math.abs(1 - v - second.data[i]!);
    either += Math.max(1 - v, second.data[i]!);
  }
  return 1 - apart / (either || 1);
}

/** What the parser takes for skin of the face, below the mouth's middle, and that has not its colour. */
function beardOf(small: Picture, faces: readonly Face[], scale: number, skin: Plane, within: Plane): Plane {
  const { width, height } = small;
  const like = likeSkin(small, faces, scale, skin);
  const below = createPlane(width, height);
  for (const face of faces) {
    const size = sizeOf(face) * scale;
    const [nose, chin] = [face.points[NOSE]!, face.points[CHIN]!];
    const [nx, ny] = [nose[0] * scale, nose[1] * scale];
    const [dx, dy] = [chin[0] * scale - nx, chin[1] * scale - ny];
    const length = Math.hypot(dx, dy) || 1;
    for (let i = 0; i < below.data.length; i++) {
      const [x, y] = [(i % width) - nx, Math.floor(i / width) - ny];
      if (Math.hypot(x, y) <= size * 1.3) below.data[i] = Math.max(below.data[i]!, smooth(0.5, 0.8, (x * dx + y * dy) / length / length));
    }
  }
  const outlines = faces.map(({ points }) => OUTER_LIPS.map((n) => [points[n]![0] * scale, points[n]![1] * scale] as const));
  const lips = boxMean(filled(width, height, outlines), 2);
  return map(like, (v, i) => (1 - v) * below.data[i]! * within.data[i]! * (1 - smooth(0, 0.3, lips.data[i]!)));
}

/** How like the clear skin of their own face pixels are, 0..1: by the logarithms of R/G and G/B, which change little with the light. */
function likeSkin(small: Picture, faces: readonly Face[], scale: number, skin: Plane): Plane {
  const { width, height, data } = small;
  const out = createPlane(width, height);
  out.data.fill(1);
  const ratios = [0, 1].map((c) =>
    boxMean(
      {
        width,
        height,
        data: new Float32Array(width * height).map((_, i) => Math.log((data[3 * i + c]! + 0.01) / (data[3 * i + c + 1]! + 0.01))),
      },
      2,
    ),
  ) as [Plane, Plane];
  for (const face of faces) {
    const size = sizeOf(face) * scale;
    const samples = samplesOf(face, scale, size, skin).map((i) => [ratios[0].data[i]!, ratios[1].data[i]!] as const);
    if (samples.length < 30) continue;
    const middle = [0, 1].map((k) => median(samples.map((one) => one[k]!))) as [number, number];
    const spread = [0, 1].map((k) => Math.max(0.035, 1.5 * median(samples.map((one) => Math.abs(one[k]! - middle[k]!))))) as [
      number,
      number,
    ];
    const [cx, cy] = [face.square.cx * scale, face.square.cy * scale];
    for (let y = Math.max(0, Math.floor(cy - size)); y < Math.min(height, Math.ceil(cy + size)); y++)
      for (let x = Math.max(0, Math.floor(cx - size)); x < Math.min(width, Math.ceil(cx + size)); x++) {
        const i = y * width + x;
        const red = Math.max(0, middle[0] - ratios[0].data[i]!) / spread[0];
        const green = Math.abs(ratios[1].data[i]! - middle[1]) / spread[1];
        out.data[i] = Math.min(out.data[i]!, smooth(3.4, 2, Math.hypot(red, 0.4 * green)));
      }
  }
  return out;
}

/** Pixels of a face's clear skin. */
function samplesOf({ points }: Face, scale: number, size: number, skin: Plane): number[] {
  const radius = Math.max(1, size * 0.03);
  return CLEAR_SKIN.flatMap((n) => {
    const [cx, cy] = [points[n]![0] * scale, points[n]![1] * scale];
    const found: number[] = [];
    for (let y = Math.round(cy - radius); y <= cy + radius; y++)
      for (let x = Math.round(cx - radius); x <= cx + radius; x++)
        if (x >= 0 && y >= 0 && x < skin.width && y < skin.height && skin.data[y * skin.width + x]! > 0.6) found.push(y * skin.width + x);
    return found;
  });
}
