'use client';
import { memo } from 'react';
import { showsOwn } from '@umbo/core/content';
import { findMaskOwner, isLayer, onMaskOwner, type MaskOwner } from '@umbo/core/document';
import { findPart, innerMask, maskPartKind, maskPartKinds, partsAt, type Combine, type Mask, type MaskPart } from '@umbo/core/mask';
import { MenuTrigger } from 'react-aria-components';
import { Contrast, Copy, EyeOff, Link2 } from 'lucide-react';
import styled from 'styled-components';
import { Button, IconToggle } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { Hint } from '@/ui/controls/Hint';
import { Select } from '@/ui/controls/Select';
import { addMaskOf, addPart, partName, shareMask, unlinkMask } from '../state/masks';
import { AddMenu, Chip, Chips, RoundButton } from '../desk/Chips';
import { peekUnmasked } from '../state/peek';
import { sameFor, useMasksOfOthers, useBench, useBenchStore } from '../state/context';
import { MaskHealth } from './MaskHealth';
import { MaskMenu } from './MaskMenu';
import { PartEditor } from './PartEditor';
import { partEditors } from './parts/partEditors';
import { RefineEditor } from './RefineEditor';
import { DeskSection } from '../desk/DeskSection';
import { whereSummary } from '../desk/summaries';
import { ShareSlider } from '../desk/ShareSlider';
import type { MaskView } from '../../workers/protocol';

const Sign = styled.span`
  color: var(--ink2);
  font-weight: 650;
`;
const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 28px;
  margin: 2px 0 4px;
`;
/** A slider, and buttons behind it. */
const Beside = styled.div`
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 4px;
  align-items: center;
  margin-bottom: 5px;
`;
/** What counts as one. */
const Brackets = styled.span`
  display: inline-flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
  padding: 2px 5px 2px 3px;
  border: 1px solid var(--edge);
  border-width: 0 1px;
  border-radius: 12px;
