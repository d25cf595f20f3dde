import { labToRgb, srgb, type Lab } from '@umbo/core/colour';
import styled from 'styled-components';
import { hexOf } from '@/ui/hexOf';

const Swatch = styled.i`
  display: inline-block;
  width: 28px;
  height: 16px;
  border: 1px solid var(--edge);
  vertical-align: -4px;
  margin-right: 8px;
`;
/** Such as "62.1  4.2  −11.0". */
export const labWords = ({ l, a, b }: Lab): string => `${l.toFixed(1)}  ${a.toFixed(1)}  ${b.toFixed(1)}`.replaceAll('-', '−');

/** A colour as well as a screen shows it. */
export function LabSwatch({ lab }: { lab: Lab }) {
  return <Swatch style={{ background: hexOf(labToRgb(srgb, lab), srgb) }} aria-hidden />;
}
