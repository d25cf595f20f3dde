/** Working colours on their way into the colours of a profile. */
import { cmsFLAGS_BLACKPOINTCOMPENSATION, TYPE_RGB_16 } from 'lcms-wasm';
import { type SpaceId, Problem } from '@umbo/core/base';
import { spaces } from '@umbo/core/colour';
import { EXACT, SAMPLES, withLcms, withProfile, type Samples } from './lcms.ts';
import { profileOf } from './profile.ts';
import { INTENTS, type Intent } from './proof.ts';

/** A profile that a file is made for, and how. */
export interface Press {
  readonly icc: Uint8Array;
  readonly colours: Samples;
  readonly intent: Intent;
  readonly black: boolean;
}

export interface IntoProfile {
  /** Interleaved 16-bit RGB to interleaved 16-bit samples of the profile: of inks, 0 is none. */
  convert: (rgb: Uint16Array) => Uint16Array;
  /** Gives the memory back. */
  close: () => void;
}

/** @throws Problem 'refused' when the profile cannot be printed with */
export async function intoProfile({ icc, colours, intent, black }: Press, space: SpaceId): Promise<IntoProfile> {
  const made = await withLcms((cms) =>
    withProfile(cms, profileOf(spaces[space]), (from) =>
      withProfile(cms, icc, (to): IntoProfile | null => {
        const flags = EXACT | (black ? cmsFLAGS_BLACKPOINTCOMPENSATION : 0);
        const transform = cms.cmsCreateTransform(from, TYPE_RGB_16, to, SAMPLES[colours].format, INTENTS[intent], flags);
        if (!transform) return null;
        return {
          convert: (rgb) => cms.cmsDoTransform(transform, rgb, rgb.length / 3),
          close: () => cms.cmsDeleteTransform(transform),
        };
      }),
    ),
  );
  if (!made) throw new Problem('refused', 'The profile only describes colours: nothing can be brought into it.');
  return made;
}
