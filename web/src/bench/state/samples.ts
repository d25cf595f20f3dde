/** Where a sample is taken from, and what it does with its colour. */
import { intersect, levelFor, levelSize, type Rect, type Size, type SpaceId } from '@umbo/core/base';
import type { Colour } from '@umbo/core/colour';
import { pixelsAddress } from '@/ui/addresses';
import { takeColour } from './actions';
import type { BenchState, SampleSize } from './benchState';
import { reach } from '@/ui/reach';

export const SAMPLE_SIZES: readonly (readonly [SampleSize, string])[] = [
  ['1', 'Point'],
  ['5', '5 × 5'],
  ['31', '31 × 31'],
  ['area', 'Area'],
];

/** The square about a place, or the area between two; within the photograph. */
export function sampleArea(size: SampleSize, from: readonly [number, number], to: readonly [number, number], photograph: Size): Rect {
  const [x0, x1] = [from[0], to[0]].map(Math.floor).sort((a, b) => a - b) as [number, number];
  const [y0, y1] = [from[1], to[1]].map(Math.floor).sort((a, b) => a - b) as [number, number];
  const reach = size === 'area' ? 0 : (Number(size) - 1) / 2;
  const middle = size === 'area' ? { x: x0, y: y0 } : { x: Math.floor(to[0]), y: Math.floor(to[1]) };
  const wanted =
    size === 'area'
      ? { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 }
      : { x: middle.x - reach, y: middle.y - reach, width: 2 * reach + 1, height: 2 * reach + 1 };
  return intersect(wanted, { x: 0, y: 0, width: photograph.width, height: photograph.height });
}

/** Puts a sampled colour where it belongs. @param ofThis whether it is one of this photograph, rather than of a reference */
export function applySample(state: BenchState, colour: Colour, ofThis: boolean): void {
  state.set({ sample: colour });
  takeColour(state, colour, ofThis);
}

/** A photograph, by its number and content. */
type Source = Size & { id: number; sha256: string };

async function rows(photograph: Source, space: SpaceId, level: number, from: number, to: number): Promise<Uint16Array> {
  const response = await reach(pixelsAddress(photograph, { workingSpace: space }, level, from, to));
  if (!response.ok) throw new Error('The photograph’s pixels could not be read.');
  return new Uint16Array(await response.arrayBuffer());
}

/** The mean colour of an area of a photograph as it came, in a space. */
export async function meanColour(photograph: Source, area: Rect, space: SpaceId): Promise<Colour> {
  const pixels = await rows(photograph, space, 0, area.y, area.y + area.height);
  const sum: Colour = [0, 0, 0];
  for (let y = 0; y < area.height; y++)
    for (let x = 0; x < area.width; x++) for (let c = 0; c < 3; c++) sum[c]! += pixels[(y * photograph.width + area.x + x) * 3 + c]!;
  return sum.map((v) => v / (area.width * area.height * 65535)) as Colour;
}

/** A photograph as it came, small. */
export async function smallPicture(photograph: Source, width: number): Promise<ImageData> {
  const level = levelFor(photograph, width);
  const size = levelSize(photograph, level);
  const pixels = await rows(photograph, 'srgb', level, 0, size.height);
  const image = new ImageData(size.width, size.height);
  for (let i = 0, k = 0; i < image.data.length; i += 4, k += 3) {
    image.data[i] = pixels[k]! >> 8;
    image.data[i + 1] = pixels[k + 1]! >> 8;
    image.data[i + 2] = pixels[k + 2]! >> 8;
    image.data[i + 3] = 255;
  }
  return image;
}
