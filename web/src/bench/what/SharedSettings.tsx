'use client';
import { sharers, type Layer } from '@umbo/core/document';
import { Link2 } from 'lucide-react';
import { useShallow } from 'zustand/react/shallow';
import { MenuTrigger } from 'react-aria-components';
import { Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { RoundButton } from '../desk/Chips';
import { alikeLayers, ownSettings, shareSettings } from '../state/actions';
import { useBench, useBenchStore } from '../state/context';
import { QuietRow } from './editorParts';

/** With which layers one shares its settings, and with which it could; nothing while there is no other of its kind. */
export function SharedSettings({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const others = useBench(useShallow((state) => alikeLayers(state.committed, layer).map(({ id, name }) => `${id} ${name}`)));
  const names = useBench((state) =>
    sharers(state.committed, layer)
      .map(({ name }) => name)
      .join(', '),
  );
  if (others.length === 0) return null;
  if (names !== '')
    return (
      <QuietRow role="group" aria-label="Shared settings">
        <Link2 size={13} strokeWidth={1.5} aria-hidden />
        <span title={names}>Same settings as {names}</span>
        <Button onPress={() => ownSettings(store.getState(), layer.id)}>Settings of its own</Button>
      </QuietRow>
    );
  return (
    <QuietRow role="group" aria-label="Shared settings">
      <span />
      <MenuTrigger>
        <RoundButton>
          <Link2 size={12} strokeWidth={1.5} aria-hidden /> same settings as…
        </RoundButton>
        <Floating>
          <Menu onAction={(id) => shareSettings(store.getState(), layer.id, String(id))}>
            <MenuSection title="From now on the same settings as">
              {others.map((text) => {
                const [id, name] = text.split(/ (.*)/) as [string, string];
                return (
                  <MenuItem key={id} id={id}>
                    {name}
                  </MenuItem>
                );
              })}
            </MenuSection>
          </Menu>
        </Floating>
      </MenuTrigger>
    </QuietRow>
  );
}
