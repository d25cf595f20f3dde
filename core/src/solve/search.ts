import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import type { Dial } from '../base/dial.ts';
import type { Layer } from '../document/types.ts';
import { changeable } from './layerDials.ts';

/** CIEDE2000 that turning a dial by its step has to gain: where several settings do the same, the smallest change is taken. */
const THRIFT = 0.04;
/** By how much of its step a dial is turned to feel what that does. */
const FEEL = 0.05;
/** Steps of one burst of the search, bursts at most, and the share of the squares that one has to take away for another to follow. */
const [BURST, BURSTS, GAIN] = [4, 6, 0.03];

/** Turns dials until the residuals are smallest, from where they stand. @param rest where a dial costs nothing */
export function search(
  from: Layer,
  dials: readonly Dial<Layer>[],
  rest: Layer,
  residualsOf: (layer: Layer) => number[],
  step: () => void,
): Layer {
  const origin = dials.map((dial) => dial.read(rest));
  const turnedTo = (turns: readonly number[]): Layer => {
    const layer = changeable(from);
    dials.forEach((dial, i) => dial.write(layer, origin[i]! + turns[i]! * dial.step));
    return layer;
  };
  const count = residualsOf(from).length + dials.length;
  const all = (turns: readonly number[]): number[] => {
    step();
    return [...residualsOf(turnedTo(turns)), ...turns.map((turn) => turn * THRIFT)];
  };
  const x = Array.from({ length: count }, (_, i) => i);
  const minValues = dials.map(({ bounds, step: by }, i) => (bounds[0] - origin[i]!) / by);
  const maxValues = dials.map(({ bounds, step: by }, i) => (bounds[1] - origin[i]!) / by);
  // At its upper end a dial seems to do nothing: the search asks what turning it up does.
  let turns = dials.map((dial, i) => Math.min(maxValues[i]! - 2 * FEEL, (dial.read(from) - origin[i]!) / dial.step));
  const costAt = (tried: readonly number[]): number => all(tried).reduce((sum, v) => sum + v * v, 0);
  for (const [i, { starts = [], step: by }] of dials.entries()) {
    let least = starts.length > 0 ? costAt(turns) : 0;
    for (const start of starts) {
      const tried = turns.with(i, (start - origin[i]!) / by);
      const cost = costAt(tried);
      if (cost < least) [turns, least] = [tried, cost];
    }
  }
  let error = Infinity;
  // The method itself ends only at nothing, or after so many steps: in bursts it ends where nothing is gained any more.
  for (let burst = 0; burst < BURSTS; burst++) {
    const { parameterValues, parameterError } = levenbergMarquardt(
      { x, y: x.map(() => 0) },
      (tried) => {
        const values = all(tried);
        return (i) => values[i]!;
      },
      { initialValues: turns, minValues, maxValues, gradientDifference: FEEL, damping: 0.01, maxIterations: BURST, errorTolerance: 1e-6 },
    );
    if (parameterError < error) turns = parameterValues;
    if (!(parameterError < error * (1 - GAIN))) break;
    error = parameterError;
  }
  return turnedTo(turns);
}
