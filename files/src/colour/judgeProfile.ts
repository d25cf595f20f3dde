import { cleanName, Problem, shorten } from '@umbo/core/base';
import { intoProfile } from './intoProfile.ts';
import { descriptionOf, samplesOf, withLcms, withProfile, type Samples } from './lcms.ts';

/** Profiles of presses have tables of a few megabytes. */
export const PROFILE_BYTES = 8 << 20;

/**
 * What a profile is, told by LittleCMS: a file that calls itself one may be something else.
 * @throws Problem 'refused' with a sentence for bytes that are no profile of colours that files have
 */
export async function judgeProfile(icc: Uint8Array): Promise<{ name: string; colours: Samples }> {
  if (icc.length > PROFILE_BYTES) throw new Problem('refused', 'The profile is larger than 8 MB.');
  const found = await withLcms((cms) =>
    withProfile(cms, icc, (profile) => ({ name: descriptionOf(cms, profile), colours: samplesOf(cms, profile) })),
  ).catch(() => null);
  if (!found) throw new Problem('refused', 'This is no ICC profile, or it is damaged.');
  const { colours } = found;
  if (!colours) throw new Problem('refused', 'The profile is of colours that files do not have: RGB, grey and CMYK are taken.');
  const into = await intoProfile({ icc, colours, intent: 'relative', black: false }, 'srgb').catch(() => null);
  if (!into) throw new Problem('refused', 'The profile is damaged, or of a camera or scanner: nothing can be brought into its colours.');
  into.close();
  return { name: shorten(cleanName(found.name), 120) || 'unnamed profile', colours };
}
