'use client';
import type { PhotographSummary } from '@umbo/data';
import { Circle, CircleDashed, CircleDot, MoreHorizontal } from 'lucide-react';
import Link from 'next/link';
import { useState, type ReactNode } from 'react';
import { GridListItem, MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { PreviewPicture } from '../PreviewPicture';
import { cameraWords } from './arrange';

const ICONS = { untouched: CircleDashed, 'in work': CircleDot, done: Circle };

const Item = styled(GridListItem)`
  height: 100%;
  display: flex;
  flex-direction: column;
  min-width: 0;
  font-size: 12px;
  line-height: 16px;
  cursor: default;
  outline: none;
  .picture {
    flex: 1;
    min-height: 0;
    background: #676767;
    border: 1px solid #5c5c5c;
    border-radius: 2px;
    overflow: hidden;
  }
  &[data-hovered] .picture {
    border-color: #b5b5b5;
  }
  &[data-selected] .picture {
    outline: 3px solid #fff;
    outline-offset: -1px;
  }
  &[data-focus-visible] .picture {
    border-color: #191919;
    box-shadow: 0 0 0 4px #191919;
  }
  img {
    width: 100%;
    height: 100%;
    object-fit: contain;
    display: block;
  }
  .words {
    flex: none;
    display: flex;
    align-items: center;
    gap: 8px;
    height: 30px;
    padding: 3px 2px 0;
    border-radius: 0 0 2px 2px;
  }
  .name {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  a {
    color: inherit;
    text-decoration: none;
  }
  a:hover {
    text-decoration: underline;
  }
  a:focus-visible,
  button[data-focus-visible] {
    outline-color: #fff;
  }
  .state {
    display: flex;
    align-items: center;
    gap: 5px;
    white-space: nowrap;
  }
  button {
    width: 24px;
    min-height: 22px;
    background: none;
    border-color: transparent;
    color: #fff;
  }
  button[data-hovered] {
    border-color: #fff;
  }
`;

interface Props {
  database: string;
  photograph: PhotographSummary;
  /** Before its menu opens by the other button of the mouse. */
  onMenu: (id: number) => void;
  menu: (photograph: PhotographSummary) => ReactNode;
}

/** A photograph on the sheet: a click chooses it, a double click, Enter or its name opens it. */
export function Cell({ database, photograph: p, onMenu, menu }: Props) {
  const [isOpen, setOpen] = useState(false);
  const Icon = ICONS[p.state];
  const facts = [`${p.width} × ${p.height}, ${p.bits} bit`, cameraWords(p)].filter(Boolean).join('\n');
  return (
    <Item
      id={p.id}
      textValue={p.name}
      data-photograph={p.id}
      onContextMenu={(event) => {
        event.preventDefault();
        onMenu(p.id);
        setOpen(true);
      }}
    >
      <div className="picture" title={facts}>
        {/* Cells are used again for other photographs: what one knows of its picture must not stay. */}
        <PreviewPicture key={p.id} database={database} id={p.id} revision={p.revision} />
      </div>
      <div className="words">
        <span className="name" title={`${p.name}\n${facts}`}>
          <Link href={`/photographs/${p.id}`} prefetch={false} aria-label={`Open ${p.name}`} draggable={false}>
            {p.name}
          </Link>
        </span>
        <span className="state">
          <Icon size={13} strokeWidth={1.75} fill={p.state === 'done' ? 'currentColor' : 'none'} aria-hidden /> {p.state}
        </span>
        <MenuTrigger isOpen={isOpen} onOpenChange={setOpen}>
          <IconButton aria-label={`More about ${p.name}`}>
            <MoreHorizontal size={14} />
          </IconButton>
          <Floating>{isOpen && menu(p)}</Floating>
        </MenuTrigger>
      </div>
    </Item>
  );
}
