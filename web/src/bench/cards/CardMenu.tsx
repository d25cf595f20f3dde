'use client';
import { childrenOf, contentKind, placeOf, topmost } from '@umbo/core/document';
import { Menu, MenuItem, MenuLine } from '@/ui/controls/Menu';
import {
  addAlike,
  clipLayer,
  deleteLayers,
  duplicateLayers,
  groupSelected,
  makeColourways,
  saveAsLut,
  shiftLayer,
  ungroupSelected,
} from '../state/actions';
import { makeRegion } from '../state/regions';
import { copySelected, paste } from '../state/clipboard';
import { useBench, useBenchStore, useLayer } from '../state/context';
import { peekSolo } from '../state/peek';

const LUT_SIZES = [17, 33, 65];

/** What can be done with the selected layers. */
export function CardMenu({ id, ask, onDone }: { id: string; ask: (what: 'name' | 'note') => void; onDone: () => void }) {
  const store = useBenchStore();
  const layer = useLayer();
  const several = useBench((state) => state.selection.length > 1);
  const solo = useBench((state) => state.look.peek.solo);
  const committed = useBench((state) => state.committed);
  const place = placeOf(committed, id);
  if (!layer || !place) return null;
  const outermost = place.parent === null;
  const actions: Record<string, () => void> = {
    rename: () => ask('name'),
    note: () => ask('note'),
    duplicate: () => duplicateLayers(store.getState()),
    copy: () => copySelected(store.getState),
    carry: () => store.getState().set({ carrying: [...store.getState().selection] }),
    treat: () => store.getState().set({ treating: topmost(committed, new Set(store.getState().selection)).map((one) => one.id) }),
    paste: () => void paste(store.getState),
    group: () => groupSelected(store.getState()),
    ungroup: () => ungroupSelected(store.getState()),
    colourways: () => makeColourways(store.getState()),
    'same mask': () => store.getState().set({ offering: 'same mask' }),
    region: () => makeRegion(store.getState(), id),
    alike: () => addAlike(store.getState()),
    change: () => store.getState().set({ offering: 'change' }),
    clip: () => clipLayer(store.getState()),
    solo: () => peekSolo(store.getState()),
    earlier: () => shiftLayer(store.getState(), id, -1),
    later: () => shiftLayer(store.getState(), id, 1),
    ...Object.fromEntries(LUT_SIZES.map((size) => [`lut-${size}`, () => saveAsLut(store.getState(), size)])),
    delete: () => deleteLayers(store.getState()),
  };
  const disabled = [
    ...(outermost && place.index === 0 ? ['earlier'] : []),
    ...(outermost && place.index === place.list.length - 1 ? ['later'] : []),
    ...(several ? ['rename', 'note', 'clip', 'solo', 'earlier', 'later'] : []),
  ];
  return (
    <Menu
      aria-label="What to do with the layer"
      autoFocus="first"
      disabledKeys={disabled}
      onAction={(key) => {
        onDone();
        actions[key]!();
      }}
    >
      <MenuItem id="rename">Rename…</MenuItem>
      <MenuItem id="note">{layer.note ? 'Change the note…' : 'Add a note…'}</MenuItem>
      <MenuItem id="solo">{solo === id ? 'Show all layers again' : 'Show only this layer'}</MenuItem>
      <MenuLine />
      <MenuItem id="same mask">New layer, same mask…</MenuItem>
      {layer.where.parts.length > 0 && <MenuItem id="region">Make its mask a region</MenuItem>}
      {contentKind(layer.what) && <MenuItem id="alike">New layer, same kind and mode</MenuItem>}
      {contentKind(layer.what) && <MenuItem id="change">Change to…</MenuItem>}
      <MenuLine />
      <MenuItem id="duplicate">Duplicate</MenuItem>
      <MenuItem id="copy">Copy</MenuItem>
      <MenuItem id="paste">Paste</MenuItem>
      <MenuItem id="carry">Carry to other photographs…</MenuItem>
      <MenuItem id="treat">Save as a treatment…</MenuItem>
      <MenuLine />
      <MenuItem id="group">Group</MenuItem>
      {childrenOf(layer).length > 0 && <MenuItem id="ungroup">Ungroup</MenuItem>}
      <MenuItem id="colourways">Make colourways of it</MenuItem>
      <MenuItem id="clip">{layer.clip ? 'Release from the layer below' : 'Clip to the layer below'}</MenuItem>
      <MenuItem id="earlier">Act earlier</MenuItem>
      <MenuItem id="later">Act later</MenuItem>
      <MenuLine />
      {LUT_SIZES.map((size) => (
        <MenuItem key={size} id={`lut-${size}`}>
          Save as 3D LUT, {size} points
        </MenuItem>
      ))}
      <MenuLine />
      <MenuItem id="delete">Delete</MenuItem>
    </Menu>
  );
}
