/** Lips, teeth, eyes and brows: drawn from the points of a face, then decided by the colours that are there. */
import { sizeOf, type Face } from './faces.ts';
import { boxMean, guideOf } from './guide.ts';
import {
  INNER_LIPS,
  IRISES,
  LEFT_BROW,
  LEFT_EYE,
  LIGHT_SKIN,
  LOWER_LIP,
  OUTER_LIPS,
  RIGHT_BROW,
  RIGHT_EYE,
  UPPER_LIP,
} from './landmarks.ts';
import {
  createPlane,
  filled,
  less,
  luminance,
  map,
  median,
  smooth,
  times,
  without,
  type Picture,
  type Plane,
  type Point,
} from './picture.ts';

export interface FaceParts {
  readonly lips: Plane;
  readonly teeth: Plane;
  readonly eyes: Plane;
  readonly eyeWhites: Plane;
  readonly iris: Plane;
  readonly brows: Plane;
  /** All between the lips. */
  readonly mouth: Plane;
  /** Whether the lips were told from the skin by their colour. */
  readonly lipsByColour: boolean;
}

const outline = ({ points }: Face, numbers: readonly number[]): Point[] => numbers.map((n) => [points[n]![0], points[n]![1]]);

interface Box {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}
function boxAbout(points: readonly Point[], margin: number, { width, height }: Picture): Box {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return {
    x0: Math.max(0, Math.floor(Math.min(...xs) - margin)),
    y0: Math.max(0, Math.floor(Math.min(...ys) - margin)),
    x1: Math.min(width, Math.ceil(Math.max(...xs) + margin)),
    y1: Math.min(height, Math.ceil(Math.max(...ys) + margin)),
  };
}

function eachIn({ x0, y0, x1, y1 }: Box, width: number, step: number, visit: (i: number) => void): void {
  for (let y = y0; y < y1; y += step) for (let x = x0; x < x1; x += step) visit(y * width + x);
}

const pixelAt = ({ width, height }: Picture, [x, y]: readonly [number, number, ...number[]]): number =>
  Math.min(height - 1, Math.max(0, Math.round(y))) * width + Math.min(width - 1, Math.max(0, Math.round(x)));

/** A face whose mouth is less open than this, as a share of its size, shows no teeth. */
const OPEN = 0.015;

export function findFaceParts(picture: Picture, faces: readonly Face[]): FaceParts {
  const { width, height } = picture;
  const fill = (shapes: readonly (readonly Point[])[]): Plane => filled(width, height, shapes);
  const mouth = fill(faces.map((face) => outline(face, INNER_LIPS)));
  const drawn = less(fill(faces.map((face) => outline(face, OUTER_LIPS))), mouth);
  const eyes = fill(faces.flatMap((face) => [outline(face, LEFT_EYE), outline(face, RIGHT_EYE)]));
  const iris = times(fill(faces.flatMap((face) => IRISES.map((n) => circleOf(face, n)))), eyes);
  const teeth = teethOf(picture, faces, mouth);
  const { lips, byColour } = lipsOf(picture, faces, drawn, mouth);
  return {
    lips: without(lips, teeth),
    teeth,
    eyes,
    eyeWhites: less(eyes, iris),
    iris,
    brows: browsOf(picture, faces),
    mouth,
    lipsByColour: byColour,
  };
}

/** The circle about an iris' middle through the four points of its rim. */
function circleOf({ points }: Face, middle: number): Point[] {
  const [cx, cy] = points[middle]!;
  const rim = points.slice(middle + 1, middle + 5);
  const radius = rim.reduce((total, [x, y]) => total + Math.hypot(x - cx, y - cy) / rim.length, 0);
  return Array.from({ length: 48 }, (_, k) => [cx + radius * Math.cos((k * Math.PI) / 24), cy + radius * Math.sin((k * Math.PI) / 24)]);
}

/** What between the lips is as light as the skin, of little colour, and not pink. */
function teethOf(picture: Picture, faces: readonly Face[], mouth: Plane): Plane {
  const out = createPlane(picture.width, picture.height);
  for (const face of faces) {
    const [upper, lower] = [face.points[UPPER_LIP]!, face.points[LOWER_LIP]!];
    if (Math.hypot(upper[0] - lower[0], upper[1] - lower[1]) / sizeOf(face) <= OPEN) continue;
    const skin = median(LIGHT_SKIN.map((n) => luminance(picture, pixelAt(picture, face.points[n]!))));
    eachIn(boxAbout(outline(face, INNER_LIPS), 1, picture), picture.width, 1, (i) => {
      if (mouth.data[i] === 0) return;
      const [r, g, b] = [picture.data[3 * i]!, picture.data[3 * i + 1]!, picture.data[3 * i + 2]!];
      const [most, least] = [Math.max(r, g, b), Math.min(r, g, b)];
      const saturation = (most - least) / (most + 1e-3);
      const pink = (r - g) / (most + 1e-3);
      out.data[i] =
        mouth.data[i]! * smooth(0.45, 0.65, luminance(picture, i) / skin) * smooth(0.55, 0.4, saturation) * smooth(0.26, 0.16, pink);
    });
  }
  return out;
}

