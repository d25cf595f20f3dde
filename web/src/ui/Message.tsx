'use client';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { Rings } from './Logo';

const Box = styled.div`
  display: grid;
  justify-items: center;
  align-content: center;
  gap: 12px;
  padding: 48px 24px;
  text-align: center;
  color: var(--ink2);
  min-height: 60vh;
  h1 {
    font: 650 18px/24px var(--sans);
    color: var(--ink);
  }
  p {
    max-width: 46ch;
  }
`;

/** A page, or a part of one, that has words instead of content. */
export function Message({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <Box>
      <Rings />
      <h1>{title}</h1>
      {children}
    </Box>
  );
}
