import { clamp } from '../base/number.ts';
import { Type, type Static, type TNumber } from '@sinclair/typebox';
import { EIGHT_FAMILIES, FAMILY_HUES, familySpan, type EightId } from '../colour/families.ts';
import { rgbToOklch } from '../colour/oklab.ts';
import { hueMembership } from '../colour/hueSpan.ts';
import type { Adjustment } from './adjustment.ts';
import { dialsOf } from '../base/dial.ts';
import { signedPercent, strict } from './range.ts';
import { madeOnce } from '../base/madeOnce.ts';
import { hueTables, rotateByHue } from './rotateByHue.ts';

const QUALITIES = [
  ['Hue', 'Hue'],
  ['Saturation', 'Saturation'],
  ['Lightness', 'Lightness'],
] as const;
type Quality = (typeof QUALITIES)[number][0];
type Key = `${EightId}${Quality}`;

const KEYS = EIGHT_FAMILIES.flatMap(({ id }) => QUALITIES.map(([quality]): Key => `${id}${quality}`));
/** Percent: a hue of 100 lies at the next family, -100 at the one before. */
const schema = Type.Object(Object.fromEntries(KEYS.map((key) => [key, signedPercent])) as Record<Key, TNumber>, strict);
export type ColourFamiliesSettings = Static<typeof schema>;

/** Share from which a family is turned to move a hue. */
const MEMBER = 0.05;
/** Percent from which a family is turned far. */
const FAR = 40;

const spans = EIGHT_FAMILIES.map(({ id }) => familySpan(EIGHT_FAMILIES, FAMILY_HUES.oklch, id));
const gap = (i: number, by: 1 | -1): number => {
  const hueOf = (k: number): number => FAMILY_HUES.oklch[EIGHT_FAMILIES[(k + 8) % 8]!.id];
  return (((hueOf(i + by) - hueOf(i)) * by + 360) % 360) * by;
};

/** The families that have a share in a hue, by its place among the hues of the tables. */
const membersAt: { i: number; share: number }[][] = [];

const tablesOf = madeOnce((settings: ColourFamiliesSettings) =>
  hueTables((angle, place) => {
    const sum = { hue: 0, saturation: 0, lightness: 0 };
    const members = (membersAt[place] ??= spans.flatMap((span, i) => {
      const share = hueMembership(span, angle);
      return share === 0 ? [] : [{ i, share }];
    }));
    for (const { i, share } of members) {
      const { id } = EIGHT_FAMILIES[i]!;
      const turn = settings[`${id}Hue`] / 100;
      sum.hue += share * Math.abs(turn) * gap(i, turn < 0 ? -1 : 1);
      sum.saturation += share * settings[`${id}Saturation`];
      sum.lightness += share * settings[`${id}Lightness`];
    }
    return sum;
  }),
);

/** Eight hue families side by side, each with its hue, saturation and lightness, in OKLCh. */
export const colourFamilies: Adjustment<'colourFamilies', ColourFamiliesSettings> = {
  kind: 'colourFamilies',
  name: 'Colour families',
  explains: 'Each family of colours by itself: reds, skin, sky',
  group: 'A hue',
  schema,
  defaults: Object.fromEntries(KEYS.map((key) => [key, 0])) as ColourFamiliesSettings,
  controls: EIGHT_FAMILIES.flatMap(({ id, name }) =>
    QUALITIES.map(([quality, label]) => ({ key: `${id}${quality}` as Key, label, step: 1, signed: true, family: { id, name } })),
  ),
  isNeutral: (settings) => KEYS.every((key) => settings[key] === 0),
  turnsFar: (settings) =>
    EIGHT_FAMILIES.flatMap(({ id }) => {
      const by = Math.max(...QUALITIES.map(([quality]) => Math.abs(settings[`${id}${quality}`])));
      return by >= FAR ? [{ id, by }] : [];
    }),
  dials: (_settings, { space, colours }) => {
    const hues = colours.map((colour) => rgbToOklch(space, ...colour).h);
    const near = EIGHT_FAMILIES.filter((_, i) => hues.some((hue) => hueMembership(spans[i]!, hue) > MEMBER));
    return dialsOf<ColourFamiliesSettings>(
      near.flatMap(({ id }) => QUALITIES.map(([quality]): Key => `${id}${quality}`)),
      [-100, 100],
      10,
    );
  },
  apply(settings, pixels, n, { space }) {
    rotateByHue(space, pixels, n, tablesOf(settings));
  },
  pull: {
    qualities: QUALITIES,
    drag(settings, colour, quality, by, space) {
      const { c, h } = rgbToOklch(space, ...colour);
      if (c < 0.01) return null;
      // Every family that has a share in the colour moves by that share.
      let most = { share: 0, name: '', value: 0 };
      for (const [i, { id, name }] of EIGHT_FAMILIES.entries()) {
        const share = hueMembership(spans[i]!, h);
        if (share === 0) continue;
        const key = `${id}${quality as Quality}` as Key;
        settings[key] = Math.round(clamp(settings[key] + by * 200 * share, -100, 100));
        if (share > most.share) most = { share, name, value: settings[key] };
      }
      return `${quality} of ${most.name.toLowerCase()} ${most.value > 0 ? '+' : ''}${most.value}`.replace('-', '−');
    },
  },
};
