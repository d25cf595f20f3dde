'use client';
/** Every tool and view on one key, chosen by reach: views on the number row, tools under the left hand. */
import { adjustments } from '@umbo/core/adjust';
import {
  addAlike,
  addLayer,
  clipLayer,
  deleteLayers,
  duplicateLayers,
  foldGroup,
  groupSelected,
  stepBlendMode,
  stepColourway,
  stepOpacity,
  switchLayer,
  ungroupSelected,
} from './state/actions';
import { copySelected, paste } from './state/clipboard';
import { drawnKinds, offeredTools } from './stage/offeredTools';
import { brushIsIdle } from './state/strokes';
import { stepGrade } from './state/masks';
import { neighbours } from './state/neighbours';
import { peekSolo, peekUnmasked, peekUpTo } from './state/peek';
import type { BenchState, BenchStore, DrawTool } from './state/benchState';
import { zoomAbout } from './state/view';
import { stepChannel } from './what/tryingChannels';

export interface Shortcut {
  /** As {@link keysOf} names them: lower case; `mod+` for Ctrl or Command, `shift+`. */
  keys: string;
  words: string;
  group: 'View' | 'Mask' | 'Brush' | 'Layers' | 'Edit';
  run: (state: BenchState, store: BenchStore) => void;
}

const stageSize = (): { width: number; height: number } => {
  const box = document.querySelector('main')!.getBoundingClientRect();
  return { width: box.width * devicePixelRatio, height: box.height * devicePixelRatio };
};
const centreZoom = (state: BenchState, zoom: number): void => {
  const { width, height } = stageSize();
  state.setView(zoomAbout(state.view, zoom, width / 2, height / 2));
};
const grow = (state: BenchState, by: number): void =>
  state.setBrush({ size: Math.max(1, Math.min(1000, Math.round(state.brush.size * by * 10) / 10)) });
const harden = (state: BenchState, by: number): void => state.setBrush({ hardness: Math.max(0, Math.min(1, state.brush.hardness + by)) });

/** The outermost layers: those in groups go with them. */
const selectAllLayers = (state: BenchState): void => state.selectAll(state.committed.layers.map(({ id }) => id));

/** All that is beside the photograph is folded away, or all is there again. */
const foldAll = (state: BenchState): void => {
  const some = Object.values(state.panels).some((folded) => !folded);
  state.fold({ side: some, desk: some, cards: some });
};
const nextDrawTool = ({ tool }: BenchState): DrawTool => {
  const tools = drawnKinds.map(({ kind }): DrawTool => `draw ${kind}`);
  return tools[(tools.indexOf(tool as DrawTool) + 1) % tools.length]!;
};

/** Who saves out of habit is told that it is done already. */
async function sayKept(state: BenchState): Promise<void> {
  try {
    await state.whenKept();
    state.set({ notice: 'All changes are kept. Umbo keeps each one as you make it.' });
  } catch (error) {
    state.set({ notice: `Not kept yet: ${(error as Error).message}` });
  }
}

