'use client';
import { adjustments } from '@umbo/core/adjust';
import { sources } from '@umbo/core/content';
import type { ReactNode } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { addLayer, type LayerKind } from '../state/actions';
import { addMeasured } from '../state/measuring';
import { useBenchStore } from '../state/context';

const GROUPS = [...new Set(adjustments.map(({ group }) => group))];
const FIRST_CORRECTION = 'first-correction';

/** All kinds side by side. */
const Wide = styled(Menu)`
  columns: 3 132px;
  column-gap: 6px;
  max-width: min(480px, 92vw);
  padding: 6px;
  > section {
    break-inside: avoid;
    margin-bottom: 6px;
  }
` as typeof Menu;

/** Offers the kinds of a new layer under a button. */
export function NewLayerMenu(props: { children: ReactNode; isOpen?: boolean; onOpenChange?: (open: boolean) => void }) {
  const store = useBenchStore();
  const { children, ...opening } = props;
  const add = (kind: string): void => {
    if (kind === FIRST_CORRECTION) void addMeasured(store.getState, 'firstCorrection', 'First correction');
    else addLayer(store.getState(), kind as LayerKind);
  };
  return (
    <MenuTrigger {...opening}>
      {children}
      <Floating>
        <Wide aria-label="New layer" onAction={(kind) => add(String(kind))}>
          {GROUPS.slice(0, -1).map((group) => (
            <AdjustmentsOf key={group} group={group} />
          ))}
          <MenuSection title="More than one layer">
            <MenuItem id="group">Group</MenuItem>
            <MenuItem id={FIRST_CORRECTION}>First correction</MenuItem>
          </MenuSection>
          <AdjustmentsOf group={GROUPS.at(-1)!} />
          <MenuSection title="Colours of its own">
            {sources.map(({ kind, name }) => (
              <MenuItem key={kind} id={kind}>
                {name}
              </MenuItem>
            ))}
          </MenuSection>
        </Wide>
      </Floating>
    </MenuTrigger>
  );
}

function AdjustmentsOf({ group }: { group: string }) {
  return (
    <MenuSection title={group}>
      {adjustments
        .filter((one) => one.group === group)
        .map(({ kind, name }) => (
          <MenuItem key={kind} id={kind}>
            {name}
          </MenuItem>
        ))}
    </MenuSection>
  );
}
