// The sRGB curve and back by core's tables, mirrored below 0.
import { TABLE_DECODE, TABLE_ENCODE } from './layout';
import { abs, least, look, mul, number, splat, withSign } from './simd';

export const INTERVALS: f32 = 4096;

// @ts-ignore: decorator
@inline export function decode(v: v128, scale: f32): v128 {
  const x = number(v);
  return withSign(look(TABLE_DECODE, least(mul(abs(x), splat(scale)), splat(INTERVALS))), x);
}
// @ts-ignore: decorator
@inline export function encode(v: v128, scale: f32): v128 {
  const x = number(v);
  return withSign(look(TABLE_ENCODE, least(mul(f32x4.sqrt(abs(x)), splat(scale)), splat(INTERVALS))), x);
}
