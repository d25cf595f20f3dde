'use client';
import { ROLES, type MaskOwner, type Region, type Role } from '@umbo/core/document';
import { Trash2 } from 'lucide-react';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Select } from '@/ui/controls/Select';
import { TextInput } from '@/ui/controls/TextField';
import { useBench, useBenchStore } from '../state/context';
import { renameRegion, setRole, takeRegionOut, usersOf } from '../state/regions';

const Head = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 118px auto;
  gap: 6px;
  align-items: center;
  padding: 8px 14px;
  border-bottom: 1px solid var(--line);
  p {
    grid-column: 1 / -1;
    margin: 0;
    color: var(--ink2);
  }
`;
const NO_ROLE = 'none';

/** The region in work: what it is called and what it is of, and which masks use it. */
export function RegionHead({ region }: { region: MaskOwner }) {
  const store = useBenchStore();
  const role = useBench(({ document }) => document.regions?.find(({ id }) => id === region.id)?.role);
  const users = useBench((state) => usersOf(state.document, region.id).join(', '));
  const options = [[NO_ROLE, 'no role'] as const, ...ROLES];
  return (
    <Head role="group" aria-label="Region">
      <TextInput
        key={region.name}
        aria-label="Name of the region"
        defaultValue={region.name}
        onBlur={(event) => renameRegion(store.getState(), region.id, event.target.value)}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Escape') event.currentTarget.value = region.name;
          if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
        }}
      />
      <Select
        label="What the region is of"
        hideLabel
        value={(role ?? NO_ROLE) as Role | typeof NO_ROLE}
        options={options}
        onChange={(next) => setRole(store.getState(), region as Region, next === NO_ROLE ? null : next)}
      />
      <Hint text="Remove the region; masks that use it keep a copy">
        <IconButton aria-label="Remove the region" onPress={() => takeRegionOut(store.getState(), region as Region)}>
          <Trash2 size={14} strokeWidth={1.5} />
        </IconButton>
      </Hint>
      <p>{users === '' ? 'No mask uses it yet.' : `Used by ${users}.`}</p>
    </Head>
  );
}
