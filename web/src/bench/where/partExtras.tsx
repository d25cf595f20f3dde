'use client';
/** Editors for what of a mask part no slider can say. */
import { SIX_IDS } from '@umbo/core/colour';
import { findResolved, resolveLayers } from '@umbo/core/document';
import {
  hueSpans,
  maskPartKind,
  type BrushPart,
  type HueRangePart,
  type LikenessPart,
  type LuminosityPart,
  type Mask,
  type MaskPart,
  type OutlinePart,
  type PickPart,
} from '@umbo/core/mask';
import { Minus, Plus, Trash2, Undo2 } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import styled from 'styled-components';
import { MenuTrigger } from 'react-aria-components';
import { useShallow } from 'zustand/react/shallow';
import { Button, Choice, Floating, Hint, IconButton, Menu, MenuItem, Switch } from '@/ui/controls';
import { Slider } from '@/ui/Slider';
import { BrushSliders } from '../desk/BrushSliders';
import { cssOf, hexOf } from '../colour/colourModels';
import { masksOfOthers, useBench, useBenchStore } from '../state/context';
import { HueRangeEditor } from '../ranges/HueRangeEditor';
import type { Range } from '../ranges/hueHandles';
import type { PartProps } from './partProps';
import { SoftRange } from '../ranges/SoftRange';

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  p {
    flex: 1;
    margin: 0;
    color: var(--ink2);
  }
