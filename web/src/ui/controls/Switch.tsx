'use client';
import type { ReactNode } from 'react';
import { Switch as AriaSwitch } from 'react-aria-components';
import styled from 'styled-components';

const SwitchBox = styled(AriaSwitch)`
  display: inline-flex;
  align-items: center;
  gap: 7px;
  cursor: default;
  > i {
    width: 22px;
    height: 12px;
    border: 1px solid var(--edge);
    border-radius: 6px;
    background: var(--raised);
    position: relative;
    flex: none;
  }
  > i::after {
    content: '';
    position: absolute;
    left: 1px;
    top: 1px;
    width: 8px;
    height: 8px;
    border-radius: 50%;
    background: var(--edge);
  }
  &[data-selected] > i {
    background: var(--ink);
    border-color: var(--ink);
  }
  &[data-selected] > i::after {
    left: 11px;
    background: var(--on-ink);
  }
  &[data-disabled] {
    color: var(--edge);
    > i {
      opacity: 0.5;
    }
  }
  &[data-focus-visible] {
    outline: 2px solid var(--ink);
    outline-offset: 2px;
    border-radius: var(--radius);
  }
`;
export function Switch(props: { children: ReactNode; value: boolean; onChange: (value: boolean) => void; isDisabled?: boolean }) {
  return (
    <SwitchBox isSelected={props.value} onChange={props.onChange} isDisabled={props.isDisabled ?? false}>
      <i aria-hidden />
      {props.children}
    </SwitchBox>
  );
}
