'use client';
import { blendModes, coversAll, type Layer } from '@umbo/core';
import { useShallow } from 'zustand/react/shallow';
import { useMemo, useState } from 'react';
import { Button as AriaButton, DropIndicator, GridList, GridListItem, MenuTrigger, useDragAndDrop, type Key } from 'react-aria-components';
import { Circle, MoreHorizontal, Plus } from 'lucide-react';
import styled from 'styled-components';
import { Button, Dialog, DialogActions, Floating, Hint, Menu, MenuItem, TextField } from '@/ui/controls';
import { addLayer, deleteLayer, duplicateLayer, placeLayer, renameLayer, switchLayer } from './actions';
import { useBench, useBenchStore } from './context';
import { MaskLines, Picture } from './Thumbnails';

const Strip = styled.div`
  height: 94px;
  flex: none;
  display: flex;
  align-items: center;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  background: var(--well);
  overflow-x: auto;
  overflow-y: hidden;
  scrollbar-width: thin;
`;
const face = `
  position: relative; width: 148px; height: 70px; flex: none; background: var(--raised); border: 1px solid var(--line); border-radius: var(--radius);
`;
const End = styled.div<{ $small?: boolean }>`
  ${face} ${(p) => p.$small && 'width: 72px;'} padding: 7px 8px 6px 64px;
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  canvas {
    position: absolute;
    left: 6px;
    top: 6px;
    width: ${(p) => (p.$small ? 58 : 50)}px;
    height: 56px;
    object-fit: cover;
    border-radius: 2px;
    background: #8a8a8a;
  }
  b {
    font-weight: 600;
  }
  span {
    color: var(--ink2);
  }
`;
const Arrow = styled.span`
  width: 18px;
  flex: none;
  display: grid;
  place-items: center;
  color: var(--ink2);
`;
const List = styled(GridList)`
  display: flex;
  align-items: center;
  outline: none;
  flex: none;
` as typeof GridList;
const Slot = styled(GridListItem)`
  display: flex;
  align-items: center;
  outline: none;
  cursor: default;
  &[data-dragging] {
    opacity: 0.4;
  }
`;
const Face = styled.div<{ $off: boolean }>`
  ${face} padding: 6px 4px 4px 62px;
  display: flex;
  flex-direction: column;
  .grip {
    position: absolute;
    left: 6px;
    top: 6px;
    width: 50px;
    height: 56px;
    padding: 0;
    border: 0;
    border-radius: 2px;
    overflow: hidden;
    cursor: grab;
  }
  .grip svg {
    display: block;
    width: 100%;
    height: 100%;
  }
  .more {
    position: absolute;
    right: 3px;
    top: 3px;
  }
  .name {
    font-weight: 600;
    line-height: 14px;
    max-height: 28px;
    overflow: hidden;
    overflow-wrap: anywhere;
    padding-right: 18px;
    flex: 1;
    ${(p) => p.$off && 'color: var(--ink2); font-weight: 500;'}
  }
  .foot {
    display: flex;
    align-items: center;
    gap: 1px;
    color: var(--ink2);
    white-space: nowrap;
    height: 22px;
  }
  .how {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    font-size: 11px;
  }
  .small {
    width: 18px;
    height: 20px;
    padding: 0;
    border: 0;
    background: none;
    display: grid;
    place-items: center;
    color: inherit;
    border-radius: 2px;
  }
  .small[data-hovered] {
    background: var(--well);
    color: var(--ink);
  }
  ${(p) => p.$off && 'border-style: dashed; svg { opacity: 0.45; }'}
  [data-selected] & {
    background: var(--ink);
    color: var(--on-ink);
    border-color: var(--ink);
    .foot {
      color: var(--on-ink);
    }
    .name {
      color: var(--on-ink);
    }
  }
  [data-selected] &::after {
    content: '';
    position: absolute;
    left: 50%;
    bottom: -11px;
    margin-left: -6px;
    border: 6px solid transparent;
    border-top-color: var(--ink);
  }
  [role='row'][data-focus-visible] & {
    outline: 2px solid var(--ink);
    outline-offset: 2px;
  }
`;
const Drop = styled(DropIndicator)`
  width: 0;
  height: 78px;
  outline: none;
  &[data-drop-target] {
    outline: 2px solid var(--ink);
  }
`;
const Add = styled(AriaButton)`
  width: 44px;
  height: 70px;
  flex: none;
  margin-left: 10px;
  border: 1px dashed var(--edge);
  border-radius: var(--radius);
  background: none;
  display: grid;
  place-items: center;
  &[data-hovered] {
    background: var(--raised);
  }
`;

const DRAG_TYPE = 'umbo-layer';
/** What a card shows of a layer. */
interface Card {
  id: string;
  name: string;
  on: boolean;
  mode: string;
  /** Percent. */
  opacity: number;
  everywhere: boolean;
}
const cardOf = ({ id, name, on, where, how }: Layer): Card => ({
  id,
  name,
  on,
  mode: how.mode,
  opacity: Math.round(how.opacity * 100),
  everywhere: coversAll(where),
});

const modeName = (id: string): string => blendModes.find((mode) => mode.id === id)?.name ?? id;

