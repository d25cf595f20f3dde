import styled from 'styled-components';

/** A row of an editor: words, and what can be done. */
export const PartLine = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  p {
    flex: 1;
    margin: 0;
    color: var(--ink2);
  }
`;
