import styled from 'styled-components';

/** A word and the control it is for, lined up with the sliders. */
export const LabelledLine = styled.div`
  display: grid;
  grid-template-columns: 78px 1fr;
  gap: 8px;
  align-items: center;
  min-height: 28px;
  font-size: 12px;
  line-height: 16px;
`;
