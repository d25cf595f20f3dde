import type { Matrix } from './matrix.ts';

/** CIE 1931 xy. */
export type Chromaticity = readonly [x: number, y: number];

/**
 * A transfer curve: a straight line next to black and a power from there. `((v + offset) / (1 + offset)) ^ exponent` for encoded values from
 * `from` on, `v / slope` below.
 */
export type CurveNumbers = Readonly<Record<'exponent' | 'slope' | 'from' | 'offset', number>>;

/** A transfer curve as tables, for pixel loops; made by `transferTables`. */
export interface TransferTables {
  /** Over encoded values, and over the square root of light; one entry past the end. */
  readonly decode: Float32Array;
  readonly encode: Float32Array;
  /** What a value is multiplied with to become an index. */
  readonly decodeScale: number;
  readonly encodeScale: number;
}

/** The RGB spaces that a document can be in, by their names in CSS Color 4, sections 10.2 to 10.6. */
export type SpaceId = 'srgb' | 'display-p3' | 'a98-rgb' | 'rec2020' | 'prophoto-rgb';

/** An RGB space: what its numbers mean. Everything that depends on it takes it from here. Encoded values are nominal 0..1. */
export interface ColourSpace {
  readonly id: SpaceId;
  readonly name: string;
  readonly white: Chromaticity;
  readonly primaries: { readonly r: Chromaticity; readonly g: Chromaticity; readonly b: Chromaticity };
  readonly curve: CurveNumbers;
  /** The transfer curve: from encoded values to light, and back; exact, and negative values mirror positive ones. */
  readonly toLight: (encoded: number) => number;
  readonly fromLight: (light: number) => number;
  readonly tables: TransferTables;
  /** Light to CIE XYZ with the space's own white (Y 1), and back. */
  readonly toXyz: Matrix;
  readonly fromXyz: Matrix;
  /** Light to XYZ relative to D50, by Bradford adaptation. */
  readonly toXyzD50: Matrix;
  /** Light to the cone responses of OKLab, and back. */
  readonly toCones: Matrix;
  readonly fromCones: Matrix;
}
