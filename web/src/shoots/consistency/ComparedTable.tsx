'use client';
import Link from 'next/link';
import styled from 'styled-components';
import { Num } from '@/ui/controls/Num';
import { PreviewPicture } from '../PreviewPicture';
import type { Compared } from './compare';
import { LabSwatch, labWords } from './LabSwatch';

const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  th {
    text-align: right;
    font-weight: 600;
    color: var(--ink2);
    padding: 4px 12px 4px 0;
    border-bottom: 1px solid var(--line);
  }
  th:first-child,
  td:first-child {
    text-align: left;
  }
  td {
    padding: 6px 12px 6px 0;
    text-align: right;
    border-bottom: 1px solid var(--line);
  }
  tr[data-outlier] td:first-child,
  tr[data-outlier] [data-off] {
    font-weight: 650;
  }
`;
const Which = styled.span`
  display: flex;
  align-items: center;
  gap: 12px;
  > span {
    width: 66px;
    height: 44px;
    background: var(--well);
    display: grid;
    overflow: hidden;
  }
  img {
    width: 66px;
    height: 44px;
    object-fit: cover;
  }
`;

/** Each photograph as it is compared, the farthest first. */
export function ComparedTable({ rows, tolerance, database }: { rows: readonly Compared[]; tolerance: number; database: string }) {
  return (
    <Table>
      <thead>
        <tr>
          <th>Photograph</th>
          <th>ΔE00</th>
          <th>L* a* b*</th>
          <th>Spread of L*</th>
          <th>of C*</th>
          <th>of h</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ photographId, name, revision, lab, spread, off }) => (
          <tr key={photographId} data-outlier={off > tolerance || undefined}>
            <td>
              <Which>
                <span>
                  <PreviewPicture database={database} id={photographId} revision={revision} />
                </span>
                <Link href={`/photographs/${photographId}`}>{name}</Link>
              </Which>
            </td>
            <td data-off>
              <Num>{off.toFixed(1)}</Num>
            </td>
            <td>
              <LabSwatch lab={lab} />
              <Num style={{ whiteSpace: 'pre' }}>{labWords(lab)}</Num>
            </td>
            {(['lightness', 'chroma', 'hue'] as const).map((axis) => (
              <td key={axis}>
                <Num>{spread ? `${spread[axis].toFixed(1)}${axis === 'hue' ? '°' : ''}` : '–'}</Num>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
