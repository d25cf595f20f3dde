/** Bounds that many settings have. */
import { Type } from '@sinclair/typebox';

/** Percent, both ways or one. */
export const signedPercent = Type.Number({ minimum: -100, maximum: 100 });
export const percent = Type.Number({ minimum: 0, maximum: 100 });
export const hueDegrees = Type.Number({ minimum: 0, maximum: 360 });
/** A length in pixels of the full photograph. */
export const radius = (maximum: number) => Type.Number({ minimum: 0, maximum });
export const strict = { additionalProperties: false } as const;

export const RADIANS = Math.PI / 180;
