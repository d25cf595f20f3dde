/** Embedded ICC profiles: which of our spaces is theirs, and how their samples come into one. */
import {
  BYTES_SH,
  CHANNELS_SH,
  COLORSPACE_SH,
  FLOAT_SH,
  INTENT_PERCEPTUAL,
  INTENT_RELATIVE_COLORIMETRIC,
  PT_CMYK,
  PT_RGB,
  TYPE_RGB_16,
  type Lcms,
} from 'lcms-wasm';
import type { SpaceId } from '@umbo/core/base';
import { spaceIds, spaces } from '@umbo/core/colour';
import { descriptionOf, EXACT, SAMPLES, withLcms, withProfile, type Samples } from './lcms.ts';
import { profileOf } from './profile.ts';

/** Those of presses have some megabytes. */
const LARGEST = 8 << 20;

/** Differences below half a step of 8 bits are rounding in the profile, not another space. */
const SAME = 65535 / 255 / 2;

const floats = (space: number, channels: number): number => FLOAT_SH(1) | COLORSPACE_SH(space) | CHANNELS_SH(channels) | BYTES_SH(4);
const RGB_FLOAT = floats(PT_RGB, 3);
/** As floats, inks are percent. */
const INKS_FLOAT = floats(PT_CMYK, 4);

export type Convert = (samples: Uint16Array) => Uint16Array;

export interface ProfileConverter {
  /** The profile's own description. */
  name: string;
  /** The space that its samples are in, or the smallest that holds all of its colours; null for a profile of no use. */
  space: SpaceId | null;
  /** 16-bit samples to interleaved 16-bit RGB of `to`; null when the profile says that they are in that already, or is of no use. */
  convert: Convert | null;
  /** Gives the memory back. */
  close: () => void;
}

const leftAside = (name: string): ProfileConverter => ({ name, space: null, convert: null, close: () => undefined });

/**
 * How to bring samples of this profile into a space. A profile that cannot be used is named and left aside.
 * @param to left out: the profile's own space
 */
export async function profileConverter(icc: Uint8Array, kind: Samples, to?: SpaceId): Promise<ProfileConverter> {
  if (icc.length > LARGEST) return leftAside('profile over 8 MB, sRGB assumed');
  const unreadable = leftAside('unreadable profile, sRGB assumed');
  try {
    return (await withLcms((cms) => withProfile(cms, icc, (profile) => open(cms, profile, kind, to)))) ?? unreadable;
  } catch {
    return unreadable;
  }
}

function open(cms: Lcms, profile: number, kind: Samples, to: SpaceId | undefined): ProfileConverter | null {
  const { format, channels } = SAMPLES[kind];
  const name = descriptionOf(cms, profile);
  const converterTo = (space: SpaceId): { convert: Convert; close: () => void } | null => {
    const transform = transformTo(cms, profile, format, space);
    if (!transform) return null;
    const convert: Convert = (samples) => cms.cmsDoTransform(transform, samples, samples.length / channels);
    return { convert, close: () => cms.cmsDeleteTransform(transform) };
  };
  const same = kind === 'rgb' ? spaceIds.find((id) => isIdentity(converterTo(id))) : undefined;
  // Greys have no colours to lose.
  const space = same ?? (kind === 'grey' ? 'srgb' : (spaceIds.find((id) => holds(cms, profile, kind, id)) ?? 'prophoto-rgb'));
  const target = to ?? space;
  if (target === same) return { ...leftAside(name), space };
  const converter = converterTo(target);
  return converter && { name, space, ...converter };
}

/** @returns 0 where LittleCMS makes none */
function transformTo(cms: Lcms, profile: number, format: number, space: SpaceId): number {
  if (space !== 'srgb') {
    const make = (target: number): number => cms.cmsCreateTransform(profile, format, target, TYPE_RGB_16, INTENT_PERCEPTUAL, EXACT);
    return withProfile(cms, profileOf(spaces[space]), make) ?? 0;
  }
  const target = cms.cmsCreate_sRGBProfile();
  const transform = cms.cmsCreateTransform(profile, format, target, TYPE_RGB_16, INTENT_PERCEPTUAL, EXACT);
  cms.cmsCloseProfile(target);
  return transform;
}

const STEPS = 9;

/** Samples throughout all there can be, 0..1. */
const lattice = (channels: number): number[] =>
  Array.from(
    { length: STEPS ** channels * channels },
    (_, i) => (Math.floor(Math.floor(i / channels) / STEPS ** (i % channels)) % STEPS) / (STEPS - 1),
  );

function isIdentity(converter: { convert: Convert; close: () => void } | null): boolean {
  if (!converter) return false;
  const grid = Uint16Array.from(lattice(3), (v) => v * 65535);
  const is = converter.convert(grid).every((v, i) => Math.abs(v - grid[i]!) < SAME);
  converter.close();
  return is;
}

/** How far light may be out of a space that holds it: profiles are rounded. */
const NEARLY = 0.005;
const LIGHT = { exponent: 1, slope: 1, from: 0, offset: 0 };

/** Whether a space holds all colours of a profile. In light, which alone is not held at the ends. */
function holds(cms: Lcms, profile: number, kind: Exclude<Samples, 'grey'>, space: SpaceId): boolean {
  const [format, full] = kind === 'cmyk' ? [INKS_FLOAT, 100] : [RGB_FLOAT, 1];
  const transform = withProfile(cms, profileOf(spaces[space], LIGHT), (target) =>
    cms.cmsCreateTransform(profile, format, target, RGB_FLOAT, INTENT_RELATIVE_COLORIMETRIC, EXACT),
  );
  if (!transform) return false;
  const { channels } = SAMPLES[kind];
  const samples = Float32Array.from(lattice(channels), (v) => v * full);
  const light = cms.cmsDoTransform(transform, samples, samples.length / channels);
  cms.cmsDeleteTransform(transform);
  return light.every((v) => v > -NEARLY && v < 1 + NEARLY);
}
