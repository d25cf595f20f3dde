/** Finds faces, and 478 points on each. */
import { LEFT_CHEEK, LEFT_CORNER, LEFT_EYE_POINTS, LIP_POINTS, RIGHT_CHEEK, RIGHT_CORNER, RIGHT_EYE_POINTS } from './landmarks.ts';
import type { Nets } from './nets.ts';
import type { Net } from './nets/net.ts';
import { crop, whole, type Picture, type Turned } from './picture.ts';

/** A place on the picture, in its pixels, and how far it is before the face's middle. */
export type Landmark = readonly [x: number, y: number, depth: number];

export interface Face {
  readonly points: readonly Landmark[];
  /** How sure it is that this is a face, 0..1: by the detector, and by the mesh. */
  readonly score: number;
  readonly sure: number;
  /** The square that the mesh looked at: the face and half as much again. */
  readonly square: Turned;
  /** Degrees that it is turned to the side. */
  readonly yaw: number;
}

/** How large a face is: the side of the square about it. */
export const sizeOf = (face: Face): number => face.square.width / MARGIN;
/** How much larger the square is that the mesh looks at. */
const MARGIN = 1.5;

interface Found {
  score: number;
  x: number;
  y: number;
  width: number;
  height: number;
  /** The eyes, the nose, the mouth, the ears. */
  marks: readonly (readonly [number, number])[];
}

const sigmoid = (x: number): number => 1 / (1 + Math.exp(-Math.max(-100, Math.min(100, x))));

/** The middles of the fields in which a detector looks, 0..1: by the side of its picture. */
function anchorsOf(side: number): [number, number][] {
  const layers: [number, number][] =
    side === 128
      ? [
          [16, 2],
          [8, 6],
        ]
      : [[48, 1]];
  return layers.flatMap(([n, times]) =>
    Array.from({ length: n * n * times }, (_, i): [number, number] => {
      const field = Math.floor(i / times);
      return [((field % n) + 0.5) / n, (Math.floor(field / n) + 0.5) / n];
    }),
  );
}

function detect(net: Net, pyramid: readonly Picture[], area: Turned): Found[] {
  const side = Math.max(area.width, area.height);
  const [a, b] = net.run(crop(pyramid, { ...area, width: side, height: side }, net.side, net.side, { low: -1, high: 1 }));
  const [boxes, scores] = a!.length > b!.length ? [a!, b!] : [b!, a!];
  const x = (v: number): number => area.cx + (v - 0.5) * side;
  const y = (v: number): number => area.cy + (v - 0.5) * side;
  const found = anchorsOf(net.side).flatMap(([ax, ay], i): Found[] => {
    const score = sigmoid(scores[i]!);
    if (score < 0.5) return [];
    const at = (n: number): number => boxes[i * 16 + n]! / net.side;
    return [
      {
        score,
        x: x(at(0) + ax),
        y: y(at(1) + ay),
        width: at(2) * side,
        height: at(3) * side,
        marks: Array.from({ length: 6 }, (_, k) => [x(at(4 + 2 * k) + ax), y(at(5 + 2 * k) + ay)] as const),
      },
    ];
  });
  return distinct(found);
}

/** Of those that lie over each other, the one that is surest. */
function distinct(found: readonly Found[]): Found[] {
  const kept: Found[] = [];
  for (const one of found.toSorted((p, q) => q.score - p.score)) if (!kept.some((other) => overlap(one, other) > 0.3)) kept.push(one);
  return kept;
}

/** Intersection over union. */
function overlap(a: Found, b: Found): number {
  const width = Math.min(a.x + a.width / 2, b.x + b.width / 2) - Math.max(a.x - a.width / 2, b.x - b.width / 2);
  const height = Math.min(a.y + a.height / 2, b.y + b.height / 2) - Math.max(a.y - a.height / 2, b.y - b.height / 2);
  if (width <= 0 || height <= 0) return 0;
  return (width * height) / (a.width * a.height + b.width * b.height - width * height);
}

/** The side of the mesh's picture. */
const MESH = 192;
/** The second pass looks at a square about what the first one found. */
const PASSES = 2;

