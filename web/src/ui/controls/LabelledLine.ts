import styled from 'styled-components';

/** How wide the words before sliders and lists are, in pixels. */
export const LABEL = 92;

/** A word and the control it is for, lined up with the sliders. */
export const LabelledLine = styled.div`
  display: grid;
  grid-template-columns: ${LABEL}px 1fr;
  gap: 8px;
  align-items: center;
  min-height: 28px;
  font-size: 12px;
  line-height: 16px;
`;
