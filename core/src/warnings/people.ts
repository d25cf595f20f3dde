/** Skin that has become even to the point of wax, and teeth beyond the whites of the eyes. Limits: common practice, no source. */
import { percent } from '../base/number.ts';
import type { Warning, WarningKind } from './warning.ts';
import { regionsOf, within } from './view.ts';

/** Share of its spread that skin keeps at least, and the spread under which there was nothing to lose. */
const KEEPS = 0.4;
const LEAST = { hue: 2, chroma: 1 } as const;

export const flatSkin: WarningKind = {
  kind: 'flatSkin',
  find: (view) =>
    [...regionsOf(view, 'faceSkin'), ...regionsOf(view, 'bodySkin')].flatMap(({ id, name }): Warning[] => {
      const mask = view.maskOf(id);
      const [was, is] = [within(view, view.before, mask), within(view, view.after, mask)];
      if (!was || !is) return [];
      const parts = (['hue', 'chroma'] as const).flatMap((part) => {
        const share = is.spread[part] / was.spread[part];
        return was.spread[part] >= LEAST[part] && share < KEEPS ? [{ part, share }] : [];
      });
      if (parts.length === 0) return [];
      const words = `${name} keeps ${parts.map(({ part, share }) => `${percent(share)} of its spread of ${part}`).join(' and ')}`;
      return [{ key: `flatSkin ${id}`, words, amount: 1 - Math.min(...parts.map(({ share }) => share)), at: id, layerId: null }];
    }),
};

/** CIE units by which teeth may be lighter, or less yellow, than the whites of the eyes. */
const WHITER = 2;

export const teeth: WarningKind = {
  kind: 'teeth',
  find(view) {
    const eyes = regionsOf(view, 'eyeWhites').flatMap(({ id }) => within(view, view.after, view.maskOf(id)) ?? []);
    if (eyes.length === 0) return [];
    const [light, yellow] = [Math.max(...eyes.map(({ mean }) => mean.l)), Math.min(...eyes.map(({ mean }) => mean.b))];
    return regionsOf(view, 'teeth').flatMap(({ id, name }): Warning[] => {
      const [was, is] = [within(view, view.before, view.maskOf(id)), within(view, view.after, view.maskOf(id))];
      if (!was || !is) return [];
      const [lighter, bluer] = [is.mean.l - light, yellow - is.mean.b];
      // What nobody has changed is not spoken of.
      const changed = Math.max(is.mean.l - was.mean.l, was.mean.b - is.mean.b);
      if (Math.max(lighter, bluer) < WHITER || changed < 1) return [];
      const words = `${name}: ${[lighter >= WHITER && `L* ${lighter.toFixed(0)} lighter`, bluer >= WHITER && `b* ${bluer.toFixed(0)} bluer`].filter(Boolean).join(' and ')} than the whites of the eyes`;
      return [{ key: `teeth ${id}`, words, amount: Math.max(lighter, bluer), at: id, layerId: null }];
    });
  },
};

/** L* up to which hair or cloth is very dark, and by how much it can become lighter without being asked for more than it holds. */
const DARK = 25;
const LIGHTER = { hair: 18, garment: 22 } as const;
/** CIE chroma under which lightened cloth is grey. */
const GREY = 6;

export const darkLightened: WarningKind = {
  kind: 'darkLightened',
  find: (view) =>
    (['hair', 'garment'] as const).flatMap((role) =>
      regionsOf(view, role).flatMap(({ id, name }): Warning[] => {
        const mask = view.maskOf(id);
        const [was, is] = [within(view, view.before, mask), within(view, view.after, mask)];
        if (!was || !is || was.mean.l > DARK || is.mean.l - was.mean.l < LIGHTER[role]) return [];
        if (role === 'garment' && Math.hypot(is.mean.a, is.mean.b) >= GREY) return [];
        const words = `${name} was very dark (L* ${was.mean.l.toFixed(0)}) and is ${role === 'hair' ? 'asked to be light' : 'grey now'} (L* ${is.mean.l.toFixed(0)})`;
        return [{ key: `darkLightened ${id}`, words, amount: is.mean.l - was.mean.l, at: id, layerId: null }];
      }),
    ),
};
