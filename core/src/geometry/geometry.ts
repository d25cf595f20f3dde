/** How the picture is cut from the photograph: turned, straightened, its perspective corrected, cropped, or given a larger canvas. */
import { Type, type Static } from '@sinclair/typebox';
import { colourSchema } from '../colour/colour.ts';
import type { Fit } from '../base/fit.ts';
import type { Rect, Size } from '../base/geometry.ts';

const strict = { additionalProperties: false };
const signedPercent = Type.Number({ minimum: -100, maximum: 100 });

/** The longest side that a picture may have. */
const LONGEST_SIDE = 60_000;
/** Pixels that a picture may have. */
export const MOST_PIXELS = 4e8;
/** The most by which a photograph is straightened; further it is turned by quarters. */
export const MOST_DEGREES = 45;

export const geometrySchema = Type.Object(
  {
    /** Quarter turns clockwise. */
    quarters: Type.Integer({ minimum: 0, maximum: 3 }),
    /** Left and right exchanged, after the quarter turns. */
    flipped: Type.Boolean(),
    /** Degrees clockwise. */
    angle: Type.Number({ minimum: -MOST_DEGREES, maximum: MOST_DEGREES }),
    /** How much the top is made wider than the bottom, and the left taller than the right. */
    vertical: signedPercent,
    horizontal: signedPercent,
    /** How far rows are moved along, growing downwards. */
    skew: signedPercent,
    /** Wider (above 0) or taller, with the area kept. */
    stretch: signedPercent,
    /** Pixels of the turned photograph; null: as much of it as there is. */
    crop: Type.Union([
      Type.Null(),
      Type.Object(
        {
          x: Type.Integer({ minimum: -LONGEST_SIDE, maximum: LONGEST_SIDE }),
          y: Type.Integer({ minimum: -LONGEST_SIDE, maximum: LONGEST_SIDE }),
          width: Type.Integer({ minimum: 1, maximum: LONGEST_SIDE }),
          height: Type.Integer({ minimum: 1, maximum: LONGEST_SIDE }),
        },
        strict,
      ),
    ]),
    /** The canvas around the photograph. */
    outside: Type.Object(
      {
        colour: colourSchema,
        /** Over how many pixels the colours of its edge fade into that colour; 0: not at all. */
        fade: Type.Number({ minimum: 0, maximum: LONGEST_SIDE }),
      },
      strict,
    ),
  },
  strict,
);
export type Geometry = Static<typeof geometrySchema>;

/** The photograph as it is. */
export const noGeometry: Geometry = {
  quarters: 0,
  flipped: false,
  angle: 0,
  vertical: 0,
  horizontal: 0,
  skew: 0,
  stretch: 0,
  crop: null,
  outside: { colour: [1, 1, 1], fade: 0 },
};

/** Whether the photograph's pixels stay what they are, only elsewhere. */
export const keepsPixels = ({ angle, vertical, horizontal, skew, stretch }: Geometry): boolean =>
  angle === 0 && vertical === 0 && horizontal === 0 && skew === 0 && stretch === 0;

/** The turned photograph's size, without regard to angles below a quarter. */
export const planeOf = ({ quarters }: Geometry, photo: Size): Size =>
  quarters % 2 === 0 ? photo : { width: photo.height, height: photo.width };

/** Brings a geometry to a photograph of another size, in place. */
export function fitGeometry(geometry: Geometry, fit: Fit): void {
  const { crop, quarters, outside } = geometry;
  outside.fade = Math.min(LONGEST_SIDE, fit.size(outside.fade));
  if (!crop) return;
  const [x, y] = quarters % 2 === 0 ? [fit.x, fit.y] : [fit.y, fit.x];
  const fitted: Rect = {
    x: Math.round(x(crop.x)),
    y: Math.round(y(crop.y)),
    width: Math.max(1, Math.round(x(crop.width))),
    height: Math.max(1, Math.round(y(crop.height))),
  };
  Object.assign(crop, fitted);
}