export const shortcuts: readonly Shortcut[] = [
  { keys: 'f', words: 'Show all of the photograph', group: 'View', run: (s) => s.fitView() },
  { keys: 'g', words: '100 %', group: 'View', run: (s) => centreZoom(s, 1) },
  { keys: '+', words: 'Zoom in', group: 'View', run: (s) => centreZoom(s, s.view.zoom * 1.25) },
  { keys: '-', words: 'Zoom out', group: 'View', run: (s) => centreZoom(s, s.view.zoom / 1.25) },
  {
    keys: 'q',
    words: 'Before, and back to after',
    group: 'View',
    run: (s) => s.setLook({ compare: s.look.compare === 'before' ? 'after' : 'before' }),
  },
  {
    keys: 'w',
    words: 'Wipe, and back to after',
    group: 'View',
    run: (s) => s.setLook({ compare: s.look.compare === 'wipe' ? 'after' : 'wipe' }),
  },
  {
    keys: 'e',
    words: 'Beside each other, and back to after',
    group: 'View',
    run: (s) => s.setLook({ compare: s.look.compare === 'beside' ? 'after' : 'beside' }),
  },
  {
    keys: 'shift+e',
    words: 'Difference, and back to after',
    group: 'View',
    run: (s) => s.setLook({ compare: s.look.compare === 'difference' ? 'after' : 'difference' }),
  },
  {
    keys: 'shift+x',
    words: 'Stripes where pixels are newly clipped, and without',
    group: 'View',
    run: (s) => s.setLook({ clipped: !s.look.clipped }),
  },
  { keys: 'x', words: 'Show only the layer, and all again', group: 'View', run: peekSolo },
  { keys: 'z', words: 'The picture after the layer, and after all again', group: 'View', run: (s) => peekUpTo(s, s.layerId) },
  {
    keys: 'b',
    words: 'Reference photographs, and away again',
    group: 'View',
    run: (s) => s.set({ references: s.references ? null : [] }),
  },
  { keys: ',', words: 'Fold the side panel, and back', group: 'View', run: (s) => s.fold({ side: !s.panels.side }) },
  { keys: '.', words: 'Fold the desk, and back', group: 'View', run: (s) => s.fold({ desk: !s.panels.desk }) },
  { keys: '9', words: 'Cards as names only, and back', group: 'View', run: (s) => s.fold({ cards: !s.panels.cards }) },
  { keys: '0', words: 'Only the photograph, and all again', group: 'View', run: foldAll },
  { keys: 'pageup', words: 'Previous photograph of the shoot', group: 'View', run: (s) => s.set({ leavingTo: neighbours(s).previous }) },
  { keys: 'pagedown', words: 'Next photograph of the shoot', group: 'View', run: (s) => s.set({ leavingTo: neighbours(s).next }) },
  { keys: '1', words: 'Photo without its mask', group: 'Mask', run: (s) => s.setLook({ maskView: 'photo' }) },
  { keys: '2', words: 'Contours', group: 'Mask', run: (s) => s.setLook({ maskView: 'contours' }) },
  { keys: '3', words: 'Spotlight', group: 'Mask', run: (s) => s.setLook({ maskView: 'spotlight' }) },
  { keys: '4', words: 'Plain mask', group: 'Mask', run: (s) => s.setLook({ maskView: 'plain' }) },
  { keys: '5', words: 'Mask over the dimmed photograph', group: 'Mask', run: (s) => s.setLook({ maskView: 'dimmed' }) },
  { keys: '6', words: 'Without the mask of the layer, and with it again', group: 'Mask', run: (s) => s.layerId && peekUnmasked(s) },
  {
    keys: 'm',
    words: 'Catch colours in the photograph; again to leave out',
    group: 'Mask',
    run: (s) => offeredTools(s).includes('catch') && s.set({ tool: s.tool === 'catch' ? 'leave' : 'catch' }),
  },
  { keys: 'o', words: 'Outline a shape', group: 'Mask', run: (s) => s.layerId && s.set({ tool: 'outline' }) },
  {
    keys: 'shift+o',
    words: `Draw: ${drawnKinds.map(({ name }) => name.toLowerCase()).join(', ')}`,
    group: 'Mask',
    run: (s) => s.layerId && s.set({ tool: nextDrawTool(s) }),
  },
  {
    keys: 'j',
    words: 'Move, scale or copy the region',
    group: 'Mask',
    run: (s) => offeredTools(s).includes('region') && s.set({ tool: 'region' }),
  },
  { keys: 'i', words: 'Next step of a luminosity part', group: 'Mask', run: (s) => stepGrade(s, 1) },
  { keys: 'shift+i', words: 'Previous step of a luminosity part', group: 'Mask', run: (s) => stepGrade(s, -1) },
  {
    keys: 'shift+a',
    words: 'Crop, turn and straighten, and back',
    group: 'View',
    run: (s) => s.set({ tool: s.tool === 'crop' ? 'move' : 'crop' }),
  },
  { keys: 'a', words: 'Move the photograph (or hold space)', group: 'Brush', run: (s) => s.set({ tool: 'move' }) },
  {
    keys: 'd',
    words: 'Paint; again to swap paint and erase',
    group: 'Brush',
    run: (s) => s.layerId && s.set({ tool: s.tool === 'paint' && !brushIsIdle(s) ? 'erase' : 'paint' }),
  },
  { keys: 'r', words: 'Smaller brush', group: 'Brush', run: (s) => grow(s, 1 / 1.2) },
  { keys: 't', words: 'Larger brush', group: 'Brush', run: (s) => grow(s, 1.2) },
  { keys: 'shift+r', words: 'Softer brush', group: 'Brush', run: (s) => harden(s, -0.1) },
  { keys: 'shift+t', words: 'Harder brush', group: 'Brush', run: (s) => harden(s, 0.1) },
  { keys: 'v', words: 'Sample a colour', group: 'Brush', run: (s) => s.set({ tool: s.tool === 'sample' ? 'move' : 'sample' }) },
  {
    keys: 'shift+v',
    words: 'Read colours: pin readings, and back',
    group: 'Brush',
    run: (s) => s.set({ tool: s.tool === 'read' ? 'move' : 'read' }),
  },
  {
    keys: 'p',
    words: 'Pull on the photograph, and back',
    group: 'Layers',
    run: (s) => offeredTools(s).includes('pull') && s.set({ tool: s.tool === 'pull' ? 'move' : 'pull' }),
  },
  { keys: 'n', words: `New layer of ${adjustments[0].name.toLowerCase()}`, group: 'Layers', run: (s) => addLayer(s, adjustments[0].kind) },
  { keys: 'shift+n', words: 'New layer of another kind', group: 'Layers', run: (s) => s.set({ offering: 'new' }) },
  { keys: 'shift+m', words: 'New layer with the same mask', group: 'Layers', run: (s) => s.layerId && s.set({ offering: 'same mask' }) },
  { keys: 'shift+c', words: 'New layer of the same kind and mode', group: 'Layers', run: addAlike },
  { keys: 'c', words: 'Copies of the layers, above them', group: 'Layers', run: duplicateLayers },
  { keys: 's', words: 'Switch the layer off or on', group: 'Layers', run: (s) => switchLayer(s) },
  { keys: 'h', words: 'Group the layers', group: 'Layers', run: groupSelected },
  { keys: 'shift+h', words: 'Ungroup', group: 'Layers', run: ungroupSelected },
  { keys: 'l', words: 'Fold the group, or unfold it', group: 'Layers', run: (s) => foldGroup(s, s.layerId) },
  { keys: 'k', words: 'Clip to the layer below, or release', group: 'Layers', run: (s) => clipLayer(s) },
  { keys: 'delete', words: 'Delete the layers', group: 'Layers', run: deleteLayers },
  { keys: '7', words: 'Weaker: opacity 5 % less', group: 'Layers', run: (s) => stepOpacity(s, -1) },
  { keys: '8', words: 'Stronger: opacity 5 % more', group: 'Layers', run: (s) => stepOpacity(s, 1) },
  { keys: 'y', words: 'Next blend mode', group: 'Layers', run: (s) => stepBlendMode(s, 1) },
  { keys: 'shift+y', words: 'Previous blend mode', group: 'Layers', run: (s) => stepBlendMode(s, -1) },
  { keys: 'shift+g', words: 'Next channel, by contrast', group: 'Layers', run: (_, store) => void stepChannel(store.getState, 1) },
  { keys: 'shift+f', words: 'Previous channel', group: 'Layers', run: (_, store) => void stepChannel(store.getState, -1) },
  { keys: 'u', words: 'Next colourway', group: 'Layers', run: (s) => stepColourway(s, 1) },
  { keys: 'shift+u', words: 'Previous colourway', group: 'Layers', run: (s) => stepColourway(s, -1) },
  { keys: 'mod+f', words: 'Find anything (or tap Space)', group: 'Edit', run: (s) => s.set({ searching: true }) },
  { keys: 'mod+s', words: 'Say whether all changes are kept: they are kept by themselves', group: 'Edit', run: (s) => void sayKept(s) },
  { keys: 'mod+a', words: 'All layers', group: 'Edit', run: selectAllLayers },
  {
    keys: 'mod+c',
    words: 'Copy the layers, for this or another photograph',
    group: 'Edit',
    run: (_, store) => copySelected(store.getState),
  },
  {
    keys: 'mod+shift+v',
    words: 'Carry the layers to other photographs',
    group: 'Edit',
    run: (s) => s.set({ carrying: [...s.selection] }),
  },
  { keys: 'mod+v', words: 'Paste layers', group: 'Edit', run: (_, store) => void paste(store.getState) },
  { keys: 'mod+z', words: 'Undo', group: 'Edit', run: (s) => void s.step(-1) },
  { keys: 'mod+shift+z', words: 'Redo', group: 'Edit', run: (s) => void s.step(1) },
];

/**
 * A key by what is printed on it where that is a Latin letter; other letters, and digits, by the place of the key: so each can be reached
 * on every keyboard, whatever its script and whether its digits take Shift.
 */
function keyOf({ key, code }: Pick<KeyboardEvent, 'key' | 'code'>): string {
  const printed = key.toLowerCase();
  const place = /^(?:Key([A-Z])|Digit(\d))$/.exec(code);
  return !place || /^[a-z]$/.test(printed) ? printed : (place[1] ?? place[2])!.toLowerCase();
}

/** The name of the keys that an event stands for, as shortcuts write it. */
export function keysOf(event: KeyboardEvent): string {
  const key = keyOf(event);
  const shift = event.shiftKey && key !== '+' && key !== '?';
  return `${event.ctrlKey || event.metaKey ? 'mod+' : ''}${shift ? 'shift+' : ''}${key}`;
}

const NAMES: Record<string, string> = { mod: 'Ctrl', pageup: 'Page up', pagedown: 'Page down' };

/** Such as "Ctrl Shift Z". */
export const showKeys = (keys: string): string =>
  keys === '+'
    ? '+'
    : keys
        .split('+')
        .map((key) => NAMES[key] ?? key[0]!.toUpperCase() + key.slice(1))
        .join(' ');
