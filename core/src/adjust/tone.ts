import { lumOf } from '../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import { guidedPlanes, guidedReach } from '../filter/guidedPlanes.ts';
import type { Adjustment } from './adjustment.ts';
import { ofLongSide, windowRadius } from './extent.ts';
import { hold16, luminosityPlane } from './luminosityPlane.ts';
import { percent, signedPercent, strict } from './range.ts';
import { madeOnce } from '../base/madeOnce.ts';
import { channelTable, lookUp } from './table.ts';

const schema = Type.Object(
  {
    contrast: signedPercent,
    highlights: signedPercent,
    shadows: signedPercent,
    whites: signedPercent,
    blacks: signedPercent,
    /** How far the range between light and dark parts is narrowed while detail within them stays. */
    compression: percent,
  },
  strict,
);
export type ToneSettings = Static<typeof schema>;

/** The curve of luminosities, 0..1: it never falls. */
const tableOf = madeOnce(({ contrast, highlights, shadows, whites, blacks }: ToneSettings) => {
  const [c, h, s, w, k] = [contrast, highlights, shadows, whites, blacks].map((v) => v / 100) as [number, number, number, number, number];
  const curve = (v: number): number => {
    const low = 1 - v;
    return (
      v +
      c * v * low * (2 * v - 1) +
      h * 0.22 * 6.75 * v * v * low +
      s * 0.22 * 6.75 * v * low * low +
      w * 0.2 * v * v * v +
      k * 0.2 * low * low * low
    );
  };
  let least = -Infinity;
  return channelTable((v) => (least = Math.max(least, curve(v))));
});

/** The window of the large forms, in percent of the longer side, and how much unevenness of luminosity counts as detail within one. */
const FORMS = 1.6;
const DETAIL = 0.006;

/** Tones by luminosity (Lum of W3C Compositing and Blending Level 1): all channels of a pixel move by as much. */
export const tone: Adjustment<'tone', ToneSettings> = {
  kind: 'tone',
  name: 'Tone',
  explains: 'Shadows opened, highlights brought back',
  group: 'Light',
  schema,
  defaults: { contrast: 0, highlights: 0, shadows: 0, whites: 0, blacks: 0, compression: 0 },
  controls: [
    { key: 'contrast', label: 'Contrast', step: 1, signed: true },
    { key: 'highlights', label: 'Highlights', step: 1, signed: true },
    { key: 'shadows', label: 'Shadows', step: 1, signed: true },
    { key: 'whites', label: 'Whites', step: 1, signed: true },
    { key: 'blacks', label: 'Blacks', step: 1, signed: true },
    { key: 'compression', label: 'Compression', step: 1 },
  ],
  isNeutral: (s) => Object.values(s).every((v) => v === 0),
  apply(settings, { r, g, b }, n) {
    const table = tableOf(settings);
    for (let i = 0; i < n; i++) {
      const l = lumOf(r[i]!, g[i]!, b[i]!);
      const d = lookUp(table, l) - (l > 0 ? (l < 1 ? l : 1) : 0);
      r[i] = r[i]! + d;
      g[i] = g[i]! + d;
      b[i] = b[i]! + d;
    }
  },
  filter: {
    reach: (s, scale) => (s.compression > 0 ? guidedReach(windowRadius(ofLongSide(FORMS, scale))) : 0),
    apply(settings, picture, scale) {
      const light = luminosityPlane(picture);
      const [forms] = guidedPlanes([light], light, picture.area, windowRadius(ofLongSide(FORMS, scale)), DETAIL);
      const share = (settings.compression / 100) * 0.75;
      const table = tableOf(settings);
      const { r, g, b } = picture;
      for (let i = 0; i < light.length; i++) {
        const narrowed = light[i]! + (32767.5 - forms![i]!) * share;
        const d = lookUp(table, narrowed / 65535) * 65535 - light[i]!;
        r[i] = hold16(r[i]! + d);
        g[i] = hold16(g[i]! + d);
        b[i] = hold16(b[i]! + d);
      }
    },
  },
};
