import { needOf } from '../base/need.ts';
import { lumOf } from '../colour/luminosity.ts';
import { sampleSmooth } from './overview.ts';
import type { MaskView } from './part.ts';

/** The cover that a picture's luminosity gives, stretched over the photograph: white is full. Nothing while the picture is not there. */
export function coverByPicture(sha256: string, view: MaskView, out: Float32Array): void {
  const [need] = needOf(sha256);
  const found = need ? view.find(need) : null;
  if (!found) return void out.fill(0);
  const { r, g, b, area } = found.level;
  const luminosity = new Float32Array(r.length);
  // A grey stays itself to the bit.
  for (let i = 0; i < r.length; i++) luminosity[i] = r[i] === g[i] && g[i] === b[i] ? r[i]! / 65535 : lumOf(r[i]!, g[i]!, b[i]!) / 65535;
  sampleSmooth(luminosity, area, view, out);
}
