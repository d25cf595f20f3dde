'use client';
import styled from 'styled-components';

/** What a range is drawn in, with its handles, on data. */
export const RangeSvg = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  touch-action: none;
  user-select: none;
  margin: 4px 0 2px;
  overflow: visible;
  .handle {
    fill: var(--raised);
    stroke: var(--ink);
    stroke-width: 1.5;
    cursor: ew-resize;
    outline: none;
  }
  .handle:focus-visible {
    stroke-width: 3;
  }
  .range {
    fill: var(--ink);
    fill-opacity: 0.1;
    stroke: var(--ink);
    stroke-width: 1.5;
    cursor: grab;
  }
  text {
    font: 400 10px var(--sans);
    fill: var(--ink2);
  }
`;
