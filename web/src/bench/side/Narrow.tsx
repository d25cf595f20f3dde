'use client';
import styled from 'styled-components';

/** Three words beside each other in a panel as narrow as it may be. */
export const Narrow = styled.div`
  button {
    padding: 2px 4px;
  }
`;
