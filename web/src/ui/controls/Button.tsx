'use client';
import { Button as AriaButton, ToggleButton } from 'react-aria-components';
import styled from 'styled-components';
import { face, filled } from './face';

export const Button = styled(AriaButton)<{ $primary?: boolean }>`
  ${face} ${(p) => p.$primary && filled}
`;

export const IconButton = styled(AriaButton)`
  ${face} width: 28px;
  min-height: 26px;
  padding: 0;
  flex: none;
`;

/** An icon without a frame, for places with many of them. */
export const BareButton = styled(AriaButton)`
  width: 22px;
  height: 22px;
  flex: none;
  padding: 0;
  border: 0;
  background: none;
  display: grid;
  place-items: center;
  border-radius: 2px;
  &[data-hovered] {
    background: var(--well);
  }
`;

/** An icon that is on or off. */
export const IconToggle = styled(ToggleButton)`
  width: 24px;
  height: 24px;
  flex: none;
  padding: 0;
  border: 1px solid transparent;
  border-radius: var(--radius);
  background: none;
  display: grid;
  place-items: center;
  cursor: default;
  &[data-hovered] {
    background: var(--well);
  }
  &[data-selected] {
    background: var(--ink);
    color: var(--on-ink);
  }
`;

/** A link that looks like a button. */
export const LinkButton = styled.a<{ $primary?: boolean }>`
  ${face} ${(p) => p.$primary && filled}
`;
