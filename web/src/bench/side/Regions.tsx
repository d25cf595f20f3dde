'use client';
import { foundIn, toBeChecked, type Region } from '@umbo/core/document';
import { MoreHorizontal, Plus, Scan, Sprout } from 'lucide-react';
import { useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { BareButton, Button, IconButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Menu, MenuItem, MenuLine } from '@/ui/controls/Menu';
import { MaskLines, Picture } from '../desk/Thumbnails';
import { useBench, useBenchStore } from '../state/context';
import { findRegions, isElsewhere, stopFinding } from '../state/found/finding';
import { SideList } from './SideList';
import { readRegion } from '../state/readings';
import { newRegion, putRegion, takeRegionOut } from '../state/regions';

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  margin-top: 6px;
  > :first-child {
    flex: 1;
  }
`;
const List = styled(SideList)`
  scrollbar-width: thin;
  li {
    display: flex;
    align-items: center;
    padding-right: 6px;
    border-bottom: 1px solid var(--line);
  }
  li > button:first-child {
    flex: 1;
    min-width: 0;
    display: grid;
    grid-template-columns: 30px minmax(0, 1fr);
    gap: 8px;
    align-items: center;
    padding: 2px 4px 2px 14px;
    border: 0;
    background: none;
    text-align: left;
    cursor: default;
  }
  li > button:first-child:hover {
    background: var(--well);
  }
  li > button:first-child:focus-visible {
    outline-offset: -2px;
  }
  li[aria-current='true'] {
    background: var(--ink);
    color: var(--on-ink);
  }
  li[aria-current='true'] > button:hover {
    background: none;
  }
  small {
    display: block;
    font-size: 10px;
    line-height: 12px;
    opacity: 0.75;
  }
  span > b {
    display: block;
    font-weight: 400;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
const Small = styled.span`
  position: relative;
  width: 30px;
  height: 30px;
  overflow: hidden;
  background: var(--stage);
  canvas,
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    object-fit: cover;
  }
`;
const Bar = styled.div`
  flex: 1;
  height: 4px;
  background: var(--track);
  border-radius: 2px;
  overflow: hidden;
  i {
    display: block;
    height: 100%;
    background: var(--ink);
  }
`;
const NONE: readonly Region[] = [];

/** The edit's regions: found, or made by hand. A press opens one to be edited as a mask is. */
export function Regions() {
  const store = useBenchStore();
  const regions = useBench((state) => state.document.regions ?? NONE);
  const finding = useBench((state) => state.finding);
  return (
    <>
      {finding === null ? (
        <Row>
          <Button onPress={() => void findRegions(store.getState)}>
            <Scan size={13} strokeWidth={1.5} aria-hidden /> {regions.some(foundIn) ? 'Find again' : 'Find regions'}
          </Button>
          <Hint text="Grow a region from strokes inside and outside">
            <IconButton aria-label="Grow a region from strokes" onPress={() => newRegion(store.getState(), 'grown')}>
              <Sprout size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
          <Hint text="A region of one’s own">
            <IconButton aria-label="New region" onPress={() => newRegion(store.getState())}>
              <Plus size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        </Row>
      ) : (
        <Row role="status" aria-label="Finding regions">
          <Bar role="progressbar" aria-label="Found so far" aria-valuenow={Math.round(finding * 100)} aria-valuemin={0} aria-valuemax={100}>
            <i style={{ width: `${finding * 100}%` }} />
          </Bar>
          <Button onPress={() => stopFinding(store.getState)}>Stop</Button>
        </Row>
      )}
      {regions.length > 0 && (
        <List aria-label="Regions">
          {regions.map((region) => (
            <RegionLine key={region.id} region={region} />
          ))}
        </List>
      )}
    </>
  );
}

function RegionLine({ region }: { region: Region }) {
  const store = useBenchStore();
  const [open, setOpen] = useState(false);
  const isInWork = useBench((state) => state.layerId === region.id);
  const mask = useBench((state) => state.thumbnails.masks.get(region.id) ?? null);
  const original = useBench((state) => state.thumbnails.original);
  const hasSelection = useBench((state) => state.selection.length > 0);
  const part = foundIn(region);
  const isMended = region.where.parts.length > 1 || region.where.refine.length > 0;
  const comesAlong = useBench((state) => isElsewhere(state, region));
  const found = isMended ? 'found, mended' : part?.sure === 'sure' ? 'found, sure' : `found: ${part?.sure}`;
  const byHand = toBeChecked(region.where).length > 0 ? 'drawn: check' : 'made by hand';
  const state = !part ? byHand : comesAlong ? 'found on another photograph' : found;
  const act = (key: string): void => {
    if (key === 'put') putRegion(store.getState(), region.id);
    else if (key === 'read') readRegion(store.getState(), region);
    else if (key === 'edit') store.getState().select(region.id);
    else if (key === 'new layer') {
      store.getState().select(region.id);
      store.getState().set({ offering: 'same mask' });
    } else takeRegionOut(store.getState(), region);
  };
  return (
    <li
      aria-current={isInWork}
      onContextMenu={(event) => {
        event.preventDefault();
        setOpen(true);
      }}
    >
      <button onClick={() => store.getState().select(region.id)} title={`${region.name}: ${state}`}>
        <Small>
          <Picture picture={original} />
          <MaskLines mask={mask} />
        </Small>
        <span>
          <b>{region.name}</b>
          <small>{state}</small>
        </span>
      </button>
      <MenuTrigger isOpen={open} onOpenChange={setOpen}>
        <BareButton aria-label={`More about ${region.name}`}>
          <MoreHorizontal size={13} strokeWidth={1.5} />
        </BareButton>
        <Floating>
          <Menu onAction={(key) => act(String(key))}>
            <MenuItem id="new layer">New layer here…</MenuItem>
            {hasSelection && <MenuItem id="put">Put into the selected layers</MenuItem>}
            <MenuItem id="read">Pin a reading of it</MenuItem>
            <MenuItem id="edit">Edit</MenuItem>
            <MenuLine />
            <MenuItem id="remove">Remove</MenuItem>
          </Menu>
        </Floating>
      </MenuTrigger>
    </li>
  );
}
