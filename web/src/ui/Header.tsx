'use client';
import Link from 'next/link';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { Logo } from './Logo';

const Bar = styled.header`
  height: 40px;
  flex: none;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  line-height: 16px;
`;
const Brand = styled(Link)`
  display: flex;
  align-items: center;
  gap: 12px;
  font-weight: 650;
  font-size: 15px;
  letter-spacing: -0.01em;
  text-decoration: none;
`;
const Crumbs = styled.nav`
  display: flex;
  gap: 8px;
  min-width: 0;
  color: var(--ink2);
  white-space: nowrap;
  a {
    text-decoration: none;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  a:hover {
    text-decoration: underline;
  }
  b {
    color: var(--ink);
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;
const Space = styled.span`
  flex: 1;
`;

/** @param crumbs the way here: [words, address]; the last one is where we are */
export function Header({ crumbs, children }: { crumbs: readonly (readonly [string, string])[]; children?: ReactNode }) {
  return (
    <Bar>
      <Brand href="/" aria-label="Umbo, all shoots">
        <Logo />
        Umbo
      </Brand>
      <Crumbs aria-label="Where you are">
        {crumbs.map(([text, href], i) =>
          i === crumbs.length - 1 ? (
            <b key={href} aria-current="page">
              {text}
            </b>
          ) : (
            <span key={href}>
              <Link href={href}>{text}</Link>&ensp;/
            </span>
          ),
        )}
      </Crumbs>
      <Space />
      {children}
    </Bar>
  );
}