`;
const OFFERED = maskPartKinds.filter(({ comesByItself }: { comesByItself?: true }) => !comesByItself);
const WITHOUT_OWN = OFFERED.filter(({ ofOwn }: { ofOwn?: true }) => !ofOwn);
const SIGNS: Record<Combine, string> = { add: '+', cut: '−', common: '∩' };
const VIEWS: readonly (readonly [MaskView, string])[] = [
  ['photo', 'Not shown'],
  ['contours', 'Contours'],
  ['spotlight', 'Spotlight'],
  ['plain', 'Black and white'],
  ['dimmed', 'Over the dimmed photograph'],
];

/** The mask of a layer itself, which its refining steps belong to. */
const whole = (where: Mask): Mask => where;

/** Where a layer acts. */
export const Where = memo(function Where({ layer }: { layer: MaskOwner }) {
  const store = useBenchStore();
  const partId = useBench((state) => state.partId);
  const summary = useBench((state) => whereSummary(layer, state.document));
  const { where } = layer;
  if (where.link !== undefined) return <LinkedMask layer={layer} to={where.link} />;
  const part = findPart(where, partId) ?? null;
  const add = (kind: MaskPart['kind']): void => {
    const state = store.getState();
    addPart(state, kind, partEditors[kind]?.begin?.(state.census, partsAt(where, partId)));
  };

  const choose = (item: MaskPart): void => {
    store.getState().select(layer.id, item.id);
    if (maskPartKind(item.kind).tool === 'catch') store.getState().set({ tool: 'catch' });
  };

  return (
    <DeskSection section="Where" layer={layer} summary={summary}>
      <Chips>
        <PartChips parts={where.parts} partId={partId} choose={choose} />
        <AddMenu label="part" kinds={isLayer(layer) && showsOwn(layer.what) ? OFFERED : WITHOUT_OWN} onAdd={add} />
        <FromOther layer={layer} />
        <MaskMenu layer={layer} />
      </Chips>
      {part && <PartEditor layer={layer} part={part} />}
      {where.parts.length > 0 && <RefineEditor layer={layer} mask={where} find={whole} />}
      <MaskWhole layer={layer} />
    </DeskSection>
  );
}, sameFor('where'));

/** Parts in the order in which they join; what is in brackets stands between them. */
function PartChips({ parts, partId, choose }: { parts: readonly MaskPart[]; partId: string | null; choose: (part: MaskPart) => void }) {
  return parts.map((item, i) => {
    const inner = innerMask(item);
    const chip = (
      <Chip aria-pressed={item.id === partId} data-off={!item.on} onClick={() => choose(item)}>
        {item.invert && 'not '}
        <PartName part={item} />
        {item.check && ', check'}
      </Chip>
    );
    return (
      <span key={item.id} style={{ display: 'contents' }}>
        {(i > 0 || item.combine !== 'add') && <Sign aria-label={item.combine}>{SIGNS[item.combine]}</Sign>}
        {inner && inner.link === undefined ? (
          <Brackets role="group" aria-label={`In ${partName(item)}`}>
            {chip}
            <PartChips parts={inner.parts} partId={partId} choose={choose} />
          </Brackets>
        ) : (
          chip
        )}
      </span>
    );
  });
}

/** What a part is called; a link, by what it leads to. */
function PartName({ part }: { part: MaskPart }) {
  const link = innerMask(part)?.link;
  const giver = useBench((state) => (link === undefined ? null : (findMaskOwner(state.document, link)?.name ?? 'a layer that is gone')));
  if (giver === null || part.name) return partName(part);
  return (
    <>
      <Link2 size={12} strokeWidth={1.5} aria-hidden /> {maskPartKind(part.kind).open ? giver : `${partName(part)} through ${giver}`}
    </>
  );
}

/** What holds for the mask as a whole, also for one that is a link. */
function MaskWhole({ layer }: { layer: MaskOwner }) {
  const store = useBenchStore();
  const maskView = useBench((state) => state.passingView ?? state.look.maskView);
  const isUnmasked = useBench((state) => state.look.peek.unmasked === layer.id);
  const { where } = layer;
  return (
    <>
      <Beside>
        <ShareSlider
          label="Mask"
          name="Strength of the mask"
          value={where.strength}
          words={(percent) => `Mask strength ${percent} on ${layer.name}`}
          recipe={(share) => onMaskOwner(layer.id, ({ where: draft }) => void (draft.strength = share))}
        />
        <Hint text="Invert the mask">
          <IconToggle
            aria-label="Invert the mask"
            isSelected={where.invert}
            onChange={(invert) =>
              store.getState().commit(
                `Mask ${invert ? 'inverted' : 'not inverted'} on ${layer.name}`,
                onMaskOwner(layer.id, ({ where: draft }) => void (draft.invert = invert)),
              )
            }
          >
            <Contrast size={13} strokeWidth={1.5} aria-hidden />
          </IconToggle>
        </Hint>
        <Hint text="Look at it without the mask (6)">
          <IconToggle aria-label="Look at it without the mask" isSelected={isUnmasked} onChange={() => peekUnmasked(store.getState())}>
            <EyeOff size={13} strokeWidth={1.5} aria-hidden />
          </IconToggle>
        </Hint>
      </Beside>
      <Select label="Mask shown as" value={maskView} options={VIEWS} onChange={(view) => store.getState().setLook({ maskView: view })} />
      <MaskHealth layer={layer} />
    </>
  );
}

function LinkedMask({ layer, to }: { layer: MaskOwner; to: string }) {
  const store = useBenchStore();
  const summary = useBench((state) => whereSummary(layer, state.document));
  return (
    <DeskSection section="Where" layer={layer} summary={summary}>
      <Line>
        <Link2 size={14} strokeWidth={1.5} aria-hidden />
        <span style={{ flex: 1 }}>Linked: what is changed there acts here.</span>
      </Line>
      <Line>
        <Button onPress={() => store.getState().select(to)}>Go there</Button>
        <Button onPress={() => unlinkMask(store.getState(), layer.id)}>Make it this layer’s own</Button>
      </Line>
      <RefineEditor layer={layer} mask={layer.where} find={whole} />
      <MaskWhole layer={layer} />
    </DeskSection>
  );
}

/** Offers the masks of other layers, to copy or to link to. */
function FromOther({ layer }: { layer: MaskOwner }) {
  const store = useBenchStore();
  const others = useMasksOfOthers(layer.id);
  if (others.length === 0) return null;
  const items = (use: (id: string) => void) =>
    others.map(({ id, name }) => (
      <MenuItem key={id} onAction={() => use(id)}>
        {name}
      </MenuItem>
    ));
  return (
    <MenuTrigger>
      <RoundButton>
        <Copy size={12} aria-hidden /> mask of…
      </RoundButton>
      <Floating>
        <Menu>
          <MenuSection title="Copy the mask of">{items((id) => shareMask(store.getState(), id, layer.id, 'copy'))}</MenuSection>
          <MenuSection title="Add as a part, live, the mask of">{items((id) => addMaskOf(store.getState(), id))}</MenuSection>
          <MenuSection title="Link to the mask of">{items((id) => shareMask(store.getState(), id, layer.id, 'link'))}</MenuSection>
        </Menu>
      </Floating>
    </MenuTrigger>
  );
}
