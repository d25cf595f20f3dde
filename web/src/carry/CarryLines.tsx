'use client';
import { X } from 'lucide-react';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { useKept } from '@/ui/useKept';
import { CarryRow } from './CarryRow';
import { leftOf, useCarries } from './useCarries';

const Lines = styled.section`
  display: flex;
  align-items: flex-start;
  gap: 10px;
  max-height: 180px;
  overflow: auto;
  padding: 0 14px 0 24px;
  background: var(--panel);
  color: var(--ink);
  border-bottom: 1px solid var(--line);
  ul {
    flex: 1;
    list-style: none;
    margin: 0;
    padding: 0;
  }
  li:last-child {
    border-bottom: 0;
  }
  > button {
    margin-top: 8px;
  }
`;

/** Since when what was carried in a shoot is shown; '' for always. */
export const useShownSince = (shootId: number): [string, (since: string) => void] => useKept<string>(`carries-since-${shootId}`, '');

/** What is being carried in a shoot, and what was and has not been put away. */
export function CarryLines({ shootId, since, onSince }: { shootId: number; since: string; onSince: (since: string) => void }) {
  const { list, refresh } = useCarries(shootId);
  const shown = list.filter((carry) => leftOf(carry) > 0 || carry.createdAt > since);
  if (shown.length === 0) return null;
  return (
    <Lines aria-label="Carried">
      <ul>
        {shown.map((carry) => (
          <CarryRow key={carry.id} carry={carry} refresh={refresh} />
        ))}
      </ul>
      <Hint text="Put this away; “What was carried” in the menu brings it back">
        <IconButton aria-label="Put what was carried away" onPress={() => onSince(shown[0]!.createdAt)}>
          <X size={14} strokeWidth={1.5} />
        </IconButton>
      </Hint>
    </Lines>
  );
}
