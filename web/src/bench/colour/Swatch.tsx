'use client';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';

/** A colour that can be pressed. */
export const Swatch = styled(AriaButton)`
  width: 22px;
  height: 22px;
  flex: none;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  &[data-hovered],
  &[aria-pressed='true'] {
    outline: 2px solid var(--ink);
    outline-offset: 1px;
  }
`;
