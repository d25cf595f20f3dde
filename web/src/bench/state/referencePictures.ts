/** Pictures to take colours from: photographs of any shoot as they came, and pictures that only this window has. */
import { unit, type Rect, type Size, type SpaceId } from '@umbo/core/base';
import { colourBetween, spaces, srgb, type Colour } from '@umbo/core/colour';
import type { Reference } from './benchState';
import { meanColour, smallPicture } from './samples';

/** Longer side at which a picture of one's own is kept; larger ones are made smaller. */
const MOST = 4000;
/** Pixels that a file may hold before it is decoded at all. */
const MOST_PIXELS = 150e6;

export const keyOf = (reference: Reference): string =>
  reference.kind === 'photograph' ? `photograph ${reference.photograph.id}` : reference.key;
export const nameOf = (reference: Reference): string => (reference.kind === 'photograph' ? reference.photograph.name : reference.name);
export const sizeOf = (reference: Reference): Size => (reference.kind === 'photograph' ? reference.photograph : reference.image);

/** A picture from a file or the clipboard. @throws Error with a sentence when it is none */
export async function pictureOf(file: Blob, name: string): Promise<Reference> {
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error(`“${name}” is not a picture that the browser can read.`);
  });
  if (bitmap.width * bitmap.height > MOST_PIXELS) throw new Error(`“${name}” is too large: ${bitmap.width} × ${bitmap.height} pixels.`);
  const share = Math.min(1, MOST / Math.max(bitmap.width, bitmap.height));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(bitmap.width * share)), Math.max(1, Math.round(bitmap.height * share)));
  const context = canvas.getContext('2d')!;
  context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return { kind: 'own', key: crypto.randomUUID(), name, image: context.getImageData(0, 0, canvas.width, canvas.height) };
}

/** The first picture on the clipboard. @throws Error with a sentence when there is none */
export async function pictureOfClipboard(): Promise<Reference> {
  const items = await navigator.clipboard.read().catch(() => {
    throw new Error('The browser does not let the clipboard be read.');
  });
  for (const item of items) {
    const type = item.types.find((one) => one.startsWith('image/'));
    if (type) return pictureOf(await item.getType(type), 'From the clipboard');
  }
  throw new Error('There is no picture on the clipboard.');
}

/** The picture's pixels, at least so many wide where there are as many. */
export const pixelsOf = (reference: Reference, width: number): Promise<ImageData> =>
  reference.kind === 'photograph' ? smallPicture(reference.photograph, width) : Promise.resolve(reference.image);

/** The mean colour of an area, of the picture's own pixels, in a space. */
export function colourOf(reference: Reference, area: Rect, space: SpaceId): Promise<Colour> {
  if (reference.kind === 'photograph') return meanColour(reference.photograph, area, space);
  const { data, width } = reference.image;
  const sum: Colour = [0, 0, 0];
  for (let y = area.y; y < area.y + area.height; y++)
    for (let x = area.x; x < area.x + area.width; x++) for (let c = 0; c < 3; c++) sum[c]! += data[(y * width + x) * 4 + c]!;
  const mean = sum.map((v) => v / (area.width * area.height * 255)) as Colour;
  return Promise.resolve(colourBetween(srgb, spaces[space], mean).map(unit) as Colour);
}
