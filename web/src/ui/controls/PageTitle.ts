import styled from 'styled-components';

/** What a page is called, above all that is on it. */
export const PageTitle = styled.h1`
  font: 650 26px/32px var(--sans);
  letter-spacing: -0.015em;
`;
