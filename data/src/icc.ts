/** ICC profiles through LittleCMS. */
import {
  INTENT_PERCEPTUAL,
  TYPE_GRAY_16,
  TYPE_RGB_16,
  cmsFLAGS_NOCACHE,
  cmsFLAGS_NOOPTIMIZE,
  cmsInfoDescription,
  instantiate,
  type Lcms,
} from 'lcms-wasm';
import sharp from 'sharp';

/** Larger ones exist for presses, whose colours the decoder converts by itself. */
const LARGEST = 4 << 20;

/** Differences below half a step of 8 bits are rounding in the profile, not another space. */
const SAME = 65535 / 255 / 2;

export interface ProfileConverter {
  /** The profile's own description. */
  name: string;
  /** 16-bit samples to interleaved 16-bit sRGB; null when the profile is sRGB already, or of no use. */
  convert: ((samples: Uint16Array) => Uint16Array) | null;
  /** Gives the memory back. */
  close: () => void;
}

const leftAside = (name: string): ProfileConverter => ({ name, convert: null, close: () => undefined });

let lcms: Promise<Lcms> | undefined;

/** How to bring samples of this profile into sRGB. A profile that cannot be used is named and left aside. */
export async function profileConverter(icc: Uint8Array, kind: 'rgb' | 'grey'): Promise<ProfileConverter> {
  if (icc.length > LARGEST) return leftAside('profile over 4 MB, sRGB assumed');
  const cms = await (lcms ??= instantiate());
  try {
    return open(cms, icc, kind);
  } catch {
    // What it holds in memory cannot be trusted any more: the next profile gets a fresh one.
    lcms = undefined;
    return leftAside('unreadable profile, sRGB assumed');
  }
}

function open(cms: Lcms, icc: Uint8Array, kind: 'rgb' | 'grey'): ProfileConverter {
  // By pointer: as an array it would go over the stack, which is smaller than some profiles.
  const at = cms._malloc(icc.length);
  cms.HEAPU8.set(icc, at);
  const profile = cms.ccall('cmsOpenProfileFromMem', 'number', ['number', 'number'], [at, icc.length]);
  cms._free(at);
  if (!profile) return leftAside('unreadable profile, sRGB assumed');
  const srgb = cms.cmsCreate_sRGBProfile();
  // Optimised, LittleCMS goes through a coarse table, which is up to a tenth of the range wrong in saturated colours.
  const flags = cmsFLAGS_NOCACHE | cmsFLAGS_NOOPTIMIZE;
  const format = kind === 'rgb' ? TYPE_RGB_16 : TYPE_GRAY_16;
  const transform = cms.cmsCreateTransform(profile, format, srgb, TYPE_RGB_16, INTENT_PERCEPTUAL, flags);
  const name = cms.cmsGetProfileInfoASCII(profile, cmsInfoDescription, 'en', 'US').slice(0, 120) || 'unnamed profile';
  cms.cmsCloseProfile(profile);
  cms.cmsCloseProfile(srgb);
  if (!transform) return leftAside('unreadable profile, sRGB assumed');
  const channels = kind === 'rgb' ? 3 : 1;
  const convert = (samples: Uint16Array): Uint16Array => cms.cmsDoTransform(transform, samples, samples.length / channels) as Uint16Array;
  const close = (): void => cms.cmsDeleteTransform(transform);
  if (kind === 'rgb' && isIdentity(convert)) {
    close();
    return leftAside(name);
  }
  return { name, convert, close };
}

function isIdentity(convert: (samples: Uint16Array) => Uint16Array): boolean {
  const steps = 9;
  const grid = new Uint16Array(steps ** 3 * 3);
  for (let i = 0; i < steps ** 3; i++)
    for (let c = 0; c < 3; c++) grid[i * 3 + c] = (Math.floor(i / steps ** c) % steps) * (65535 / (steps - 1));
  return convert(grid).every((v, i) => Math.abs(v - grid[i]!) < SAME);
}

/** A profile to embed, from the ones that ship with the image library. */
export async function outputProfile(space: 'srgb' | 'display-p3'): Promise<Uint8Array> {
  const dot = await sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
    .withIccProfile(space === 'srgb' ? 'srgb' : 'p3')
    .png()
    .toBuffer();
  return new Uint8Array((await sharp(dot).metadata()).icc!);
}
