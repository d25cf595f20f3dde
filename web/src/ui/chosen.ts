/** Which photographs of a shoot are chosen, and in which order they are shown: for what comes after the contact sheet, in this window. */

export interface Chosen {
  /** All that are shown, in their order. */
  readonly order: readonly number[];
  readonly chosen: readonly number[];
}

const keyOf = (shootId: number): string => `umbo-chosen-${shootId}`;
const isList = (value: unknown): value is number[] => Array.isArray(value) && value.every((one) => Number.isInteger(one));

export function keptChosen(shootId: number): Chosen {
  try {
    const { order, chosen } = JSON.parse(sessionStorage.getItem(keyOf(shootId)) ?? '{}') as Partial<Chosen>;
    return { order: isList(order) ? order : [], chosen: isList(chosen) ? chosen : [] };
  } catch {
    return { order: [], chosen: [] };
  }
}

export const keepChosen = (shootId: number, chosen: Chosen): void => sessionStorage.setItem(keyOf(shootId), JSON.stringify(chosen));

/** The photographs that one walks through from here: those that are chosen, when this one is among several; else all that are shown. */
export function walkFrom(shootId: number, id: number): readonly number[] {
  const { order, chosen } = keptChosen(shootId);
  return chosen.length > 1 && chosen.includes(id) ? order.filter((one) => chosen.includes(one)) : order;
}
