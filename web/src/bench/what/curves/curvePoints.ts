import { CURVE_GAP, type CurvePoint } from '@umbo/core/adjust';
import { clamp } from '@umbo/core/base';

/** A point moved, no nearer to its neighbours than a curve can tell apart. */
export const movedPoint = (points: readonly CurvePoint[], index: number, x: number, y: number): CurvePoint[] =>
  points.map((point, i) => {
    if (i !== index) return point;
    const least = i > 0 ? points[i - 1]![0] + CURVE_GAP : 0;
    const most = i < points.length - 1 ? points[i + 1]![0] - CURVE_GAP : 1;
    return [clamp(x, least, most), clamp(y, 0, 1)];
  });

/** A curve keeps two points at least. */
export const withoutPoint = (points: readonly CurvePoint[], index: number): CurvePoint[] =>
  points.length > 2 ? points.filter((_, i) => i !== index) : [...points];
