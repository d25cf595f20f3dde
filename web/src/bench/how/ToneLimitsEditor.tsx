'use client';
import { toneShare, type ToneLimits } from '@umbo/core/blend';
import { ALL_TONES, findLayer, isAllTones, onLayer, type Layer } from '@umbo/core/document';
import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Switch } from '@/ui/controls/Switch';
import { useBench, useBenchStore } from '../state/context';
import { ToneHandles } from '../ranges/ToneHandles';
import { moveToneEnd, TONE_ENDS, toneEnds } from '../ranges/toneRange';

const Line = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
  min-height: 26px;
`;

const Words = styled.span`
  flex: 1;
  color: var(--ink2);
`;

/** Such as "none below 20, all from 35 to 80, none above 90". */
function limitWords(limits: ToneLimits): string {
  const [none, from, to, beyond] = toneEnds(limits).map(Math.round) as [number, number, number, number];
  if (isAllTones(limits)) return 'in all tones';
  const low = none > 0 || from > 0 ? `from ${none} on, fully at ${from}` : '';
  const high = to < 100 || beyond < 100 ? `fully to ${to}, up to ${beyond}` : '';
  return [low, high].filter((words) => words !== '').join('; ');
}

const SIDES = [
  ['limitsBelow', 'What is below'],
  ['limitsSelf', 'The layer'],
] as const;

/** In which tones a layer acts: of what lies below it, and of its own. */
export function ToneLimitsEditor({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const [side, setSide] = useState<'limitsBelow' | 'limitsSelf'>('limitsBelow');
  const bins = useBench(({ region }) =>
    region?.layerId !== layer.id ? null : side === 'limitsBelow' ? region.histogram.luminosity : region.own.luminosity,
  );
  const limits = layer.how[side] ?? ALL_TONES;
  const change = (next: ToneLimits) =>
    onLayer(layer.id, ({ how }) => {
      if (isAllTones(next)) delete how[side];
      else how[side] = structuredClone(next);
    });
  const words = (next: ToneLimits): string =>
    isAllTones(next) ? `All tones on ${layer.name}` : `Tones ${toneEnds(next).map(Math.round).join('–')} on ${layer.name}`;
  const commit = (next: ToneLimits): boolean => store.getState().commit(words(next), change(next));
  return (
    <div role="group" aria-label="Tone limits">
      <Line>
        Tone limits
        <Choice label="Whose tones" value={side} options={SIDES} onChange={setSide} />
      </Line>
      <ToneHandles
        label="Tone limits on the histogram"
        bins={bins}
        by="luminosity"
        of={side === 'limitsBelow' ? 'below' : 'result'}
        handles={TONE_ENDS.map((name, i) => ({ name, at: toneEnds(limits)[i]!, foot: name.endsWith('outer') }))}
        shape={(tone) => toneShare(limits, tone)}
        onCancel={() => store.getState().cancelPreview()}
        onMove={(name, at, done) => {
          // From where the handles were before the drag: those that are pushed come back with it.
          const begun = findLayer(store.getState().committed, layer.id)?.how[side] ?? ALL_TONES;
          const next = moveToneEnd(begun, name, at);
          if (done) commit(next);
          else store.getState().preview(change(next));
        }}
      />
      <Line>
        <Words>{limitWords(limits)}</Words>
        <Switch value={limits.smooth} isDisabled={isAllTones(limits)} onChange={(smooth) => commit({ ...limits, smooth })}>
          Smooth
        </Switch>
        <Button isDisabled={isAllTones(limits)} onPress={() => commit(ALL_TONES)}>
          All tones
        </Button>
      </Line>
    </div>
  );
}
