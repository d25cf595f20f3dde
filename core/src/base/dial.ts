/** Numbers in settings that a solver may turn. */
import { clamp } from './number.ts';

export interface Dial<S> {
  readonly read: (settings: S) => number;
  /** Changes settings in place. */
  readonly write: (settings: S, value: number) => void;
  readonly bounds: readonly [number, number];
  /** A turn that is clearly seen: by it dials of several kinds are compared. */
  readonly step: number;
  /** Values from which it may be better to begin than from where it stands: where a way leads over a pass. Left out: none. */
  readonly starts?: readonly number[];
}

type NumberKey<S> = { [K in keyof S]-?: S[K] extends number ? K : never }[keyof S];

/** Dials of settings that are plain numbers; what is written is rounded to a hundredth of a step. */
export const dialsOf = <S>(keys: readonly NumberKey<S>[], bounds: readonly [number, number], step: number): Dial<S>[] =>
  keys.map((key) => ({
    read: (settings) => settings[key] as number,
    write: (settings, value) => void (settings[key] = rounded(clamp(value, ...bounds), step / 100) as S[typeof key]),
    bounds,
    step,
  }));

/** To the nearest multiple, without the digits that binary fractions leave. */
export const rounded = (value: number, to: number): number => Number((Math.round(value / to) * to).toFixed(6));

/** The three channels of a colour. */
export const colourDials = <S>(of: (settings: S) => [number, number, number] | undefined): Dial<S>[] =>
  [0, 1, 2].map((channel) => ({
    read: (settings) => of(settings)?.[channel] ?? 0,
    write(settings, value) {
      const colour = of(settings);
      if (colour) colour[channel] = rounded(clamp(value, 0, 1), 0.0001);
    },
    bounds: [0, 1] as const,
    step: 0.05,
  }));
