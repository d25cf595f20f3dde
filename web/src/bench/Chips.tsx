'use client';
import styled from 'styled-components';
import { Button } from '@/ui/controls';

/** Small things in a row, one of which is worked on. */
export const Chips = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: center;
  margin-bottom: 6px;
`;
export const Chip = styled.button`
  border: 1px solid var(--line);
  background: var(--raised);
  border-radius: 12px;
  padding: 2px 10px;
  min-height: 24px;
  cursor: default;
  &:hover {
    border-color: var(--edge);
  }
  &[aria-pressed='true'] {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--on-ink);
  }
  &[data-off='true'] {
    text-decoration: line-through;
  }
`;
export const RoundButton = styled(Button)`
  border-radius: 12px;
  min-height: 24px;
  padding: 2px 10px;
`;
