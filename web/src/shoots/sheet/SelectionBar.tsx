'use client';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { Button, IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';

const Bar = styled.div`
  flex: none;
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 46px;
  padding: 8px 14px;
  border-top: 1px solid var(--line);
  background: var(--panel);
  color: var(--ink);
  font-size: 12px;
  line-height: 16px;
  > span {
    margin-right: 8px;
    white-space: nowrap;
  }
  > i {
    flex: 1;
  }
`;

/** What can be done with the chosen photographs, and what was done last. */
export function SelectionBar(props: {
  count: number;
  total: number;
  onClear: () => void;
  last: string | null;
  onUndo: () => void;
  onDismiss: () => void;
  children: ReactNode;
}) {
  const { count, total, last } = props;
  return (
    <Bar role="toolbar" aria-label="Chosen photographs">
      {count > 0 ? (
        <>
          <span>
            <b>{count}</b> of {total} chosen
          </span>
          {props.children}
          <Hint text="Choose none (Escape)">
            <IconButton aria-label="Choose none" onPress={props.onClear}>
              <X size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        </>
      ) : (
        <span style={{ color: 'var(--ink2)' }}>Click, draw a band or press Ctrl A to choose; double-click or Enter opens.</span>
      )}
      <i />
      {last && (
        <>
          <span role="status">{last}.</span>
          <Button onPress={props.onUndo}>Undo</Button>
          <IconButton aria-label="Put this away" onPress={props.onDismiss}>
            <X size={14} strokeWidth={1.5} />
          </IconButton>
        </>
      )}
    </Bar>
  );
}
