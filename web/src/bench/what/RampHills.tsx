'use client';
import type { Driver } from '@umbo/core/adjust';
import styled from 'styled-components';
import { Hills, ToneUnder, useTones } from '../ranges/Hills';

const OverRamp = styled.svg`
  display: block;
  width: calc(100% - 12px);
  height: auto;
  margin: 6px 6px 0;
  background: var(--well);
`;
const HILLS = { width: 320, base: 34, height: 30 };

/** What the mask lets in by what drives a ramp, over the ramp. */
export function RampHills({ layerId, driver }: { layerId: string; driver: Driver }) {
  const { bins, under } = useTones(layerId, driver);
  return (
    <OverRamp viewBox={`0 0 ${HILLS.width} ${HILLS.base}`} role="img" aria-label="What the mask lets in, over the ramp">
      <Hills bins={bins} {...HILLS} />
      {under !== null && <ToneUnder x={under * HILLS.width} top={0} base={HILLS.base} />}
    </OverRamp>
  );
}
