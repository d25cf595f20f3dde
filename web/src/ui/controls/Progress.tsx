'use client';
import styled from 'styled-components';

const Bar = styled.div`
  height: 5px;
  border-radius: 3px;
  background: var(--well);
  overflow: hidden;
  > i {
    display: block;
    height: 100%;
    background: var(--ink);
  }
`;
export function Progress({ label, share }: { label: string; share: number }) {
  return (
    <Bar role="progressbar" aria-label={label} aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round(share * 100)}>
      <i style={{ width: `${share * 100}%` }} />
    </Bar>
  );
}
