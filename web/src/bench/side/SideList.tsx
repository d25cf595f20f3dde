'use client';
import styled from 'styled-components';

/** A list that fills what is left of the side, from edge to edge. */
export const SideList = styled.ul`
  list-style: none;
  margin: 6px -14px -12px;
  padding: 0;
  overflow: auto;
  flex: 1;
  min-height: 0;
  border-top: 1px solid var(--line);
`;
