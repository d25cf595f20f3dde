/** What the stage shows of working pixels: in the display's space, or through a proof. */
import Color from 'colorjs.io';
import { createPlanes, createRaster, wholeOf } from '@umbo/core/base';
import { colourBetween, spaces, srgb } from '@umbo/core/colour';
import { expect, it } from 'vitest';
import { paint, rgbaOf, showing, showingSmall, writeBeyond } from '../src/workers/inside/display';
import { FARTHEST, type Proof } from '../src/workers/protocol';

const size = { width: 9, height: 70 };
const area = wholeOf(size);
const scale = { picture: size, full: size, space: 'prophoto-rgb' } as const;
const raster = createRaster(area);
for (let i = 0; i < 630; i++) for (const [c, plane] of [raster.r, raster.g, raster.b].entries()) plane[i] = (i * (7919 + 97 * c)) % 65536;

it('is what CSS Color 4 says, held at the ends of the display, in the canvas and small', () => {
  for (const [display, name] of [
    ['srgb', 'srgb'],
    ['display-p3', 'p3'],
  ] as const) {
    const rgba = rgbaOf(raster, area, showing({ scale, display }, null));
    for (let i = 0; i < 630; i += 13) {
      const wanted = new Color('prophoto', [raster.r[i]! / 65535, raster.g[i]! / 65535, raster.b[i]! / 65535]).to(name).coords;
      for (const [c, v] of wanted.entries()) expect(Math.abs(rgba[i * 4 + c]! - Math.min(1, Math.max(0, v!)) * 255)).toBeLessThan(0.6);
      expect(rgba[i * 4 + 3]).toBe(255);
    }
  }
  expect(rgbaOf(raster, area, showingSmall(scale))).toEqual(rgbaOf(raster, area, showing({ scale, display: 'srgb' }, null)));
});

it('goes through a proof where there is one, and tells how far out of its gamut each pixel is', () => {
  // A press that exchanges red and blue, and whose inks end at half of the green.
  const corners = [0, 1].flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => [r, g, b] as const)));
  const lattice = (of: (corner: readonly number[]) => readonly number[]) => ({
    ...({ size: 2, min: [0, 0, 0], max: [1, 1, 1] } as const),
    values: Float32Array.from(corners.flatMap((corner) => of(corner))),
  });
  const proof: Proof = {
    shown: lattice(([r, g, b]) => [b!, g! / 2, r!]),
    beyond: lattice(([, g]) => [20 * g!, 20 * g!, 20 * g!]),
  };
  const tile = { x: 2, y: 1, width: 3, height: 2 };
  const pixels = createPlanes(6);
  for (let i = 0; i < 6; i++) [pixels.r[i], pixels.g[i], pixels.b[i]] = [0.1 * i, 0.5, 0.9];
  const beyond = new Uint16Array(size.width * size.height);
  writeBeyond(beyond, area, tile, pixels, createPlanes(6), proof.beyond!);
  const rgba = new Uint8ClampedArray(size.width * size.height * 4);
  paint(rgba, area, tile, pixels, showing({ scale, display: 'srgb' }, proof));
  for (let i = 0; i < 6; i++) {
    const at = (tile.y + Math.floor(i / 3)) * size.width + tile.x + (i % 3);
    expect((beyond[at]! / 65535) * FARTHEST).toBeCloseTo(10, 2);
    expect([...rgba.subarray(at * 4, at * 4 + 4)]).toEqual(
      [230, 64, Math.round(25.5 * i), 255].map((v) => expect.closeTo(v, -0.4) as number),
    );
  }
  expect(beyond.filter((v) => v > 0)).toHaveLength(6);
});

it('a colour that is shown is one of the space that shows it', () => {
  const [r, g, b] = colourBetween(spaces['display-p3'], srgb, [0.4, 0.5, 0.6]);
  const one = createRaster(wholeOf({ width: 1, height: 1 }));
  [one.r[0], one.g[0], one.b[0]] = [0.4, 0.5, 0.6].map((v) => Math.round(v * 65535)) as [number, number, number];
  const shown = rgbaOf(one, one.area, showing({ scale: { ...scale, space: 'display-p3' }, display: 'srgb' }, null));
  expect([...shown]).toEqual([...[r, g, b].map((v) => Math.round(v * 255)), 255]);
});
