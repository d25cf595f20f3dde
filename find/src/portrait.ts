/** All regions of the people in a picture, or those that are asked for. */
import type { Role } from '@umbo/core/document';
import { findFaceParts, type FaceParts } from './faceParts.ts';
import { findFaces, sizeOf, type Face } from './faces.ts';
import { guideOf } from './guide.ts';
import type { Nets } from './nets.ts';
import { findPeople } from './person.ts';
import { createPlane, map, pyramidOf, resized, resizedPicture, smooth, times, type Picture, type Plane } from './picture.ts';
import type { Came, FoundRegion, Progress, Sureness, Wanted } from './regions.ts';

/** Longer side on which people are found before edges are followed at the picture's own size. */
const WORK = 1024;
/** Of the guide: its radius in pixels in work, and how strong an edge must be. */
const [RADIUS, EPSILON] = [10, 1e-4];
/** Faces smaller than this, in pixels, have eyes and lips of too few. */
const SMALL_FACE = 120;
/** A face turned further to the side than this, in degrees, shows one eye. */
const TURNED = 35;

const sharpened = (plane: Plane): Plane => map(plane, (v) => smooth(0.15, 0.85, v));

export interface Portrait {
  /** How many faces there are. */
  readonly faces: number;
  /** None where there is no face: what would be found then is not to be relied on. */
  readonly regions: FoundRegion[];
}

const SKIN: readonly Role[] = ['faceSkin', 'bodySkin', 'hair', 'garment'];
const PARTS: readonly Role[] = ['lips', 'teeth', 'eyes', 'eyeWhites', 'iris', 'brows'];
const PEOPLE: readonly Role[] = ['person', 'backdrop'];

export async function findPortrait(
  picture: Picture,
  nets: Nets,
  progress: Progress,
  wanted: Wanted = null,
  came: Came = async () => undefined,
): Promise<Portrait> {
  const asks = (...roles: readonly Role[]): boolean => wanted === null || roles.some((role) => wanted.has(role));
  const pyramid = pyramidOf(picture);
  await progress(0.02);
  // People are lettered as they stand, from the left.
  const faces = findFaces(nets, pyramid).toSorted((a, b) => a.square.cx - b.square.cx);
  const found: FoundRegion[] = [];
  if (faces.length === 0 || !asks(...SKIN, ...PARTS, ...PEOPLE)) return { faces: faces.length, regions: found };
  const isAlone = faces.length === 1;
  const add = async (regions: readonly FoundRegion[]): Promise<void> => {
    const there = regions.filter(({ role, mask }) => asks(role) && areaOf(mask) > LEAST);
    found.push(...there);
    if (there.length > 0) await came(there);
  };
  await progress(0.15);
  const scale = Math.min(1, WORK / Math.max(picture.width, picture.height));
  const small = resizedPicture(picture, Math.round(picture.width * scale), Math.round(picture.height * scale));
  const isGrey = isMonochrome(small);
  const large = (plane: Plane): Plane => resized(plane, picture.width, picture.height);
  // Where skin is, is known without the parts of the face.
  const parts = asks('faceSkin', ...PARTS) ? findFaceParts(picture, faces) : null;
  if (parts && asks(...PARTS))
    await add(
      faces.flatMap((face, k) => {
        const ofFace = isAlone ? parts : findFaceParts(picture, [face]);
        return partsOf(face, ofFace, isGrey).map(([role, sure]) => ({ role, person: isAlone ? null : k, mask: ofFace[role], sure }));
      }),
    );
  await progress(0.3);
  if (!asks(...SKIN, ...PEOPLE)) return { faces: faces.length, regions: found };
  const people = findPeople(nets, pyramid, small, faces);
  await progress(0.5);
  const edge: Sureness = people.agreement > 0.85 ? 'sure' : people.agreement > 0.8 ? 'check the edge' : 'rough start';
  const unsure = (sure: Sureness): Sureness => (isGrey && sure === 'sure' ? 'check the edge' : sure);
  const shares = isAlone ? null : sharesOf(people.person, faces, scale).map(large);
  /** A region of each person. */
  const ofEach = (role: Role, mask: Plane, sure: Sureness): FoundRegion[] =>
    shares ? shares.map((share, person) => ({ role, person, mask: times(mask, share), sure })) : [{ role, person: null, mask, sure }];
  const guide = guideOf(picture, small, RADIUS, EPSILON);
  const person = guide(sharpened(people.person));
  await add([...ofEach('person', person, edge), { role: 'backdrop', person: null, mask: map(person, (v) => 1 - v), sure: edge }]);
  await progress(0.6);
  if (!asks(...SKIN)) return { faces: faces.length, regions: found };
  // The parts share out the person's cover, so that they never add up to more. The edges of the body's skin are no better for the guide.
  const hair = times(guide(sharpened(people.hair)), person);
  await progress(0.7);
  const faceSkin = times(guide(sharpened(people.faceSkin)), person);
  await progress(0.8);
  const bodySkin = times(large(sharpened(people.bodySkin)), person);
  shareOut(person, [hair, faceSkin, bodySkin]);
  const garment = map(person, (v, i) => Math.max(0, v - hair.data[i]! - faceSkin.data[i]! - bodySkin.data[i]!));
  await progress(0.9);
  const inFace = parts && map(parts.lips, (v, i) => Math.max(v, parts.eyes.data[i]!, parts.brows.data[i]! * 0.8, parts.mouth.data[i]!));
  await add([
    ...(inFace
      ? ofEach(
          'faceSkin',
          map(faceSkin, (v, i) => v * (1 - inFace.data[i]!)),
          unsure('sure'),
        )
      : []),
    ...ofEach('bodySkin', bodySkin, unsure('sure')),
    ...ofEach('hair', hair, isGrey || people.beard > BEARDED ? 'rough start' : 'check the edge'),
    ...ofEach('garment', garment, unsure('sure')),
  ]);
  await progress(1);
  return { faces: faces.length, regions: found };
}

