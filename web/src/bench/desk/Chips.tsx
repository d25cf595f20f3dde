'use client';
import { Plus } from 'lucide-react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem } from '@/ui/controls/Menu';

/** Small things in a row, one of which is worked on. */
export const Chips = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: center;
  margin-bottom: 6px;
`;
export const Chip = styled.button`
  border: 1px solid var(--line);
  background: var(--raised);
  border-radius: 12px;
  padding: 2px 10px;
  min-height: 24px;
  cursor: default;
  &:hover {
    border-color: var(--edge);
  }
  &[aria-pressed='true'] {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--on-ink);
  }
  &[data-absent='true']:not([aria-pressed='true']) {
    color: var(--ink2);
    background: none;
    border-style: dashed;
  }
  &[data-off='true'] {
    text-decoration: line-through;
  }
`;
export const RoundButton = styled(Button)`
  border-radius: 12px;
  min-height: 24px;
  padding: 2px 10px;
`;

/** Offers kinds of things to add to a row of chips. */
export function AddMenu<K extends string>(props: {
  label: string;
  kinds: readonly { readonly kind: K; readonly name: string }[];
  onAdd: (kind: K) => void;
}) {
  return (
    <MenuTrigger>
      <RoundButton>
        <Plus size={13} aria-hidden /> {props.label}
      </RoundButton>
      <Floating>
        <Menu onAction={(kind) => props.onAdd(kind as K)}>
          {props.kinds.map(({ kind, name }) => (
            <MenuItem key={kind} id={kind}>
              {name}
            </MenuItem>
          ))}
        </Menu>
      </Floating>
    </MenuTrigger>
  );
}
