'use client';
import { findResolved, resolveLayers } from '@umbo/core/document';
import type { BrushPart, Mask } from '@umbo/core/mask';
import type { KeptMask } from '@umbo/data';
import { MenuTrigger } from 'react-aria-components';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { Slider } from '@/ui/controls/Slider';
import { useBenchStore, useMasksOfOthers } from '../../state/context';
import { canLink } from '../../state/masks';
import { readKeptMask } from '../maskFiles';
import { useKeptMasks } from '../useKeptMasks';
import type { PartProps } from '../partProps';
import { InnerLink } from './InnerLink';
import { PartLine } from './PartLine';

/** Paints through the mask of another layer: as it will be, or as it is now; or through one that is kept with the shoot. */
function Through({ layer, part, commit }: Pick<PartProps<BrushPart>, 'layer' | 'part' | 'commit'>) {
  const store = useBenchStore();
  const others = useMasksOfOthers(layer.id);
  const [kept, refresh] = useKeptMasks();
  const find = (id: string) => findResolved(resolveLayers(store.getState().committed), id);
  const copy = (id: string): void => {
    const found = find(id);
    if (found) commit(`Brush through a copy of the mask of ${found.layer.name}`, { through: withoutLink(found.where) });
  };
  const link = (id: string): void => {
    const found = find(id);
    if (!found || !canLink(store.getState(), found.layer, layer)) return;
    const { strength, invert } = found.layer.where;
    commit(`Brush through the mask of ${found.layer.name}`, { through: { parts: [], refine: [], strength, invert, link: id } });
  };
  const takeKept = (one: KeptMask): void =>
    void readKeptMask(store.getState, one).then((mask) => mask && commit(`Brush through “${one.name}”`, { through: mask }));
  const items = (use: (id: string) => void) =>
    others.map(({ id, name }) => (
      <MenuItem key={id} onAction={() => use(id)}>
        {name}
      </MenuItem>
    ));
  if (part.through) return <Button onPress={() => commit('Brush through no mask', { through: undefined })}>Through nothing</Button>;
  return (
    <MenuTrigger onOpenChange={(isOpen) => isOpen && refresh()}>
      <Button>Through…</Button>
      <Floating>
        <Menu renderEmptyState={() => <p>No other layer has a mask, and none is kept with the shoot.</p>}>
          {others.length > 0 && <MenuSection title="Live, the mask of">{items(link)}</MenuSection>}
          {others.length > 0 && <MenuSection title="A copy of the mask of">{items(copy)}</MenuSection>}
          {kept.length > 0 && (
            <MenuSection title="Kept with the shoot">
              {kept.map((one) => (
                <MenuItem key={one.id} onAction={() => takeKept(one)}>
                  {one.name}
                </MenuItem>
              ))}
            </MenuSection>
          )}
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
      {part.through?.link !== undefined && <InnerLink to={part.through.link} partId={part.id} />}
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
