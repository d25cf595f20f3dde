import type { HashOf } from '@umbo/core/document';

interface Named {
  readonly id: number;
  readonly sha256: string;
}

/** What photographs that an older edit names by their numbers are, as far as they are in this shoot. */
export const hashOfShoot = (state: {
  readonly photograph: Named;
  readonly shoot: { readonly photographs: readonly Named[]; readonly masks: readonly Named[] };
}): HashOf => {
  const all = [state.photograph, ...state.shoot.photographs, ...state.shoot.masks];
  return (number) => all.find(({ id }) => id === number)?.sha256;
};
