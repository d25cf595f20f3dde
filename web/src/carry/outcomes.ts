/** What came of one photograph, in words. */
import { answeredWords } from '@umbo/core/carry';
import type { CarriedTo, CarrySummary } from '@umbo/data';
import { waitsWords } from '@/ui/waits';

export const countOf = (photographs: number): string => (photographs === 1 ? 'one photograph' : `${photographs} photographs`);

/** What it is, as it goes before how many photographs it went to. */
export const carriedWords = ({ from, sourceName, photographs }: Pick<CarrySummary, 'from' | 'sourceName' | 'photographs'>): string => {
  const count = countOf(photographs);
  return from === 'photograph' ? `From ${sourceName} to ${count}` : `${sourceName} on ${count}`;
};

export const remarksOf = ({ outcome }: CarriedTo): number => outcome?.remarks ?? 0;

/** What there is to say of one photograph. */
export function wordsOf({ outcome, state, error, isHere, waits }: CarriedTo, isTrial = false): string[] {
  if (state === 'failed') return [error ?? 'It failed.'];
  if (state === 'cancelled') return ['Cancelled.'];
  if (!outcome) return [state === 'running' ? 'At work…' : waitsWords(waits)];
  const { report, kept, changed, answered = [] } = outcome;
  return [
    ...report.masks.flatMap(({ name, words }) => (words ? [`${name}: ${words}.`] : [])),
    ...report.words,
    ...answeredWords(answered).map((words) => `${words}.`),
    ...(kept.length > 0 ? [`Changed here as well, and kept: ${kept.join(', ')}.`] : []),
    ...(changed || isHere || isTrial ? [] : ['Nothing was to be changed.']),
  ];
}

/** How far what was solved for is from its targets, before and after. */
export const reachedOf = ({ outcome }: CarriedTo): string[] =>
  (outcome?.answered ?? []).flatMap(({ name: layer, reached }, _, all) =>
    reached.flatMap(({ held, name, before, after }) =>
      held ? [] : [`${all.length > 1 ? `${layer}, ${name}` : name}: ΔE00 ${before.toFixed(1)} → ${after.toFixed(1)}`],
    ),
  );
