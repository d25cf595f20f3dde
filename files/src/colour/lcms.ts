/** LittleCMS in this process: profiles and transforms as numbers, opened and let go in one place. */
import {
  cmsFLAGS_NOCACHE,
  cmsFLAGS_NOOPTIMIZE,
  cmsInfoDescription,
  instantiate,
  TYPE_CMYK_16,
  TYPE_GRAY_16,
  TYPE_RGB_16,
  type Lcms,
} from 'lcms-wasm';

/** Optimised, LittleCMS goes through a coarse table, which is up to a tenth of the range wrong in saturated colours. */
export const EXACT = cmsFLAGS_NOCACHE | cmsFLAGS_NOOPTIMIZE;

/** What files hold: 16-bit samples, and how many of them a pixel has. Of inks, 0 is none. */
export const SAMPLES = {
  rgb: { format: TYPE_RGB_16, channels: 3 },
  grey: { format: TYPE_GRAY_16, channels: 1 },
  cmyk: { format: TYPE_CMYK_16, channels: 4 },
} as const;
export type Samples = keyof typeof SAMPLES;

/** Signatures of data colour spaces: ICC.1:2022, table 19. */
const SIGNATURES: Readonly<Record<string, Samples>> = { 'RGB ': 'rgb', GRAY: 'grey', CMYK: 'cmyk' };

/** @returns undefined for colours that files do not have */
export const samplesOf = (cms: Lcms, profile: number): Samples | undefined => SIGNATURES[cms.cmsGetColorSpaceASCII(profile).padEnd(4)];

let current: Promise<Lcms> | undefined;

/**
 * Works with LittleCMS. Where that throws, what it holds in memory cannot be trusted any more: the next one begins anew.
 * @throws what `use` throws
 */
export async function withLcms<T>(use: (cms: Lcms) => T): Promise<T> {
  const cms = await (current ??= instantiate());
  try {
    return use(cms);
  } catch (error) {
    current = undefined;
    throw error;
  }
}

/** Opens a profile for as long as `use` runs. @returns null for bytes that are no profile */
export function withProfile<T>(cms: Lcms, icc: Uint8Array, use: (profile: number) => T): T | null {
  // By pointer: as an array it would go over the stack, which is smaller than some profiles.
  const at = cms._malloc(icc.length);
  cms.HEAPU8.set(icc, at);
  const profile = cms.ccall('cmsOpenProfileFromMem', 'number', ['number', 'number'], [at, icc.length]);
  cms._free(at);
  if (!profile) return null;
  try {
    return use(profile);
  } finally {
    cms.cmsCloseProfile(profile);
  }
}

export const descriptionOf = (cms: Lcms, profile: number): string =>
  cms.cmsGetProfileInfoASCII(profile, cmsInfoDescription, 'en', 'US').slice(0, 120) || 'unnamed profile';
