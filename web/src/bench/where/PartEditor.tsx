'use client';
import type { MaskOwner } from '@umbo/core/document';
import { innerMask, maskPartKind, partsWith, type Combine, type MaskPart } from '@umbo/core/mask';
import { Contrast, Ellipsis, Power } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button, IconButton, IconToggle } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Choice } from '@/ui/controls/Choice';
import { Hint } from '@/ui/controls/Hint';
import { Menu, MenuItem, MenuLine } from '@/ui/controls/Menu';
import { AskWords, type Question } from '@/ui/AskWords';
import { Slider } from '@/ui/controls/Slider';
import {
  bracketPart,
  cutNarrower,
  deletePart,
  dissolveBracket,
  duplicatePart,
  movePart,
  onPart,
  partName,
  renamePart,
} from '../state/masks';
import { useBenchStore } from '../state/context';
import { partEditors } from './parts/partEditors';
import type { PartProps } from './partProps';
import { PlaceNumbers } from '../desk/PlaceNumbers';
import { Settings } from '../desk/Settings';

const Box = styled.div`
  margin: 0 0 6px;
`;
const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: 28px;
  p {
    flex: 1;
    margin: 0;
  }
`;

const COMBINE = [
  ['add', 'Add'],
  ['cut', 'Cut'],
  ['common', 'Keep common'],
] as const;
/** The first part has none before it: it is the mask, or what the mask leaves out. */
const FIRST = [
  ['add', 'Only this'],
  ['cut', 'All but this'],
] as const;

/** The mask part in work. */
export function PartEditor({ layer, part }: { layer: MaskOwner; part: MaskPart }) {
  const store = useBenchStore();
  const kind = maskPartKind(part.kind);
  const change = (values: object) =>
    onPart(layer.id, part.id, (draft) => {
      Object.assign(draft, values);
      for (const [key, value] of Object.entries(values)) if (value === undefined) delete (draft as unknown as Record<string, unknown>)[key];
    });
  const preview = (values: object): void => {
    store.getState().setPassingView('spotlight'); // what is caught shows loudly while it is set
    store.getState().preview(change(values));
  };
  const commit = (words: string, values: object): void => {
    store.getState().setPassingView(null);
    store.getState().commit(`${words} on ${layer.name}`, change(values));
  };
  const cancel = (): void => {
    store.getState().setPassingView(null);
    store.getState().cancelPreview();
  };
  const isFirst = partsWith(layer.where, part.id)?.[0]?.id === part.id;
  const Own = partEditors[part.kind]?.Editor as ((props: PartProps<MaskPart>) => ReactNode) | undefined;
  return (
    <Box role="group" aria-label={partName(part)}>
      <Line>
        <Choice
          label="How the part joins"
          value={isFirst && part.combine === 'common' ? 'add' : part.combine}
          options={isFirst ? FIRST : COMBINE}
          onChange={(combine: Combine) => commit(`${kind.name}: ${combine === 'common' ? 'keep common' : combine}`, { combine })}
        />
        <span style={{ flex: 1 }} />
        <Hint text="Invert this part">
          <IconToggle
            aria-label="Invert this part"
            isSelected={part.invert}
            onChange={(invert) => commit(`${kind.name} ${invert ? 'inverted' : 'not inverted'}`, { invert })}
          >
            <Contrast size={13} strokeWidth={1.5} aria-hidden />
          </IconToggle>
        </Hint>
        <Hint text={part.on ? 'Switch this part off' : 'Switch this part on'}>
          <IconToggle
            aria-label="This part is on"
            isSelected={part.on}
            onChange={(on) => commit(`${kind.name} switched ${on ? 'on' : 'off'}`, { on })}
          >
            <Power size={13} strokeWidth={1.5} aria-hidden />
          </IconToggle>
        </Hint>
        <PartMenu layer={layer} part={part} />
      </Line>
      {part.check && (
        <Line role="status">
          <p>Drawn on another photograph</p>
          <Button onPress={() => commit('Drawn part found right', { check: undefined })}>It fits</Button>
        </Line>
      )}
      <Slider
        label="This part"
        name="Strength of the part"
        value={(part.strength ?? 1) * 100}
        min={0}
        max={100}
        step={1}
        neutral={100}
        unit="%"
        onPreview={(v) => preview({ strength: v / 100 })}
        onCommit={(v) => commit(`${kind.name} ${Math.round(v)} %`, { strength: v >= 100 ? undefined : v / 100 })}
      />
      {Own && <Own layer={layer} part={part} preview={preview} commit={commit} cancel={cancel} />}
      <Settings
        settings={part}
        defaults={kind.create('new', 'add', store.getState().photograph)}
        schema={kind.schema}
        controls={kind.controls}
        preview={preview}
        commit={commit}
      />
      <PlaceNumbers
        settings={part}
        numbers={kind.numbers?.(part) ?? []}
        commit={(words, set) => store.getState().commit(`${words} on ${layer.name}`, onPart(layer.id, part.id, set))}
      />
    </Box>
  );
}

function PartMenu({ layer, part }: { layer: MaskOwner; part: MaskPart }) {
  const store = useBenchStore();
  const [question, setQuestion] = useState<Question | null>(null);
  const beside = partsWith(layer.where, part.id) ?? [];
  const at = beside.indexOf(part);
  const isDissolvable = maskPartKind(part.kind).open && (innerMask(part)?.parts.length ?? 0) > 0;
  const run = (key: string): void => {
    const state = store.getState();
    if (key === 'earlier') movePart(state, part.id, -1);
    else if (key === 'later') movePart(state, part.id, 1);
    else if (key === 'copy') duplicatePart(state, part.id);
    else if (key === 'remove') deletePart(state, part.id);
    else if (key === 'bracket') bracketPart(state, part.id);
    else if (key === 'dissolve') dissolveBracket(state, part.id);
    else if (key === 'rim') cutNarrower(state, part.id);
    else
      setQuestion({
        title: 'Name the part',
        label: 'Name (none: by what it is)',
        text: part.name ?? '',
        button: 'Name it',
        blank: true,
        then: (name) => renamePart(store.getState(), part.id, name),
      });
  };
  return (
    <>
      <MenuTrigger>
        <Hint text="More for this part">
          <IconButton aria-label="More for this part">
            <Ellipsis size={14} strokeWidth={1.5} />
          </IconButton>
        </Hint>
        <Floating>
          <Menu
            onAction={(key) => run(String(key))}
            disabledKeys={[...(at <= 0 ? ['earlier'] : []), ...(at === beside.length - 1 ? ['later'] : [])]}
          >
            <MenuItem id="name">Name…</MenuItem>
            <MenuItem id="earlier">Earlier</MenuItem>
            <MenuItem id="later">Later</MenuItem>
            <MenuItem id="copy">Copy</MenuItem>
            <MenuItem id="rim">The same, narrower, cut away</MenuItem>
            <MenuItem id="bracket">Brackets around it</MenuItem>
            {isDissolvable && <MenuItem id="dissolve">Take the brackets away</MenuItem>}
            <MenuLine />
            <MenuItem id="remove">Remove</MenuItem>
          </Menu>
        </Floating>
      </MenuTrigger>
      <AskWords question={question} onDone={() => setQuestion(null)} />
    </>
  );
}
