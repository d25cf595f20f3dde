import type { Fit } from '../base/fit.ts';
import { refineKind } from './refineRegistry.ts';
import { innerMask, maskPartKind, type Mask } from './registry.ts';

/** Changes a mask in place so that it suits a photograph of another size. */
export function fitMask(mask: Mask, fit: Fit): void {
  for (const part of mask.parts) {
    maskPartKind(part.kind).fit?.(part, fit);
    const inner = innerMask(part);
    if (inner) fitMask(inner, fit);
  }
  for (const step of mask.refine) refineKind(step.kind).fit?.(step, fit);
}
