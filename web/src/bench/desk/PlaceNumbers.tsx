'use client';
import type { TypedNumber } from '@umbo/core/base';
import styled from 'styled-components';
import { numberRange } from '@/ui/controls/numberRange';
import { NumberText } from '@/ui/controls/NumberText';

const Grid = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 14px;
  margin: 2px 0 4px;
  label {
    display: flex;
    align-items: center;
    justify-content: space-between;
    min-height: 24px;
    color: var(--ink2);
  }
`;

interface Props<S> {
  settings: S;
  numbers: readonly TypedNumber<S>[];
  /** @param words such as "Angle 30°" */
  commit: (words: string, change: (settings: S) => void) => void;
}

/** The place of what is drawn on the photograph, in numbers. */
export function PlaceNumbers<S>({ settings, numbers, commit }: Props<S>) {
  if (numbers.length === 0) return null;
  return (
    <Grid role="group" aria-label="Place">
      {numbers.map(({ label, unit, min, max, get, set }) => {
        const range = numberRange({ min, max, step: 1, unit });
        return (
          <label key={label}>
            {label}
            <NumberText
              name={label}
              value={get(settings)}
              range={range}
              width={70}
              onCommit={(value) => commit(`${label} ${range.words(value)}`, (draft) => set(draft, value))}
            />
          </label>
        );
      })}
    </Grid>
  );
}
