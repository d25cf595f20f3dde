import styled from 'styled-components';

/** Numbers in the number type. */
export const Num = styled.span`
  font-family: var(--mono);
  font-size: 0.92em;
  letter-spacing: -0.02em;
  font-variant-numeric: tabular-nums;
`;
