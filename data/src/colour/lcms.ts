/** LittleCMS in this process: profiles and transforms as numbers, opened and let go in one place. */
import { cmsFLAGS_NOCACHE, cmsFLAGS_NOOPTIMIZE, cmsInfoDescription, instantiate, type Lcms } from 'lcms-wasm';

/** Optimised, LittleCMS goes through a coarse table, which is up to a tenth of the range wrong in saturated colours. */
export const EXACT = cmsFLAGS_NOCACHE | cmsFLAGS_NOOPTIMIZE;

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
