'use client';
import type { ReactNode } from 'react';
import { Header, Menu as AriaMenu, MenuItem as AriaMenuItem, MenuSection as AriaMenuSection, Separator } from 'react-aria-components';
import styled from 'styled-components';

export const Menu = styled(AriaMenu)`
  padding: 3px;
  outline: none;
  min-width: 140px;
  font-size: 12px;
  line-height: 16px;
` as typeof AriaMenu;
export const MenuItem = styled(AriaMenuItem)`
  display: block;
  padding: 5px 10px;
  border-radius: 2px;
  cursor: default;
  outline: none;
  color: inherit;
  text-decoration: none;
  &[data-focused] {
    background: var(--ink);
    color: var(--on-ink);
  }
  &[data-disabled] {
    color: var(--edge);
  }
`;

const SectionTitle = styled(Header)`
  padding: 6px 10px 2px;
  color: var(--ink2);
  font-size: 11px;
`;
export function MenuSection({ title, children }: { title: string; children: ReactNode }) {
  return (
    <AriaMenuSection>
      <SectionTitle>{title}</SectionTitle>
      {children}
    </AriaMenuSection>
  );
}
export const MenuLine = styled(Separator)`
  border-top: 1px solid var(--line);
  margin: 3px 0;
`;