`;
const Colours = styled.ul`
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin: 2px 0 6px;
  padding: 0;
  button {
    display: grid;
    place-items: center;
    width: 26px;
    height: 26px;
    border: 1px solid var(--edge);
    border-radius: var(--radius);
    color: #fff;
    padding: 0;
    cursor: default;
    svg {
      filter: drop-shadow(0 0 1px #000) drop-shadow(0 0 1px #000);
    }
  }
`;

/** Which of several ranges is worked on, more of them, and fewer. */
function HueRange({ part, preview, commit, cancel }: PartProps<HueRangePart>) {
  const store = useBenchStore();
  const census = useBench((state) => state.census);
  const [chosen, setChosen] = useState(0);
  const ranges = hueSpans(part);
  const index = Math.min(chosen, ranges.length - 1);
  const put = (list: readonly Range[]): Partial<HueRangePart> => {
    const [first, ...also] = list;
    return { ...first, also: also.length > 0 ? [...also] : undefined } as Partial<HueRangePart>;
  };
  const withRange = (range: Range): Partial<HueRangePart> => put(ranges.map((other, i) => (i === index ? range : other)));
  const words = (values: Partial<HueRangePart>): string => maskPartKind('hueRange').summary({ ...part, ...values } as MaskPart);
  const add = (): void => {
    const { from, fadeIn, span, fadeOut } = ranges[index]!;
    const next = { from: (from + fadeIn + span + fadeOut + 20) % 360, fadeIn, span: Math.min(span, 30), fadeOut };
    commit('Another hue range', put([...ranges, next]));
    setChosen(ranges.length);
  };
  return (
    <>
      <HueRangeEditor
        key={index}
        range={ranges[index]!}
        census={census}
        onPreview={(range) => preview(withRange(range))}
        onCommit={(range) => commit(words(withRange(range)), withRange(range))}
        onMoving={(moving) => store.getState().setPassingView(moving ? 'spotlight' : null)}
      />
      <Line>
        {ranges.length > 1 ? (
          <Choice
            label="Which range"
            value={String(index)}
            options={ranges.map((_, i) => [String(i), `Range ${i + 1}`] as const)}
            onChange={(v) => setChosen(Number(v))}
          />
        ) : (
          <p>One range</p>
        )}
        <span style={{ flex: 1 }} />
        <Hint text="Another range">
          <IconButton aria-label="Another range" isDisabled={ranges.length > 12} onPress={add}>
            <Plus size={14} />
          </IconButton>
        </Hint>
        {ranges.length > 1 && (
          <Hint text="Without this range">
            <IconButton
              aria-label="Without this range"
              onPress={() => commit('Hue range removed', put(ranges.filter((_, i) => i !== index)))}
            >
              <Trash2 size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        )}
      </Line>
      {(['lightness', 'chroma'] as const).map((key) => (
        <div key={key} style={{ marginBottom: 4 }}>
          <Switch
            value={part[key] !== undefined}
            onChange={(on) => commit(`${on ? 'Limit' : 'No limit'} of ${key}`, { [key]: on ? [0, 0, 100, 100] : undefined })}
          >
            Limit {key}
          </Switch>
          {part[key] && (
            <SoftRange
              label={`Limits of ${key}`}
              range={part[key]}
              bins={null}
              onPreview={(range) => preview({ [key]: range })}
              onCommit={(range) =>
                commit(`${key === 'chroma' ? 'Chroma' : 'Lightness'} ${range.map(Math.round).join('–')}`, { [key]: range })
              }
              onCancel={cancel}
            />
          )}
        </div>
      ))}
    </>
  );
}

function Luminosity({ part, preview, commit, cancel }: PartProps<LuminosityPart>) {
  const histogram = useBench((state) => state.histogram);
  const isWeighted = SIX_IDS.some((family) => part[family] !== 0);
  const [open, setOpen] = useState(isWeighted);
  return (
    <>
      {part.tones === 'range' && (
        <SoftRange
          label="Tones on the histogram"
          range={part.range}
          bins={histogram?.luminosity ?? null}
          onPreview={(range) => preview({ range })}
          onCommit={(range) => commit(`Tones ${range.map(Math.round).join('–')}`, { range })}
          onCancel={cancel}
        />
      )}
      <Line>
        <Switch value={open} onChange={setOpen}>
          Weigh the hues
        </Switch>
        <span style={{ flex: 1 }} />
        <Button
          isDisabled={!isWeighted}
          onPress={() => commit('All hues as light as they are', Object.fromEntries(SIX_IDS.map((family) => [family, 0])))}
        >
          As they are
        </Button>
      </Line>
      {open &&
        SIX_IDS.map((family) => (
          <Slider
            key={family}
            label={family[0]!.toUpperCase() + family.slice(1)}
            name={`Lightness of ${family}`}
            value={part[family]}
            min={-100}
            max={100}
            step={1}
            neutral={0}
            unit="%"
            signed
            onPreview={(v) => preview({ [family]: v })}
            onCommit={(v) => commit(`Lightness of ${family} ${Math.round(v)} %`, { [family]: v })}
          />
        ))}
    </>
  );
}

function Likeness({ part, commit }: PartProps<LikenessPart>) {
  if (part.colours.length === 0)
    return (
      <Line>
        <p>Click or drag on the photograph to catch its colours.</p>
      </Line>
    );
  return (
    <Colours aria-label="Colours">
      {part.colours.map(({ colour, away }, i) => (
        <li key={i}>
          <button
            type="button"
            style={{ background: cssOf(colour) }}
            title={`${hexOf(colour)}, ${away ? 'left out' : 'caught'}; press to forget it`}
            aria-label={`Forget ${hexOf(colour)}, ${away ? 'left out' : 'caught'}`}
            onClick={() => commit('Colour forgotten', { colours: part.colours.filter((_, k) => k !== i) })}
          >
            {away ? <Minus size={14} aria-hidden /> : <Plus size={14} aria-hidden />}
          </button>
        </li>
      ))}
    </Colours>
  );
}

function Pick({ part, commit }: PartProps<PickPart>) {
  const last = part.picks.at(-1);
  return (
    <Line>
      <p>
        {last
          ? `${part.picks.length} picked; the last one ${last.away ? 'leaves out' : 'catches'}.`
          : 'Click on the photograph to pick what is alike.'}
      </p>
      <Hint text="Take the last pick back">
        <IconButton
          aria-label="Take the last pick back"
          isDisabled={!last}
          onPress={() => commit('Last pick taken back', { picks: part.picks.slice(0, -1) })}
        >
          <Undo2 size={14} strokeWidth={1.5} />
        </IconButton>
      </Hint>
      <Button isDisabled={!last} onPress={() => commit('Picks cleared', { picks: [] })}>
        Clear
      </Button>
    </Line>
  );
}

function Outline({ part, commit }: PartProps<OutlinePart>) {
  const store = useBenchStore();
  return (
    <Line>
      <p>{part.shapes.length === 0 ? 'Draw around it, or set corners.' : 'Draw more shapes; what two overlap is outside.'}</p>
      <Button onPress={() => store.getState().set({ tool: 'outline' })}>Draw</Button>
      <Button isDisabled={part.shapes.length === 0} onPress={() => commit('Outline cleared', { shapes: [] })}>
        Clear
      </Button>
    </Line>
  );
}

/** Paints through the mask of another layer, as it is now. */
function Through({ layer, part, commit }: Pick<PartProps<BrushPart>, 'layer' | 'part' | 'commit'>) {
  const store = useBenchStore();
  const names = useBench(useShallow((state) => masksOfOthers(state, layer.id)));
  const choose = (id: string): void => {
    const found = findResolved(resolveLayers(store.getState().committed), id);
    if (found) commit(`Brush through the mask of ${found.layer.name}`, { through: withoutLink(found.where) });
  };
  return (
    <Line>
      <p>{part.through ? 'Paints through another mask.' : 'Paints where it goes.'}</p>
      {part.through ? (
        <Button onPress={() => commit('Brush through no mask', { through: undefined })}>Through nothing</Button>
      ) : (
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
      )}
    </Line>
  );
}

const withoutLink = ({ parts, refine, strength, invert }: Mask): Mask => structuredClone({ parts, refine, strength, invert });

function Brush({ layer, part, preview, commit }: PartProps<BrushPart>) {
  const last = part.strokes.at(-1);
  const withLast = (opacity: number): Partial<BrushPart> => ({
    strokes: part.strokes.map((stroke, i) => (i === part.strokes.length - 1 ? { ...stroke, opacity } : stroke)),
  });
  return (
    <>
      <BrushSliders stops />
      <Through layer={layer} part={part} commit={commit} />
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
      <Line>
        <p>
          {part.strokes.length} {part.strokes.length === 1 ? 'stroke' : 'strokes'}
        </p>
        <Button isDisabled={!last} onPress={() => commit('Brush cleared', { strokes: [] })}>
          Clear
        </Button>
      </Line>
    </>
  );
}

export const partExtras: { readonly [K in MaskPart['kind']]?: (props: PartProps<Extract<MaskPart, { kind: K }>>) => ReactNode } = {
  hueRange: HueRange,
  luminosity: Luminosity,
  likeness: Likeness,
  pick: Pick,
  outline: Outline,
  brush: Brush,
};