/** The edit as a sentence: photograph, layer, layer, result, in the order in which they act. */
export function Cards() {
  const store = useBenchStore();
  // As texts, which compare by content: a slider being dragged changes layers, but seldom what a card shows.
  const texts = useBench(useShallow((state) => state.document.layers.map((layer) => JSON.stringify(cardOf(layer)))));
  const layers = useMemo(() => texts.map((text) => JSON.parse(text) as Card), [texts]);
  const layerId = useBench((state) => state.layerId);
  const thumbnails = useBench((state) => state.thumbnails);
  const [naming, setNaming] = useState<{ id: string; name: string } | null>(null);

  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) =>
      [...keys].map((key) => ({ [DRAG_TYPE]: String(key), 'text/plain': layers.find(({ id }) => id === key)?.name ?? '' })),
    acceptedDragTypes: [DRAG_TYPE],
    getDropOperation: () => 'move',
    renderDropIndicator: (target) => <Drop target={target} />,
    onReorder: ({ keys, target }) => {
      const [id] = [...keys] as string[];
      if (!id) return;
      const rest = layers.filter((layer) => layer.id !== id);
      const at = rest.findIndex((layer) => layer.id === target.key);
      if (at >= 0) placeLayer(store.getState(), id, target.dropPosition === 'after' ? at + 1 : at);
    },
  });

  const act = (layer: Card, key: Key): void => {
    const state = store.getState();
    if (key === 'rename') setNaming({ id: layer.id, name: layer.name });
    else if (key === 'duplicate') duplicateLayer(state, layer.id);
    else if (key === 'delete') deleteLayer(state, layer.id);
    else placeLayer(state, layer.id, layers.indexOf(layer) + (key === 'left' ? -1 : 1));
  };

  return (
    <Strip aria-label="Layers, from the photograph to the result">
      <End>
        <Picture picture={thumbnails.original} />
        <b>Photograph</b>
        <span>original</span>
      </End>
      <Arrow aria-hidden>›</Arrow>
      <List
        aria-label="Layers"
        layout="grid"
        items={layers}
        dependencies={[thumbnails, layers]}
        selectionMode="single"
        selectionBehavior="replace"
        disallowEmptySelection
        selectedKeys={layerId ? [layerId] : []}
        onSelectionChange={(keys) => keys !== 'all' && store.getState().select(([...keys][0] as string | undefined) ?? null)}
        dragAndDropHooks={dragAndDropHooks}
      >
        {(layer: Card) => (
          <Slot id={layer.id} textValue={layer.name}>
            <Face $off={!layer.on} onDoubleClick={() => setNaming({ id: layer.id, name: layer.name })}>
              <AriaButton slot="drag" className="grip" aria-label={`Move ${layer.name}`}>
                <MaskLines mask={layer.everywhere ? null : (thumbnails.masks.get(layer.id) ?? null)} />
              </AriaButton>
              <span className="name" title={layer.name}>
                {layer.name}
              </span>
              <span className="foot">
                <span className="how" title={`${modeName(layer.mode)}, ${layer.opacity} %`}>
                  {modeName(layer.mode)} {layer.opacity}
                </span>
                <MenuTrigger>
                  <AriaButton className="small more" aria-label={`More about ${layer.name}`}>
                    <MoreHorizontal size={13} strokeWidth={1.5} />
                  </AriaButton>
                  <Floating>
                    <Menu
                      onAction={(key) => act(layer, key)}
                      disabledKeys={[...(layers[0] === layer ? ['left'] : []), ...(layers.at(-1) === layer ? ['right'] : [])]}
                    >
                      <MenuItem id="rename">Rename…</MenuItem>
                      <MenuItem id="duplicate">Duplicate</MenuItem>
                      <MenuItem id="left">Act earlier</MenuItem>
                      <MenuItem id="right">Act later</MenuItem>
                      <MenuItem id="delete">Delete</MenuItem>
                    </Menu>
                  </Floating>
                </MenuTrigger>
                <AriaButton
                  className="small"
                  aria-label={`${layer.name} ${layer.on ? 'off' : 'on'}`}
                  onPress={() => switchLayer(store.getState(), layer.id)}
                >
                  <Circle size={11} strokeWidth={1.5} fill={layer.on ? 'currentColor' : 'none'} />
                </AriaButton>
              </span>
            </Face>
            <Arrow aria-hidden>›</Arrow>
          </Slot>
        )}
      </List>
      <End $small>
        <Picture picture={thumbnails.result} />
      </End>
      <Hint text="New layer">
        <Add aria-label="New layer" onPress={() => addLayer(store.getState())}>
          <Plus size={18} strokeWidth={1.5} />
        </Add>
      </Hint>
      <Dialog title="Rename the layer" isOpen={naming !== null} onClose={() => setNaming(null)}>
        <form
          style={{ display: 'grid', gap: 14 }}
          onSubmit={(event) => {
            event.preventDefault();
            if (naming) renameLayer(store.getState(), naming.id, naming.name);
            setNaming(null);
          }}
        >
          <TextField label="Name" value={naming?.name ?? ''} onChange={(name) => naming && setNaming({ ...naming, name })} autoFocus />
          <DialogActions>
            <Button onPress={() => setNaming(null)}>Cancel</Button>
            <Button $primary type="submit" isDisabled={!naming?.name.trim()}>
              Rename
            </Button>
          </DialogActions>
        </form>
      </Dialog>
    </Strip>
  );
}
