/**
 * What a PNG says of its colours beside a profile (PNG Specification, Third Edition, section 11.3.2): coding-independent code points
 * (cICP), or gamma (gAMA) and chromaticities (cHRM).
 */
import type { FileHandle } from 'node:fs/promises';
import { Problem } from '@umbo/core/base';

type Point = readonly [x: number, y: number];

export interface ColourStatement {
  name: string;
  /** White, red, green, blue in CIE 1931 xy. */
  points: readonly [white: Point, red: Point, green: Point, blue: Point];
  /** From a sample, 0..1, to linear light. */
  toLinear: (v: number) => number;
}

const D65: Point = [0.3127, 0.329];
/** Colour primaries of ITU-T H.273, table 2. */
const PRIMARIES: Record<number, { name: string; points: ColourStatement['points'] }> = {
  1: { name: 'BT.709', points: [D65, [0.64, 0.33], [0.3, 0.6], [0.15, 0.06]] },
  5: { name: 'BT.601 (625)', points: [D65, [0.64, 0.33], [0.29, 0.6], [0.15, 0.06]] },
  6: { name: 'BT.601 (525)', points: [D65, [0.63, 0.34], [0.31, 0.595], [0.155, 0.07]] },
  9: { name: 'Rec. 2020', points: [D65, [0.708, 0.292], [0.17, 0.797], [0.131, 0.046]] },
  11: {
    name: 'DCI-P3',
    points: [
      [0.314, 0.351],
      [0.68, 0.32],
      [0.265, 0.69],
      [0.15, 0.06],
    ],
  },
  12: { name: 'Display P3', points: [D65, [0.68, 0.32], [0.265, 0.69], [0.15, 0.06]] },
};

const srgb = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
/** ITU-R BT.709-6, item 1.2, the other way round. */
const bt709 = (v: number): number => (v < 4.5 * 0.018053968510807 ? v / 4.5 : ((v + 0.09929682680944) / 1.09929682680944) ** (1 / 0.45));
/** Transfer characteristics of ITU-T H.273, table 3. */
const TRANSFER: Record<number, (v: number) => number> = {
  1: bt709,
  4: (v) => v ** 2.2,
  5: (v) => v ** 2.8,
  6: bt709,
  8: (v) => v,
  13: srgb,
  14: bt709,
  15: bt709,
};

/** What sRGB encoders are told to write for decoders that know no better (section 11.3.2.5, table 17): it means sRGB. */
const SRGB_GAMMA = 45455;
const SRGB_POINTS = [31270, 32900, 64000, 33000, 30000, 60000, 15000, 6000];

/** @returns null when it says nothing that a profile does not say better. @throws Problem 'refused' for what is no display colour */
export async function pngStatement(file: FileHandle, size: number): Promise<ColourStatement | 'sRGB' | null> {
  const chunks = await headChunks(file, size);
  const cicp = chunks.get('cICP');
  if (cicp && cicp.length >= 4) return fromCodePoints(cicp);
  if (chunks.has('iCCP') || chunks.has('sRGB')) return null;
  const [gamma, points] = [chunks.get('gAMA'), chunks.get('cHRM')];
  const gammaValue = gamma && gamma.length >= 4 ? gamma.readUInt32BE(0) : null;
  const values = points && points.length >= 32 ? Array.from({ length: 8 }, (_, i) => points.readUInt32BE(i * 4)) : null;
  if (gammaValue === 0 || values?.some((v) => v > 200_000) || values?.[1] === 0) return null;
  const isSrgbGamma = gammaValue === null || gammaValue === SRGB_GAMMA;
  const isSrgbPoints = values === null || values.every((v, i) => Math.abs(v - SRGB_POINTS[i]!) <= 10);
  if (isSrgbGamma && isSrgbPoints) return null;
  const xy = (values ?? SRGB_POINTS).map((v) => v / 100_000);
  const exponent = 100_000 / (gammaValue ?? SRGB_GAMMA);
  const name = values && !isSrgbPoints ? 'primaries of its own' : 'a gamma of its own';
  return {
    name,
    points: [0, 2, 4, 6].map((i): Point => [xy[i]!, xy[i + 1]!]) as unknown as ColourStatement['points'],
    toLinear: isSrgbGamma ? srgb : (v) => v ** exponent,
  };
}

function fromCodePoints([primaries, transfer, matrix, fullRange]: Buffer): ColourStatement | 'sRGB' {
  if (primaries === 1 && transfer === 13) return 'sRGB';
  if (transfer === 16 || transfer === 18)
    throw new Problem('refused', 'The PNG holds high dynamic range colours (PQ or HLG). Save it for a standard display and try again.');
  const space = PRIMARIES[primaries!];
  const toLinear = TRANSFER[transfer!];
  if (!space || !toLinear || matrix !== 0 || fullRange !== 1)
    throw new Problem('refused', 'The PNG names a colour space that Umbo does not know. Save it in sRGB and try again.');
  return { name: space.name, points: space.points, toLinear };
}

/** The chunks before the pixels that are about colour. */
async function headChunks(file: FileHandle, size: number): Promise<Map<string, Buffer>> {
  const chunks = new Map<string, Buffer>();
  const head = Buffer.alloc(8);
  for (let at = 8; at + 8 <= size;) {
    await file.read(head, 0, 8, at);
    const [length, type] = [head.readUInt32BE(0), head.toString('latin1', 4, 8)];
    if (type === 'IDAT' || type === 'IEND') break;
    if (['cICP', 'iCCP', 'sRGB', 'gAMA', 'cHRM'].includes(type) && at + 8 + length <= size) {
      const data = Buffer.alloc(Math.min(length, 64));
      await file.read(data, 0, data.length, at + 8);
      chunks.set(type, data);
    }
    at += length + 12;
  }
  return chunks;
}