/** Holds parts, in place, to what there is of the whole. */
function shareOut(whole: Plane, parts: readonly Plane[]): void {
  for (const [i, most] of whole.data.entries()) {
    const sum = parts.reduce((total, { data }) => total + data[i]!, 0);
    if (sum > most) for (const { data } of parts) data[i] = (data[i]! * most) / sum;
  }
}

/** From this share of the face on, its beard is found as hair. */
const BEARDED = 0.08;
/** Pixels that a region has at least. */
const LEAST = 12;
const areaOf = ({ data }: Plane): number => data.reduce((total, v) => total + v, 0);

/** What of a face is offered, and how sure it is. */
function partsOf(face: Face, parts: FaceParts, isGrey: boolean): [Exclude<keyof FaceParts, 'mouth' | 'lipsByColour'>, Sureness][] {
  if (sizeOf(face) < SMALL_FACE) return [];
  const isTurned = Math.abs(face.yaw) > TURNED || face.sure < 0.9;
  const eyes: Sureness = isTurned ? 'rough start' : isGrey ? 'check the edge' : 'sure';
  return [
    ['lips', parts.lipsByColour && !isGrey ? 'check the edge' : 'rough start'],
    ['teeth', 'check the edge'],
    ['eyes', eyes],
    ['eyeWhites', isTurned ? 'rough start' : 'check the edge'],
    ['iris', eyes],
    ['brows', 'rough start'],
  ];
}

/** A picture whose channels hardly differ. */
function isMonochrome({ data }: Picture): boolean {
  let total = 0;
  for (let i = 0; i < data.length; i += 3)
    total += Math.max(data[i]!, data[i + 1]!, data[i + 2]!) - Math.min(data[i]!, data[i + 1]!, data[i + 2]!);
  return total / (data.length / 3) < 0.01;
}

/** Whose each pixel is, 0..1 for each face: of the face from which it is reached first within the people, in a size in work. */
function sharesOf(people: Plane, faces: readonly Face[], scale: number): Plane[] {
  const { width, height, data } = people;
  const owner = new Int8Array(width * height).fill(-1);
  let edge: number[] = [];
  for (const [k, { square }] of faces.entries()) {
    const x = Math.min(width - 1, Math.max(0, Math.round(square.cx * scale)));
    const y = Math.min(height - 1, Math.max(0, Math.round(square.cy * scale)));
    owner[y * width + x] = k;
    edge.push(y * width + x);
  }
  // First within the people, then everywhere, so that soft edges go with what they belong to.
  for (const inside of [true, false]) {
    if (!inside) edge = Array.from(owner.keys()).filter((i) => owner[i]! >= 0);
    while (edge.length > 0) {
      const next: number[] = [];
      for (const i of edge) {
        const x = i % width;
        for (const j of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width])
          if (j >= 0 && j < owner.length && owner[j] === -1 && (!inside || data[j]! > 0.3)) {
            owner[j] = owner[i]!;
            next.push(j);
          }
      }
      edge = next;
    }
  }
  return faces.map((_, k) => {
    const plane = createPlane(width, height);
    for (let i = 0; i < owner.length; i++) plane.data[i] = owner[i] === k ? 1 : 0;
    return plane;
  });
}
