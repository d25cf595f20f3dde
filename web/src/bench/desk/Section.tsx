'use client';
import type { ReactNode } from 'react';
import styled from 'styled-components';

const Box = styled.section`
  border-bottom: 1px solid var(--line);
  padding: 10px 14px 12px;
  &:last-child {
    border-bottom: 0;
  }
`;
const Title = styled.h2`
  display: flex;
  justify-content: space-between;
  gap: 12px;
  font: 650 12px/16px var(--sans);
  margin: 0 0 6px;
  em {
    font-style: normal;
    font-weight: 400;
    color: var(--ink2);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

/** A part of a panel under its title. */
export function Section({ title, note, children }: { title: string; note?: ReactNode; children: ReactNode }) {
  return (
    <Box aria-label={title}>
      <Title>
        {title} {note !== undefined && <em>{note}</em>}
      </Title>
      {children}
    </Box>
  );
}
