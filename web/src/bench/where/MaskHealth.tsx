'use client';
import { onMaskOwner, type Layer, type MaskOwner } from '@umbo/core/document';
import { isHard, marksIn, measurement } from '@umbo/core/measure';
import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Num } from '@/ui/controls/Num';
import { Slider } from '@/ui/controls/Slider';
import { useBench, useBenchStore } from '../state/context';
import { foundFor, outlined } from '../state/health';

/** Islands smaller than this share of the largest one were hardly meant. */
export const SMALL = 0.1;

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 28px;
  p {
    flex: 1;
    margin: 0;
  }
`;

const count = (n: number, one: string, more: string): string => `${n} ${n === 1 ? one : more}`;

/** What was found when the mask was looked over, how small is too small, and cleaning of it; nothing until it is asked for. */
export function MaskHealth({ layer }: { layer: MaskOwner }) {
  const store = useBenchStore();
  const share = useBench((state) => (state.health?.layerId === layer.id ? state.health.share : null));
  const found = useBench((state) => (state.health?.layerId === layer.id ? foundFor(state) : null));
  const isLooking = useBench(({ health }) => health?.found === null);
  const [dragged, setDragged] = useState<number | null>(null);
  if (share === null) return null;
  const check = (limit: number): void => {
    setDragged(null);
    store.getState().checkMask(layer.id, limit);
  };
  const rest = found ? outlined(found.stray, 0).rest + outlined(found.pinholes, 0).rest : 0;
  const isSound = found !== null && marksIn(found) === 0 && !isHard(found);
  const clean = (): void => {
    store.getState().commit(
      `Clean the mask of ${layer.name}`,
      onMaskOwner(layer.id, (draft) => measurement('maskHealth').apply!(found!, { share }, draft as Layer)),
    );
    check(share);
  };
  return (
    <div role="group" aria-label="The mask looked over">
      <Line role="status">
        <p>
          {found ? (
            <Num>
              {isSound
                ? 'Nothing stray, no pinholes'
                : `${count(found.stray.length, 'stray mark', 'stray marks')}, ${count(found.pinholes.length, 'pinhole', 'pinholes')}`}
              , {Math.round(found.hardShare * 100)} % hard edge
              {rest > 0 && `; the ${rest} smallest are not outlined`}
            </Num>
          ) : (
            <>{isLooking ? 'Looking it over…' : 'The mask has changed since.'}</>
          )}
        </p>
      </Line>
      <Slider
        label="Small is"
        name="Small up to this share of the largest part"
        value={(dragged ?? share) * 100}
        min={0.1}
        max={50}
        step={1}
        neutral={SMALL * 100}
        unit="%"
        onPreview={(v) => setDragged(v / 100)}
        onCommit={(v) => check(v / 100)}
      />
      <Line>
        <span style={{ flex: 1 }} />
        {!found && !isLooking && <Button onPress={() => check(share)}>Look again</Button>}
        {layer.where.link === undefined && (
          <Button isDisabled={!found || isSound} onPress={clean}>
            Clean
          </Button>
        )}
        <Button onPress={() => store.getState().checkMask(null, 0)}>Done</Button>
      </Line>
    </div>
  );
}
