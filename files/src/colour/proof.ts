/** How colours look once they are printed, or on another display: as tables, made through LittleCMS. */
import {
  BYTES_SH,
  CHANNELS_SH,
  cmsFLAGS_BLACKPOINTCOMPENSATION,
  COLORSPACE_SH,
  FLOAT_SH,
  INTENT_ABSOLUTE_COLORIMETRIC,
  INTENT_PERCEPTUAL,
  INTENT_RELATIVE_COLORIMETRIC,
  INTENT_SATURATION,
  PT_Lab,
  PT_RGB,
  type Lcms,
} from 'lcms-wasm';
import { type SpaceId, Problem } from '@umbo/core/base';
import { deltaE2000, spaces } from '@umbo/core/colour';
import { EXACT, SAMPLES, samplesOf, withLcms, withProfile } from './lcms.ts';
import { profileOf } from './profile.ts';

/** ICC.1:2022, section 6.3. */
export const INTENTS = {
  perceptual: INTENT_PERCEPTUAL,
  relative: INTENT_RELATIVE_COLORIMETRIC,
  saturation: INTENT_SATURATION,
  absolute: INTENT_ABSOLUTE_COLORIMETRIC,
} as const;
export type Intent = keyof typeof INTENTS;

export interface ProofHow {
  intent: Intent;
  /** Whether the darkest black there is becomes the darkest there. */
  black: boolean;
  /** Whether white is shown as the paper is. */
  paper: boolean;
}

/** Points along each side of a proof's table: with them it is 0.2 ΔE from the exact way in the mean (measured). */
export const PROOF_SIDE = 33;

const floats = (space: number): number => FLOAT_SH(1) | COLORSPACE_SH(space) | CHANNELS_SH(3) | BYTES_SH(4);
const RGB = floats(PT_RGB);
const LAB = floats(PT_Lab);

export type Colours = (rgb: Float32Array) => Float32Array;

export interface Proof {
  /** Encoded colours of the working space as the display shows them when they are proofed, encoded. */
  shown: Colours;
  /** How far from themselves they come back, as ΔE00: 0 within the gamut, but for the profile's own rounding. */
  beyond: Colours;
}

/**
 * Opens a proof for as long as `use` runs.
 * @param space of the colours that come in; `display`: of what is shown
 * @throws Problem 'refused' when the profile cannot be used for one
 */
export async function withProof<T>(
  icc: Uint8Array,
  space: SpaceId,
  display: SpaceId,
  { intent, black, paper }: ProofHow,
  use: (proof: Proof) => T,
): Promise<T> {
  const made = await withLcms((cms) => {
    const open: number[] = [];
    const transform = (...[from, fromType, to, toType, how, flags]: Parameters<typeof cms.cmsCreateTransform>): number => {
      const made = cms.cmsCreateTransform(from, fromType, to, toType, how, EXACT | flags);
      if (!made) throw new Unusable();
      open.push(made);
      return made;
    };
    // In two halves, with whole numbers between them: as floats, what a profile of three curves and a matrix does not hold would come back.
    const through = (
      work: number,
      press: number,
      onto: readonly [number, number],
      [there, back]: readonly [number, number],
      flags = 0,
    ): Colours => {
      const samples = samplesOf(cms, press);
      if (!samples) throw new Unusable();
      const { format } = SAMPLES[samples];
      const [into, from] = [transform(work, RGB, press, format, there, flags), transform(press, format, ...onto, back, 0)];
      return (rgb) => {
        const pixels = rgb.length / 3;
        return cms.cmsDoTransform(from, cms.cmsDoTransform(into, rgb, pixels) as unknown as Uint16Array, pixels) as unknown as Float32Array;
      };
    };
    try {
      return withAll(cms, [profileOf(spaces[space]), profileOf(spaces[display]), icc], ([work, screen, press]) => {
        const shown = through(
          work,
          press,
          [screen, RGB],
          [INTENTS[intent], paper ? INTENT_ABSOLUTE_COLORIMETRIC : INTENT_RELATIVE_COLORIMETRIC],
          black ? cmsFLAGS_BLACKPOINTCOMPENSATION : 0,
        );
        const lab = cms.cmsCreateLab4Profile(null);
        const back = through(work, press, [lab, LAB], [INTENT_RELATIVE_COLORIMETRIC, INTENT_RELATIVE_COLORIMETRIC]);
        const plain = transform(work, RGB, lab, LAB, INTENT_RELATIVE_COLORIMETRIC, 0);
        cms.cmsCloseProfile(lab);
        const beyond: Colours = (rgb) => {
          const [is, comes] = [cms.cmsDoTransform(plain, rgb, rgb.length / 3), back(rgb)];
          return Float32Array.from({ length: rgb.length / 3 }, (_, i) => deltaE2000(labAt(is, i), labAt(comes, i)));
        };
        return { result: use({ shown, beyond }) };
      });
    } finally {
      for (const one of open) cms.cmsDeleteTransform(one);
    }
  }).catch((error: unknown) => {
    if (error instanceof Unusable) return null;
    throw error;
  });
  if (!made) throw new Problem('refused', 'The profile cannot be used for a proof.');
  return made.result;
}

class Unusable extends Error {}

const labAt = (labs: Float32Array, i: number) => ({ l: labs[i * 3]!, a: labs[i * 3 + 1]!, b: labs[i * 3 + 2]! });

/** @returns null when one of them is no profile */
function withAll<T>(cms: Lcms, icc: readonly [Uint8Array, Uint8Array, Uint8Array], use: (open: [number, number, number]) => T): T | null {
  const [first, second, third] = icc;
  return withProfile(cms, first, (a) => withProfile(cms, second, (b) => withProfile(cms, third, (c) => use([a, b, c]))));
}

/** The colours at the points of a table, red running fastest. */
function latticeColours(side: number): Float32Array {
  const last = side - 1;
  const out = new Float32Array(side ** 3 * 3);
  for (let i = 0; i < side ** 3; i++)
    out.set([(i % side) / last, (Math.floor(i / side) % side) / last, Math.floor(i / side ** 2) / last], i * 3);
  return out;
}

/** A proof as tables over the working space: what is shown, three numbers each, then how far beyond, one each. */
export const proofTables = (icc: Uint8Array, space: SpaceId, display: SpaceId, how: ProofHow): Promise<Float32Array> =>
  withProof(icc, space, display, how, ({ shown, beyond }) => {
    const colours = latticeColours(PROOF_SIDE);
    const out = new Float32Array(PROOF_SIDE ** 3 * 4);
    out.set(shown(colours));
    out.set(beyond(colours), PROOF_SIDE ** 3 * 3);
    return out;
  });
