'use client';
import type { ReactNode } from 'react';
import { Tooltip, TooltipTrigger } from 'react-aria-components';
import styled from 'styled-components';

/** A word under the pointer for what only has an icon. */
export function Hint({ text, children }: { text: string; children: ReactNode }) {
  return (
    <TooltipTrigger delay={500} closeDelay={0}>
      {children}
      <Tip offset={6}>{text}</Tip>
    </TooltipTrigger>
  );
}
const Tip = styled(Tooltip)`
  background: var(--ink);
  color: var(--on-ink);
  padding: 2px 8px;
  border-radius: var(--radius);
  font-size: 12px;
  line-height: 18px;
`;
