'use client';
import styled from 'styled-components';

/** The letter of a reading, as it stands on the photograph. */
export const Letter = styled.i`
  flex: none;
  display: grid;
  place-items: center;
  min-width: 17px;
  height: 17px;
  padding: 0 3px;
  border-radius: 9px;
  background: var(--ink);
  color: var(--on-ink);
  font: 650 10px/1 var(--sans);
`;
