'use client';
import { adjustments } from '@umbo/core/adjust';
import { sources } from '@umbo/core/content';
import { findMaskOwner } from '@umbo/core/document';
import { useState, type ReactNode } from 'react';
import { Autocomplete, Input, MenuTrigger, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { addLayer, changeKind, type LayerKind } from '../state/actions';
import { addMeasured } from '../state/measuring';
import { useBench, useBenchStore } from '../state/context';

/** One line of the menu. */
interface Offer {
  readonly id: string;
  readonly name: string;
  readonly explains: string;
  readonly group: string;
  /** Other words that it is found by. */
  readonly alike: string;
  readonly add: (actions: Actions) => void;
  /** Whether a layer can become it that does something else. */
  readonly instead: boolean;
}
interface Actions {
  readonly add: (kind: LayerKind, mode?: string) => void;
  readonly correct: () => void;
}

const labelsOf = ({ controls }: { controls: readonly { label: string }[] }): string => controls.map(({ label }) => label).join(' ');
const ofKind = (kind: LayerKind, name: string, explains: string, group: string, alike: string): Offer => ({
  id: kind,
  name,
  explains,
  group,
  alike,
  instead: true,
  add: ({ add }) => add(kind),
});
const OWN = 'Own colours';
const SEVERAL = 'Several';
const OFFERS: readonly Offer[] = [
  ...adjustments.map((one) => ofKind(one.kind, one.name, one.explains, one.group, labelsOf(one as never))),
  ...sources.map((one) => ofKind(one.kind, one.name, one.explains, OWN, labelsOf(one as never))),
  ...sources
    .filter(({ tool, colours }: { tool?: unknown; colours?: unknown }) => colours !== undefined || tool !== undefined)
    .map(({ kind, name }): Offer => ({
      id: `${kind} color`,
      name: `${name}, colour only`,
      explains: 'The same in hue and chroma: light and shade of the photograph stay',
      group: OWN,
      alike: 'tint colourise',
      instead: true,
      add: ({ add }) => add(kind, 'color'),
    })),
  {
    id: 'group',
    name: 'Group',
    explains: 'Layers that share a mask, a strength, a blend mode',
    group: SEVERAL,
    alike: 'folder set',
    instead: false,
    add: ({ add }) => add('group'),
  },
  {
    id: 'first correction',
    name: 'First correction',
    explains: 'Ends, balance and contrast as the photograph asks for them, in three layers',
    group: SEVERAL,
    alike: 'auto automatic enhance',
    instead: false,
    add: ({ correct }) => correct(),
  },
];
const GROUPS = ['A hue', 'A cast', 'Light', 'A look', 'Surface', OWN, SEVERAL];

const Field = styled(TextField)`
  input {
    width: 100%;
    padding: 8px 12px;
    border: 0;
    border-bottom: 1px solid var(--line);
    background: none;
    outline: none;
  }
`;
/** All kinds side by side. */
const Wide = styled(Menu)`
  columns: 3 140px;
  column-gap: 6px;
  width: min(480px, 92vw);
  padding: 6px;
  &[data-found] {
    columns: 1;
  }
  > section {
    break-inside: avoid;
    margin-bottom: 6px;
  }
  small {
    display: block;
    font-size: 11px;
    line-height: 15px;
    opacity: 0.75;
  }
` as typeof Menu;
const For = styled.p`
  padding: 8px 12px 0;
  font-size: 12px;
  line-height: 16px;
  color: var(--ink2);
`;
const Explained = styled.p`
  margin: 0;
  padding: 6px 12px;
  min-height: 28px;
  max-width: 480px;
  border-top: 1px solid var(--line);
  font-size: 12px;
  line-height: 16px;
  color: var(--ink2);
`;

/** Offers the kinds of a new layer under a button: by what they are wanted for, or found by a word. */
export function NewLayerMenu(props: { children: ReactNode; isOpen?: boolean; onOpenChange?: (open: boolean) => void }) {
  const { children, ...opening } = props;
  return (
    <MenuTrigger {...opening}>
      {children}
      <Floating>
        <Kinds />
      </Floating>
    </MenuTrigger>
  );
}

function Kinds() {
  const store = useBenchStore();
  const offering = useBench((state) => state.offering);
  const name = useBench(({ committed, layerId }) => findMaskOwner(committed, layerId)?.name ?? '');
  const recent = useBench((state) => state.recentKinds);
  const [text, setText] = useState('');
  const [explained, setExplained] = useState('');
  const words = offering === 'change' ? `Instead, “${name}” shall be:` : offering === 'same mask' ? `On the mask of “${name}”:` : null;
  const isChange = offering === 'change';
  const actions: Actions = {
    add(kind, mode) {
      if (isChange) changeKind(store.getState(), kind);
      else addLayer(store.getState(), kind, { ...(mode !== undefined && { mode }), sameMask: offering === 'same mask' });
    },
    correct: () => void addMeasured(store.getState, 'firstCorrection', 'First correction'),
  };
  const wanted = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = OFFERS.filter((one) => {
    const all = `${one.name} ${one.explains} ${one.group} ${one.alike}`.toLowerCase();
    return wanted.every((word) => all.includes(word));
  });
  const item = (one: Offer, label?: string) => (
    <MenuItem
      key={`${label ?? ''}${one.id}`}
      textValue={one.name}
      aria-label={label ?? one.name}
      isDisabled={isChange && !one.instead}
      onHoverStart={() => setExplained(one.explains)}
      onAction={() => one.add(actions)}
    >
      {one.name}
      {wanted.length > 0 && <small>{one.explains}</small>}
    </MenuItem>
  );
  const lately = recent.flatMap((kind) => OFFERS.find(({ id }) => id === kind) ?? []).slice(0, 3);
  return (
    <Autocomplete inputValue={text} onInputChange={setText}>
      {words && <For>{words}</For>}
      <Field aria-label="Find a kind of layer" autoFocus>
        <Input placeholder="A word narrows the list: film, warmer, sharp…" />
      </Field>
      <Wide aria-label="New layer" data-found={wanted.length > 0 || undefined} renderEmptyState={() => <For>No layer is called that.</For>}>
        {wanted.length > 0
          ? found.map((one) => item(one))
          : [
              <MenuItem key="intents" isDisabled={isChange} onAction={() => store.getState().set({ searching: true })}>
                By what is to be done…
              </MenuItem>,
              ...(lately.length > 0
                ? [
                    <MenuSection key="lately" title="Used lately">
                      {lately.map((one) => item(one, `${one.name}, used lately`))}
                    </MenuSection>,
                  ]
                : []),
              ...GROUPS.map((group) => (
                <MenuSection key={group} title={group}>
                  {OFFERS.filter((one) => one.group === group).map((one) => item(one))}
                </MenuSection>
              )),
            ]}
      </Wide>
      {wanted.length === 0 && <Explained>{explained || 'Rest on a name to read what it does.'}</Explained>}
    </Autocomplete>
  );
}
