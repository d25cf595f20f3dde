/** All regions of the people in a picture, or those that are asked for. */
import type { Role } from '@umbo/core/document';
import { findFaceParts, type FaceParts } from './faceParts.ts';
import { findFaces, sizeOf, type Face } from './faces.ts';
import { guideOf } from './guide.ts';
import type { Nets } from './nets.ts';
import { findPeople, type People } from './person.ts';
import { createPlane, map, pyramidOf, resized, resizedPicture, smooth, times, type Picture, type Plane } from './picture.ts';
import type { FoundRegion, Progress, Sureness, Wanted } from './regions.ts';

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

export async function findPortrait(picture: Picture, nets: Nets, progress: Progress, wanted: Wanted = null): Promise<Portrait> {
  const asks = (...roles: readonly Role[]): boolean => wanted === null || roles.some((role) => wanted.has(role));
  const pyramid = pyramidOf(picture);
  await progress(0.02);
  // People are lettered as they stand, from the left.
  const faces = findFaces(nets, pyramid).toSorted((a, b) => a.square.cx - b.square.cx);
  const none = { faces: faces.length, regions: [] };
  if (faces.length === 0 || !asks(...SKIN, ...PARTS, ...PEOPLE)) return none;
  await progress(0.15);
  const scale = Math.min(1, WORK / Math.max(picture.width, picture.height));
  const small = resizedPicture(picture, Math.round(picture.width * scale), Math.round(picture.height * scale));
  const isGrey = isMonochrome(small);
  const large = (plane: Plane): Plane => resized(plane, picture.width, picture.height);
  // Where skin is, is known without the parts of the face.
  const parts = asks('faceSkin', ...PARTS) ? findFaceParts(picture, faces) : null;
  await progress(0.3);
  const people = asks(...SKIN, ...PEOPLE) || faces.length > 1 ? findPeople(nets, pyramid, small, faces) : null;
  await progress(0.5);
  const planesOf = async (found: People): Promise<Partial<Record<Role, Plane>>> => {
    const guide = guideOf(picture, small, RADIUS, EPSILON);
    const person = guide(sharpened(found.person));
    await progress(0.6);
    const backdrop = map(person, (v) => 1 - v);
    if (!asks(...SKIN)) return { person, backdrop };
    // The parts share out the person's cover, so that they never add up to more. The edges of the body's skin are no better for the guide.
    const hair = times(guide(sharpened(found.hair)), person);
    await progress(0.7);
    const faceSkin = times(guide(sharpened(found.faceSkin)), person);
    await progress(0.8);
    const bodySkin = times(large(sharpened(found.bodySkin)), person);
    shareOut(person, [hair, faceSkin, bodySkin]);
    const garment = map(person, (v, i) => Math.max(0, v - hair.data[i]! - faceSkin.data[i]! - bodySkin.data[i]!));
    if (!parts) return { person, backdrop, bodySkin, hair, garment };
    const inFace = map(parts.lips, (v, i) => Math.max(v, parts.eyes.data[i]!, parts.brows.data[i]! * 0.8, parts.mouth.data[i]!));
    return { person, backdrop, faceSkin: map(faceSkin, (v, i) => v * (1 - inFace.data[i]!)), bodySkin, hair, garment };
  };
  const planes = people && asks(...SKIN, ...PEOPLE) ? await planesOf(people) : null;
  await progress(0.9);
  const agreement = people?.agreement ?? 0;
  const edge: Sureness = agreement > 0.85 ? 'sure' : agreement > 0.8 ? 'check the edge' : 'rough start';
  const unsure = (sure: Sureness): Sureness => (isGrey && sure === 'sure' ? 'check the edge' : sure);
  const found: FoundRegion[] = [];
  if (planes?.backdrop && asks('backdrop')) found.push({ role: 'backdrop', person: null, mask: planes.backdrop, sure: edge });
  const shares = faces.length > 1 ? sharesOf(people!.person, faces, scale).map(large) : [null];
  for (const [k, share] of shares.entries()) {
    const face = faces[k]!;
    const own = (plane: Plane): Plane => (share ? times(plane, share) : plane);
    const add = (role: Role, mask: Plane | undefined, sure: Sureness): void => {
      if (mask && asks(role) && areaOf(mask) > LEAST) found.push({ role, person: shares.length > 1 ? k : null, mask, sure });
    };
    const addOwn = (role: Role, sure: Sureness): void => {
      const mask = planes?.[role];
      if (mask && asks(role)) add(role, own(mask), sure);
    };
    addOwn('person', edge);
    addOwn('faceSkin', unsure('sure'));
    addOwn('bodySkin', unsure('sure'));
    addOwn('hair', isGrey || (people?.beard ?? 0) > BEARDED ? 'rough start' : 'check the edge');
    addOwn('garment', unsure('sure'));
    if (!parts || !asks(...PARTS)) continue;
    const ofFace = shares.length > 1 ? findFaceParts(picture, [face]) : parts;
    for (const [role, sure] of partsOf(face, ofFace, isGrey)) add(role, ofFace[role], sure);
  }
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
