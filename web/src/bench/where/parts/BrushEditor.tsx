'use client';
import { findResolved, resolveLayers } from '@umbo/core/document';
import type { BrushPart, Mask } from '@umbo/core/mask';
import { MenuTrigger } from 'react-aria-components';
import { useShallow } from 'zustand/react/shallow';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem } from '@/ui/controls/Menu';
import { Slider } from '@/ui/controls/Slider';
import { masksOfOthers, useBench, useBenchStore } from '../../state/context';
import type { PartProps } from '../partProps';
import { PartLine } from './PartLine';

/** Paints through the mask of another layer, as it is now. */
function Through({ layer, part, commit }: Pick<PartProps<BrushPart>, 'layer' | 'part' | 'commit'>) {
  const store = useBenchStore();
  const names = useBench(useShallow((state) => masksOfOthers(state, layer.id)));
  const choose = (id: string): void => {
    const found = findResolved(resolveLayers(store.getState().committed), id);
    if (found) commit(`Brush through the mask of ${found.layer.name}`, { through: withoutLink(found.where) });
  };
  if (part.through) return <Button onPress={() => commit('Brush through no mask', { through: undefined })}>Through nothing</Button>;
  return (
    <MenuTrigger>
      <Button isDisabled={names.length === 0}>Through…</Button>
      <Floating>
        <Menu onAction={(key) => choose(String(key))}>
          {names.map((text) => {
            const [id, name] = text.split(/ (.*)/) as [string, string];
            return (
              <MenuItem key={id} id={id}>
                the mask of {name}
              </MenuItem>
            );
          })}
        </Menu>
      </Floating>
    </MenuTrigger>
  );
}

const withoutLink = ({ parts, refine, strength, invert }: Mask): Mask => structuredClone({ parts, refine, strength, invert });

const STARTS = [
  ['empty', 'Empty'],
  ['full', 'Full'],
] as const;

export function BrushEditor({ layer, part, preview, commit }: PartProps<BrushPart>) {
  const last = part.strokes.at(-1);
  const withLast = (opacity: number): Partial<BrushPart> => ({
    strokes: part.strokes.map((stroke, i) => (i === part.strokes.length - 1 ? { ...stroke, opacity } : stroke)),
  });
  return (
    <>
      <PartLine>
        <Choice
          label="The brush begins with"
          value={part.start}
          options={STARTS}
          onChange={(start) => commit(start === 'full' ? 'Brush on a full mask' : 'Brush on an empty mask', { start })}
        />
        <p>
          {part.strokes.length} {part.strokes.length === 1 ? 'stroke' : 'strokes'}
        </p>
        <Through layer={layer} part={part} commit={commit} />
        <Button isDisabled={!last} onPress={() => commit('Brush cleared', { strokes: [] })}>
          Clear
        </Button>
      </PartLine>
      {last && (
        <Slider
          label="Last stroke"
          name="Ease back the last stroke"
          value={last.opacity * 100}
          min={0}
          max={100}
          step={1}
          neutral={100}
          unit="%"
          onPreview={(v) => preview(withLast(v / 100))}
          onCommit={(v) => commit(`Last stroke eased to ${Math.round(v)} %`, withLast(v / 100))}
        />
      )}
    </>
  );
}
