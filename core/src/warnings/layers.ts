/** Layers that do what cannot be meant: a mask that catches nothing, a family turned far that is hardly there. */
import { contentKind } from '../document/contentKind.ts';
import { EIGHT_FAMILIES } from '../colour/families.ts';
import { coversAll } from '../mask/mask.ts';
import { familyShares, hueCensus } from '../measure/hueCensus.ts';
import { percent } from '../base/number.ts';
import type { Warning, WarningKind } from './warning.ts';

/** Share of the picture under which a mask catches nothing. */
const NOTHING = 0.0001;

export const emptyMask: WarningKind = {
  kind: 'emptyMask',
  find: (view) =>
    view.acting.flatMap(({ layer: { id, name }, where }): Warning[] => {
      if (coversAll(where)) return [];
      const share = view.maskOf(id).reduce((sum, v) => sum + v, 0) / (view.n * 65535);
      if (share >= NOTHING) return [];
      return [
        { key: `emptyMask ${id}`, words: `The mask of “${name}” catches nothing (${percent(share)})`, amount: 1, at: id, layerId: id },
      ];
    }),
};

/** Share of all colour under which a family is hardly here. */
const HARDLY = 0.01;

export const scarceFamily: WarningKind = {
  kind: 'scarceFamily',
  find: (view) =>
    view.acting.flatMap(({ layer: { id, name, what } }): Warning[] => {
      const turned = contentKind(what)?.turnsFar?.(what.settings) ?? [];
      if (turned.length === 0) return [];
      const shares = familyShares(hueCensus(view.space, view.photograph, view.maskOf(id)), EIGHT_FAMILIES);
      return turned.flatMap((far): Warning[] => {
        const i = EIGHT_FAMILIES.findIndex((family) => family.id === far.id);
        if (shares[i]! >= HARDLY) return [];
        const family = EIGHT_FAMILIES[i]!.name.toLowerCase();
        const words = `“${name}” turns ${family} by ${far.by.toFixed(0)}, and they are hardly here (${percent(shares[i]!)} of all colour)`;
        return [{ key: `scarceFamily ${id} ${far.id}`, words, amount: far.by, at: id, layerId: id }];
      });
    }),
};
