import type { ColourSpace } from '../base/space.ts';
import { lumOf } from '../colour/luminosity.ts';
import { Type, type Static } from '@sinclair/typebox';
import { spaceOf } from '../colour/spaces.ts';
import { gaussianBlur, gaussianReach } from '../filter/gaussian.ts';
import { smoothStep } from '../base/number.ts';
import type { Adjustment } from './adjustment.ts';
import { ofLongSide } from './extent.ts';
import { hold16 } from './luminosityPlane.ts';
import { percent, strict } from './range.ts';
import { madeOnce } from '../base/madeOnce.ts';
import { channelTable, throughTable } from './table.ts';

const schema = Type.Object(
  {
    /** Standard deviation in percent of the longer side. */
    width: Type.Number({ minimum: 0, maximum: 10 }),
    amount: percent,
    /** How the light that spreads joins the picture. */
    mode: Type.Union([Type.Literal('screen'), Type.Literal('add'), Type.Literal('soften')]),
    /** From which tone on light spreads, percent. */
    from: percent,
  },
  strict,
);
export type GlowSettings = Static<typeof schema>;

const tablesOf = madeOnce(({ toLight, fromLight }: ColourSpace) => ({
  toLight: channelTable(toLight),
  fromLight: channelTable(fromLight),
}));

/** Light that spreads, blurred in linear light: on a screen, added, or in the picture's place. */
export const glow: Adjustment<'glow', GlowSettings> = {
  kind: 'glow',
  name: 'Glow',
  explains: 'Light spreads softly from what is bright',
  group: 'Light',
  schema,
  defaults: { width: 1.5, amount: 30, mode: 'screen', from: 40 },
  controls: [
    { key: 'width', label: 'Width', step: 0.1, unit: '%', usual: [0, 5] },
    { key: 'amount', label: 'Amount', step: 1 },
    { key: 'from', label: 'From tone', step: 1, unit: '%' },
    {
      key: 'mode',
      label: 'Joined by',
      options: [
        ['screen', 'Screen'],
        ['add', 'Adding'],
        ['soften', 'Softening'],
      ],
    },
  ],
  isNeutral: ({ width, amount }) => width === 0 || amount === 0,
  filter: {
    reach: ({ width }, scale) => gaussianReach(ofLongSide(width, scale)),
    apply({ width: percentWidth, amount, mode, from }, { area: { width, height }, r, g, b }, scale) {
      const { toLight, fromLight } = tablesOf(spaceOf(scale));
      const share = amount / 100;
      const begin = from / 100;
      const n = r.length;
      // How much of a pixel's light spreads, by its own tone.
      const spreads = new Float32Array(n);
      for (let i = 0; i < n; i++) spreads[i] = begin === 0 ? 1 : smoothStep((lumOf(r[i]!, g[i]!, b[i]!) / 65535 - begin + 0.15) / 0.3);
      const own = new Float32Array(n);
      const light = new Uint16Array(n);
      for (const plane of [r, g, b]) {
        for (let i = 0; i < n; i++) own[i] = plane[i]! / 65535;
        throughTable(own, n, toLight);
        for (let i = 0; i < n; i++) light[i] = own[i]! * spreads[i]! * 65535 + 0.5;
        gaussianBlur(light, width, height, ofLongSide(percentWidth, scale));
        for (let i = 0; i < n; i++) {
          const before = own[i]!;
          const spread = (light[i]! / 65535) * share;
          if (mode === 'screen') own[i] = before + spread * (1 - before);
          else if (mode === 'add') own[i] = before + spread;
          else own[i] = before + spreads[i]! * (spread - share * before * spreads[i]!);
        }
        throughTable(own, n, fromLight);
        for (let i = 0; i < n; i++) plane[i] = hold16(own[i]! * 65535);
      }
    },
  },
};