function meshOf(net: Net, pyramid: readonly Picture[], found: Found): Face {
  const [eye, other] = found.marks as [readonly [number, number], readonly [number, number]];
  const side = Math.max(found.width, found.height) * MARGIN;
  let square: Turned = { cx: found.x, cy: found.y, width: side, height: side, angle: Math.atan2(other[1] - eye[1], other[0] - eye[0]) };
  let points: Landmark[] = [];
  let sure = 0;
  for (let pass = 0; pass < PASSES; pass++) {
    const [mesh, lips, leftEye, rightEye, leftIris, rightIris, flag] = net.run(crop(pyramid, square, MESH, MESH)) as [
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
    ];
    sure = sigmoid(flag[0]!);
    const raw = Array.from({ length: 468 }, (_, i): [number, number, number] => [mesh[3 * i]!, mesh[3 * i + 1]!, mesh[3 * i + 2]!]);
    const refine = (numbers: readonly number[], by: Float32Array): void => {
      for (const [k, number] of numbers.entries()) {
        raw[number]![0] = by[2 * k]!;
        raw[number]![1] = by[2 * k + 1]!;
      }
    };
    refine(LIP_POINTS, lips);
    refine(LEFT_EYE_POINTS, leftEye);
    refine(RIGHT_EYE_POINTS, rightEye);
    for (const iris of [leftIris, rightIris]) for (let k = 0; k < 5; k++) raw.push([iris[2 * k]!, iris[2 * k + 1]!, 0]);
    points = raw.map((point) => placed(point, square));
    square = squareAbout(points);
  }
  const [left, right] = [points[LEFT_CHEEK]!, points[RIGHT_CHEEK]!];
  const yaw = (Math.atan2(right[2] - left[2], Math.hypot(right[0] - left[0], right[1] - left[1])) * 180) / Math.PI;
  return { points, score: found.score, sure, square, yaw };
}

/** A point of the mesh's picture, on the picture that it was cut from. */
function placed([x, y, depth]: readonly [number, number, number], square: Turned): Landmark {
  const [u, v] = [(x / MESH - 0.5) * square.width, (y / MESH - 0.5) * square.height];
  const [cos, sin] = [Math.cos(square.angle), Math.sin(square.angle)];
  return [square.cx + u * cos - v * sin, square.cy + u * sin + v * cos, (depth / MESH) * square.width];
}

function squareAbout(points: readonly Landmark[]): Turned {
  const [left, right] = [points[LEFT_CORNER]!, points[RIGHT_CORNER]!];
  const angle = Math.atan2(right[1] - left[1], right[0] - left[0]);
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const xs = points.slice(0, 468).map(([x, y]) => x * cos + y * sin);
  const ys = points.slice(0, 468).map(([x, y]) => y * cos - x * sin);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const side = Math.max(x1 - x0, y1 - y0) * MARGIN;
  return { cx: mx * cos - my * sin, cy: mx * sin + my * cos, width: side, height: side, angle };
}

/** Faces of any size: on the whole picture by two detectors, small ones on tiles that overlap. The largest come first. */
export function findFaces({ shortRange, fullRange, mesh }: Nets, pyramid: readonly Picture[]): Face[] {
  const picture = pyramid[0]!;
  const { width, height } = picture;
  let found = distinct([...detect(fullRange, pyramid, whole(picture)), ...detect(shortRange, pyramid, whole(picture))]);
  const tile = Math.max(width, height) / 2;
  for (let y = tile / 2; y < height; y += tile / 2)
    for (let x = tile / 2; x < width; x += tile / 2) {
      const area = { cx: Math.min(x, width - tile / 4), cy: Math.min(y, height - tile / 4), width: tile, height: tile, angle: 0 };
      const small = detect(fullRange, pyramid, area).filter((one) => one.width < tile * 0.6 && one.score > 0.6);
      found = distinct([...found, ...small]);
    }
  return found
    .map((one) => meshOf(mesh, pyramid, one))
    .filter(({ sure }) => sure > 0.5)
    .toSorted((a, b) => b.square.width - a.square.width);
}
