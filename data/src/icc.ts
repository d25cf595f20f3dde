/** ICC profiles through LittleCMS. */
import { INTENT_PERCEPTUAL, TYPE_GRAY_16, TYPE_RGB_16, cmsFLAGS_NOCACHE, cmsInfoDescription, instantiate, type Lcms } from 'lcms-wasm';
import sharp from 'sharp';

let lcms: Promise<Lcms> | undefined;

/** Differences below half a step of 8 bits are rounding in the profile, not another space. */
const SAME = 65535 / 255 / 2;

export interface ProfileConverter {
  /** The profile's own description. */
  name: string;
  /** 16-bit samples to interleaved 16-bit sRGB; null when the profile is sRGB already. */
  convert: ((samples: Uint16Array) => Uint16Array) | null;
}

/** How to bring samples of this profile into sRGB. A profile that cannot be used is named and left aside. */
export async function profileConverter(icc: Uint8Array, kind: 'rgb' | 'grey'): Promise<ProfileConverter> {
  const cms = await (lcms ??= instantiate());
  const unusable: ProfileConverter = { name: 'unreadable profile, sRGB assumed', convert: null };
  const profile = cms.cmsOpenProfileFromMem(new Uint8Array(icc), icc.length);
  if (!profile) return unusable;
  const srgb = cms.cmsCreate_sRGBProfile();
  const transform = cms.cmsCreateTransform(
    profile,
    kind === 'rgb' ? TYPE_RGB_16 : TYPE_GRAY_16,
    srgb,
    TYPE_RGB_16,
    INTENT_PERCEPTUAL,
    cmsFLAGS_NOCACHE,
  );
  const name = cms.cmsGetProfileInfoASCII(profile, cmsInfoDescription, 'en', 'US').slice(0, 120) || 'unnamed profile';
  cms.cmsCloseProfile(profile);
  cms.cmsCloseProfile(srgb);
  if (!transform) return unusable;
  const channels = kind === 'rgb' ? 3 : 1;
  const convert = (samples: Uint16Array): Uint16Array => cms.cmsDoTransform(transform, samples, samples.length / channels) as Uint16Array;
  return { name, convert: kind === 'rgb' && isIdentity(convert) ? null : convert };
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
