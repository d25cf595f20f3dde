'use client';
import type { PhotographState, PhotographSummary } from '@umbo/data';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { Select } from '@/ui/controls/Select';
import { TextInput } from '@/ui/controls/TextField';
import { SORTS, type Arrangement } from './arrange';

const Title = styled.div`
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 18px 24px;
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  line-height: 16px;
  h1 {
    font: 650 26px/32px var(--sans);
    letter-spacing: -0.015em;
  }
  > span {
    color: var(--ink2);
    font-size: 14px;
    flex: 1;
    padding-top: 6px;
  }
`;
const Search = styled(TextInput)`
  width: 130px;
`;
export const SIZES = [
  ['150', 'Small'],
  ['218', 'Medium'],
  ['420', 'Large'],
  ['two', 'Two across'],
] as const;
const FILTERS = [
  ['all', 'All'],
  ['untouched', 'Untouched'],
  ['in work', 'In work'],
  ['done', 'Done'],
] as const;
export type SheetSize = (typeof SIZES)[number][0];

interface Props {
  name: string;
  photographs: readonly PhotographSummary[];
  arrangement: Arrangement;
  onArrange: (change: Partial<Arrangement>) => void;
  size: SheetSize;
  onSize: (size: SheetSize) => void;
}

/** How many photographs a shoot has, and which of them are shown in which order. */
export function SheetTitle({ name, photographs, arrangement: { filter, search, sort }, onArrange, size, onSize }: Props) {
  const inState = (state: PhotographState): number => photographs.filter((p) => p.state === state).length;
  return (
    <Title>
      <h1>{name}</h1>
      <span>
        {photographs.length} photograph{photographs.length === 1 ? '' : 's'}
        {inState('done') > 0 && ` · ${inState('done')} done`}
        {inState('in work') > 0 && ` · ${inState('in work')} in work`}
      </span>
      <Search
        type="search"
        aria-label="Search by name or camera"
        placeholder="Search"
        value={search}
        onChange={(event) => onArrange({ search: event.target.value })}
      />
      <Select label="Sort by" hideLabel value={sort} options={SORTS} onChange={(by) => onArrange({ sort: by })} />
      <Choice label="Size of the pictures" value={size} options={SIZES} onChange={onSize} />
      <Choice label="Which photographs" value={filter} options={FILTERS} onChange={(which) => onArrange({ filter: which })} />
    </Title>
  );
}
