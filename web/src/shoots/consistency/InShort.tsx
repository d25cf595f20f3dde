'use client';
import { Bar, BarChart, Cell, ReferenceLine, ResponsiveContainer, YAxis } from 'recharts';
import styled from 'styled-components';
import { Num } from '@/ui/controls/Num';
import type { Compared, Comparison } from './compare';
import { LabSwatch, labWords } from './LabSwatch';

const Overview = styled.div`
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr);
  gap: 24px;
  align-items: end;
  margin-bottom: 14px;
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 4px 14px;
    margin: 0;
  }
  dd {
    margin: 0;
  }
  dt {
    color: var(--ink2);
  }
`;
interface Props {
  words: string;
  found: Comparison;
  outliers: number;
  tolerance: number;
}

/** The middle of all, and how far photographs are off it. */
export function InShort({ words, found, outliers, tolerance }: Props) {
  return (
    <Overview>
      <dl>
        <dt>{words}</dt>
        <dd>
          <LabSwatch lab={found.middle} />
          <Num>{labWords(found.middle)}</Num>
        </dd>
        <dt>Off, in the mean</dt>
        <dd>
          <Num>{found.mean.toFixed(1)} ΔE00</Num>
        </dd>
        <dt>The farthest</dt>
        <dd>
          <Num>{found.farthest.toFixed(1)} ΔE00</Num>
        </dd>
        <dt>Outside</dt>
        <dd>
          {outliers} of {found.rows.length}
        </dd>
      </dl>
      <Bars rows={found.rows} tolerance={tolerance} />
    </Overview>
  );
}

/** How far each is off, the farthest first, and the tolerance as a line. */
function Bars({ rows, tolerance }: { rows: readonly Compared[]; tolerance: number }) {
  const data = rows.map(({ name, off }) => ({ name, off }));
  return (
    <div role="img" aria-label={`ΔE00 of ${rows.length} photographs, the farthest first; tolerance ${tolerance}`}>
      <ResponsiveContainer width="100%" height={110}>
        <BarChart data={data} margin={{ top: 6, right: 0, bottom: 0, left: 0 }} barCategoryGap={2}>
          <YAxis
            width={34}
            domain={[0, (most: number) => Math.max(most, tolerance * 1.2)]}
            tickCount={3}
            tickFormatter={(v: number) => v.toFixed(1)}
            tick={{ fontSize: 10 }}
            stroke="var(--ink2)"
          />
          <Bar dataKey="off" isAnimationActive={false} maxBarSize={40}>
            {data.map(({ name, off }) => (
              <Cell key={name} fill={off > tolerance ? 'var(--ink)' : 'var(--edge)'} />
            ))}
          </Bar>
          <ReferenceLine y={tolerance} stroke="var(--ink)" strokeDasharray="4 3" />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