/** Hair of brows is less red than skin. */
const greenOverRed = ({ data }: Picture, i: number): number => (data[3 * i + 1]! + 0.02) / (data[3 * i]! + 0.02);

/** The drawn brows made wider, as far as they are darker or less red than the skin about them. */
function browsOf(picture: Picture, faces: readonly Face[]): Plane {
  const { width, height } = picture;
  const shapes = faces.flatMap((face) => [LEFT_BROW, RIGHT_BROW].map((numbers) => widened(outline(face, numbers), 1.06, 1.5)));
  const drawn = filled(width, height, shapes);
  const out = createPlane(width, height);
  for (const face of faces)
    for (const numbers of [LEFT_BROW, RIGHT_BROW]) {
      const box = boxAbout(outline(face, numbers), sizeOf(face) * 0.06, picture);
      const about: number[] = [];
      eachIn(box, width, 2, (i) => void (drawn.data[i] === 0 && about.push(i)));
      if (about.length === 0) continue;
      const light = median(about.map((i) => luminance(picture, i)));
      const green = median(about.map((i) => greenOverRed(picture, i)));
      eachIn(box, width, 1, (i) => {
        const dark = smooth(0.97, 0.78, luminance(picture, i) / light);
        const hue = smooth(1.03, 1.14, greenOverRed(picture, i) / green) * 0.8;
        out.data[i] = Math.max(out.data[i]!, drawn.data[i]! * Math.max(dark, hue));
      });
    }
  return out;
}

function widened(points: readonly Point[], byX: number, byY: number): Point[] {
  const cx = points.reduce((total, [x]) => total + x, 0) / points.length;
  const cy = points.reduce((total, [, y]) => total + y, 0) / points.length;
  return points.map(([x, y]) => [cx + (x - cx) * byX, cy + (y - cy) * byY]);
}

/** How far the lips' rim may be from where it was drawn, as a share of the face; there colour decides, more than what was drawn. */
const LIP_BAND = 0.02;
const BY_COLOUR = 0.65;

/** The drawn lips, decided by their redness against the skin about them in a band along their rim. */
function lipsOf(picture: Picture, faces: readonly Face[], drawn: Plane, mouth: Plane): { lips: Plane; byColour: boolean } {
  const out = map(drawn, (v) => v);
  let byColour = faces.length > 0;
  for (const face of faces) {
    const band = Math.max(2, Math.round(sizeOf(face) * LIP_BAND));
    const box = boxAbout(outline(face, OUTER_LIPS), 4 * band, picture);
    const decided = lipsIn(picture, box, band, drawn, mouth);
    if (!decided) {
      byColour = false;
      continue;
    }
    for (let y = 0; y < decided.height; y++)
      out.data.set(decided.data.subarray(y * decided.width, (y + 1) * decided.width), (y + box.y0) * picture.width + box.x0);
  }
  return { lips: out, byColour };
}

/** @returns null where lips are not redder than the skin */
function lipsIn(picture: Picture, { x0, y0, x1, y1 }: Box, band: number, drawn: Plane, mouth: Plane): Plane | null {
  const [width, height] = [x1 - x0, y1 - y0];
  if (width < 8 || height < 8) return null;
  const of = (i: number): number => (Math.floor(i / width) + y0) * picture.width + (i % width) + x0;
  const cut = createPlane(width, height);
  const shape = map(cut, (_, i) => drawn.data[of(i)]!);
  const colours: Picture = {
    width,
    height,
    data: new Float32Array(width * height * 3).map((_, k) => picture.data[3 * of(Math.floor(k / 3)) + (k % 3)]!),
  };
  const red = boxMean(
    map(cut, (_, i) => (colours.data[3 * i]! - colours.data[3 * i + 1]!) / (colours.data[3 * i]! + colours.data[3 * i + 1]! + 0.02)),
    1,
  );
  const near = boxMean(shape, band);
  const meanWhere = (holds: (v: number) => boolean, of: (i: number) => number): number => {
    let [total, n] = [0, 0];
    for (const [i, v] of near.data.entries())
      if (holds(v)) {
        total += of(i);
        n++;
      }
    return total / (n || 1);
  };
  const isLip = (v: number): boolean => v > 0.98;
  const redAt = (i: number): number => red.data[i]!;
  const skin = meanWhere((v) => v < 0.02, redAt);
  const lip = meanWhere(isLip, redAt);
  const light = meanWhere(isLip, (i) => luminance(colours, i));
  if (lip - skin < 0.02) return null;
  const decided = map(shape, (v, i) => {
    if (near.data[i]! <= 0.02) return 0;
    if (near.data[i]! >= 0.98) return v;
    const redness = smooth(0.2, 0.75, (red.data[i]! - skin) / (lip - skin));
    // An open mouth is as red as the lips, and dark.
    const lit = 1 - mouth.data[of(i)]! * smooth(0.5, 0.3, luminance(colours, i) / light);
    return (1 - BY_COLOUR) * v + BY_COLOUR * redness * lit;
  });
  return guideOf(colours, colours, band, 1e-3)(decided);
}
