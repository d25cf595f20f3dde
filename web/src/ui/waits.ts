/** Why something waits, and how long, in words. */
import type { Waits } from '@umbo/data';

const FIRST = ['', 'next', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth'];
const ENDINGS: Record<string, string> = { one: 'st', two: 'nd', few: 'rd', other: 'th' };
const rules = new Intl.PluralRules('en', { type: 'ordinal' });

export const timeWords = (seconds: number): string => (seconds < 90 ? `${seconds} s` : `${Math.round(seconds / 60)} min`);

/** @param waits null: it is not known yet what is before it */
export function waitsWords(waits: Waits | null): string {
  if (!waits) return 'Waits for its turn.';
  const { place, seconds } = waits;
  const words = `${FIRST[place] ?? `${place}${ENDINGS[rules.select(place)]}`} in line`;
  return `Waits: ${words}${seconds === null ? '' : `, about ${timeWords(seconds)}`}.`;
}
