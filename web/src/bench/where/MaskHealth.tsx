'use client';
import { onLayer, type Layer } from '@umbo/core/document';
import { isHard, marksIn, measurement } from '@umbo/core/measure';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Num } from '@/ui/controls/Num';
import { useBench, useBenchStore } from '../state/context';
import { foundFor } from '../state/health';
import type { BenchState } from '../state/benchState';

/** Marks and holes smaller than this share of the photograph's longer side were hardly meant. */
const SMALL = 0.012;

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 28px;
  margin-top: 6px;
  p {
    flex: 1;
    margin: 0;
  }
`;

const smallSide = ({ photograph: { width, height } }: BenchState): number => Math.round(Math.max(width, height) * SMALL);

const count = (n: number, one: string, more: string): string => `${n} ${n === 1 ? one : more}`;

/** Has a mask looked over, and cleaned of what was found. */
export function MaskHealth({ layer }: { layer: Layer }) {
  const store = useBenchStore();
  const found = useBench((state) => (state.health?.layerId === layer.id ? foundFor(state) : null));
  const check = (): void => store.getState().checkMask(layer.id, smallSide(store.getState()));
  if (!found)
    return (
      <Line>
        <Button onPress={check}>Look the mask over</Button>
      </Line>
    );
  const isSound = marksIn(found) === 0 && !isHard(found);
  const clean = (): void => {
    const side = smallSide(store.getState());
    store.getState().commit(
      `Clean the mask of ${layer.name}`,
      onLayer(layer.id, (draft) => measurement('maskHealth').apply!(found, { side }, draft)),
    );
    check();
  };
  return (
    <Line role="status">
      <p>
        <Num>
          {isSound
            ? 'Nothing stray, no pinholes'
            : `${count(found.stray.length, 'stray mark', 'stray marks')}, ${count(found.pinholes.length, 'pinhole', 'pinholes')}`}
          , {Math.round(found.hardShare * 100)} % hard edge
        </Num>
      </p>
      {layer.where.link === undefined && (
        <Button isDisabled={isSound} onPress={clean}>
          Clean
        </Button>
      )}
      <Button onPress={() => store.getState().checkMask(null, 0)}>Done</Button>
    </Line>
  );
}
