'use client';
import { adjustments, sources } from '@umbo/core';
import type { ReactNode } from 'react';
import { MenuTrigger } from 'react-aria-components';
import { Floating, Menu, MenuItem, MenuSection } from '@/ui/controls';
import { addLayer, type LayerKind } from './actions';
import { useBenchStore } from './context';

/** Offers the kinds of a new layer under a button. */
export function NewLayerMenu(props: { children: ReactNode; isOpen?: boolean; onOpenChange?: (open: boolean) => void }) {
  const store = useBenchStore();
  const { children, ...opening } = props;
  return (
    <MenuTrigger {...opening}>
      {children}
      <Floating>
        <Menu onAction={(kind) => addLayer(store.getState(), kind as LayerKind)}>
          <MenuSection title="Changes what is below">
            {adjustments.map(({ kind, name }) => (
              <MenuItem key={kind} id={kind}>
                {name}
              </MenuItem>
            ))}
          </MenuSection>
          <MenuSection title="Brings colours of its own">
            {sources.map(({ kind, name }) => (
              <MenuItem key={kind} id={kind}>
                {name}
              </MenuItem>
            ))}
          </MenuSection>
          <MenuSection title="Holds layers">
            <MenuItem id="group">Group</MenuItem>
          </MenuSection>
        </Menu>
      </Floating>
    </MenuTrigger>
  );
}
