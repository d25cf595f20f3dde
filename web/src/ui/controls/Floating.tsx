'use client';
import { Popover } from 'react-aria-components';
import styled from 'styled-components';

/** What opens beside a button: a menu, a list. */
export const Floating = styled(Popover)`
  background: var(--raised);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  box-shadow: 0 2px 8px #0004;
  overflow: auto;
  outline: none;
`;
