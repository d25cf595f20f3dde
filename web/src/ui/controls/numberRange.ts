import { clamp } from '@umbo/core/base';

export type Unit = '' | '°' | '%' | 'px' | 'kB' | 'ΔE' | 'K';

interface Keys {
  key: string;
  shiftKey: boolean;
  altKey: boolean;
}

/** The values a number may have, how it is stepped, and how it is written. */
export interface NumberRange {
  /** The nearest value it may have, in decimal numbers: 0.7, not 0.7000000000000001. */
  settle: (value: number) => number;
  /** One step further by an arrow key: Shift for big steps, Alt for fine ones; the value itself for any other key. */
  stepped: (value: number, keys: Keys) => number;
  words: (value: number) => string;
}

export function numberRange({
  min,
  max,
  step,
  unit = '',
  signed = false,
}: {
  min: number;
  max: number;
  step: number;
  unit?: Unit;
  /** Shows a plus before positive values. */
  signed?: boolean;
}): NumberRange {
  const decimals = step < 0.1 ? 2 : step < 1 ? 1 : 0;
  const fine = step / 10;
  const settle = (value: number): number => clamp(Number((Math.round(value / fine) * fine).toFixed(9)), min, max);
  return {
    settle,
    stepped(value, { key, shiftKey, altKey }) {
      const direction = key === 'ArrowUp' || key === 'ArrowRight' ? 1 : key === 'ArrowDown' || key === 'ArrowLeft' ? -1 : 0;
      return direction === 0 ? value : settle(value + direction * (shiftKey ? step * 10 : altKey ? fine : step));
    },
    words(value) {
      const digits = step >= 10 || Number.isInteger(value / step) ? decimals : decimals + 1;
      return `${signed && value > 0 ? '+' : ''}${value.toFixed(digits).replace('-', '−')}${unit === '' || unit === '°' ? unit : ` ${unit}`}`;
    },
  };
}
