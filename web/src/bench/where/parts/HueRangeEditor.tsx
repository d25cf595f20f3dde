'use client';
import { hueMembership } from '@umbo/core/colour';
import { hueSpans, maskPartKind, type HueRangePart, type MaskPart } from '@umbo/core/mask';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { IconButton } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Hint } from '@/ui/controls/Hint';
import { Switch } from '@/ui/controls/Switch';
import type { Range } from '../../ranges/hueHandles';
import { HueRing } from '../../ranges/HueRing';
import { SoftRange } from '../../ranges/SoftRange';
import { useBench, useBenchStore } from '../../state/context';
import type { PartProps } from '../partProps';
import { PartLine } from './PartLine';

/** A new hue range begins at the photograph's strongest hue that no range of this layer catches yet. */
export function strongestFreeHue(census: Float32Array | null, parts: readonly MaskPart[]): Partial<HueRangePart> {
  if (!census) return {};
  const ranges = parts.filter((part): part is HueRangePart => part.kind === 'hueRange');
  let best = 0;
  let amount = -1;
  for (const [i, share] of census.entries()) {
    const hue = (i + 0.5) * (360 / census.length);
    if (share > amount && ranges.every((range) => hueSpans(range).every((one) => hueMembership(one, hue) === 0))) {
      amount = share;
      best = hue;
    }
  }
  return { from: (best - 35 + 360) % 360 };
}

/** Which of several ranges is worked on, more of them, and fewer. */
export function HueRangeEditor({ layer, part, preview, commit, cancel }: PartProps<HueRangePart>) {
  const store = useBenchStore();
  const census = useBench((state) =>
    part.result ? (state.region?.layerId === layer.id ? state.region.below.census.oklch : null) : state.census,
  );
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
      <HueRing
        key={index}
        range={ranges[index]!}
        census={census}
        of={part.result ? 'below' : 'photograph'}
        onPreview={(range) => preview(withRange(range))}
        onCommit={(range) => commit(words(withRange(range)), withRange(range))}
        onMoving={(range) => store.getState().setPassingView(range ? 'spotlight' : null)}
      />
      <PartLine>
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
      </PartLine>
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
              by={key}
              of={part.result ? 'below' : 'photograph'}
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
