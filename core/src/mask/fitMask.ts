import type { Fit } from '../document/fit.ts';
import type { Mask } from '../document/types.ts';
import { refineKind } from './refineRegistry.ts';
import { maskPartKind } from './registry.ts';

/** Changes a mask in place so that it suits a photograph of another size. */
export function fitMask(mask: Mask, fit: Fit): void {
  for (const part of mask.parts) maskPartKind(part.kind).fit?.(part, fit);
  for (const step of mask.refine) refineKind(step.kind).fit?.(step, fit);
}
