import type { Fit } from '../base/fit.ts';
import { Type, type TLiteral, type TObject, type TProperties } from '@sinclair/typebox';
import type { Control } from '../base/control.ts';
import type { MaskView } from './part.ts';

/** One kind of refining step: works on the combined mask, 0..65535, in place. */
export interface RefineKind<S extends { readonly kind: string }> {
  readonly kind: S['kind'];
  /** As shown to people. */
  readonly name: string;
  readonly schema: TObject;
  readonly controls: readonly Control<S>[];
  /** A new step, as it is useful at once. */
  readonly create: () => S;
  /** How many pixels away a pixel can still count. @param scale size of the picture in work relative to the full photograph */
  readonly reach: (step: S, scale: number) => number;
  /** Changes a step in place so that it suits a photograph of another size; left out where nothing depends on size. */
  readonly fit?: (step: S, fit: Fit) => void;
  /** @param plane view.region.width * view.region.height values */
  readonly apply: (step: S, scale: number, plane: Uint16Array, view: MaskView) => void;
}

/** The schema of a step: its kind, whether it is left out for now, and the settings of its kind. */
export function refineSchema<K extends string, T extends TProperties>(kind: K, settings: T) {
  return Type.Object(
    { kind: Type.Literal(kind) as TLiteral<K>, off: Type.Optional(Type.Boolean()), ...settings },
    { additionalProperties: false },
  );
}
