'use client';
import { Dialog } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';

/** What opens above the footer. */
export const FooterBox = styled(Dialog)`
  display: grid;
  gap: 8px;
  width: 350px;
  padding: 12px 14px 14px;
  outline: none;
  white-space: normal;
  font-size: 12px;
  line-height: 16px;
  h3 {
    font: inherit;
    font-weight: 650;
  }
  p {
    color: var(--ink2);
  }
`;

/** Words of the footer that open something. */
export const FooterOpener = styled(Button)`
  border: 0;
  background: none;
  color: inherit;
`;
