'use client';
import { adjustments } from '@umbo/core/adjust';
import { sources } from '@umbo/core/content';
import { findMaskOwner } from '@umbo/core/document';
import type { ReactNode } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { addLayer, changeKind, type LayerKind } from '../state/actions';
import { addMeasured } from '../state/measuring';
import { useBench, useBenchStore } from '../state/context';

const GROUPS = [...new Set(adjustments.map(({ group }) => group))];

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

const For = styled.p`
  padding: 8px 12px 0;
  font-size: 12px;
  line-height: 16px;
  color: var(--ink2);
`;

/** Offers the kinds of a new layer under a button. */
export function NewLayerMenu(props: { children: ReactNode; isOpen?: boolean; onOpenChange?: (open: boolean) => void }) {
  const store = useBenchStore();
  const { children, ...opening } = props;
  const offering = useBench((state) => state.offering);
  const name = useBench(({ committed, layerId }) => findMaskOwner(committed, layerId)?.name ?? '');
  const words = offering === 'change' ? `Instead, “${name}” shall be:` : offering === 'same mask' ? `On the mask of “${name}”:` : null;
  const add = (kind: LayerKind, mode?: string): void => {
    if (offering === 'change') changeKind(store.getState(), kind);
    else addLayer(store.getState(), kind, { ...(mode !== undefined && { mode }), sameMask: offering === 'same mask' });
  };
  const isChange = offering === 'change';
  return (
    <MenuTrigger {...opening}>
      {children}
      <Floating>
        {words && <For>{words}</For>}
        <Wide aria-label="New layer">
          {GROUPS.slice(0, -1).map((group) => (
            <AdjustmentsOf key={group} group={group} onAdd={add} />
          ))}
          <MenuSection title="More than one layer">
            <MenuItem isDisabled={isChange} onAction={() => add('group')}>
              Group
            </MenuItem>
            <MenuItem isDisabled={isChange} onAction={() => void addMeasured(store.getState, 'firstCorrection', 'First correction')}>
              First correction
            </MenuItem>
          </MenuSection>
          <AdjustmentsOf group={GROUPS.at(-1)!} onAdd={add} />
          <MenuSection title="Colours of its own">
            {sources.map(({ kind, name }) => (
              <MenuItem key={kind} onAction={() => add(kind)}>
                {name}
              </MenuItem>
            ))}
            {sources
              .filter(({ tool, colours }: { tool?: unknown; colours?: unknown }) => colours !== undefined || tool !== undefined)
              .map(({ kind, name }) => (
                <MenuItem key={`${kind} color`} onAction={() => add(kind, 'color')}>
                  {name}, colour only
                </MenuItem>
              ))}
          </MenuSection>
        </Wide>
      </Floating>
    </MenuTrigger>
  );
}

function AdjustmentsOf({ group, onAdd }: { group: string; onAdd: (kind: LayerKind) => void }) {
  return (
    <MenuSection title={group}>
      {adjustments
        .filter((one) => one.group === group)
        .map(({ kind, name }) => (
          <MenuItem key={kind} onAction={() => onAdd(kind)}>
            {name}
          </MenuItem>
        ))}
    </MenuSection>
  );
}
