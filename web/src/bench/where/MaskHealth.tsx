'use client';
import { onLayer, type Layer } from '@umbo/core/document';
import styled from 'styled-components';
import { Button, Num } from '@/ui/controls';
import { useBench, useBenchStore } from '../state/context';
import { foundFor } from '../state/health';
import type { BenchState } from '../state/store';

/** Marks and holes smaller than this share of the photograph's longer side were hardly meant. */
const SMALL = 0.012;
/** Width over which an edge that is too hard is softened, in pixels. */
const SOFTEN = 3;

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
  const marks = found.stray.length + found.pinholes.length;
  const isHard = found.hardShare > 0.5;
  const clean = (): void => {
    const side = smallSide(store.getState());
    store.getState().commit(
      `Clean the mask of ${layer.name}`,
      onLayer(layer.id, ({ where }) => {
        if (marks > 0) where.refine.unshift({ kind: 'clean', islands: side, holes: side });
        if (isHard && !where.refine.some(({ kind }) => kind === 'feather')) where.refine.push({ kind: 'feather', radius: SOFTEN });
      }),
    );
    check();
  };
  return (
    <Line role="status">
      <p>
        <Num>
          {marks === 0 && !isHard
            ? 'Nothing stray, no pinholes'
            : `${count(found.stray.length, 'stray mark', 'stray marks')}, ${count(found.pinholes.length, 'pinhole', 'pinholes')}`}
          , {Math.round(found.hardShare * 100)} % hard edge
        </Num>
      </p>
      {layer.where.link === undefined && (
        <Button isDisabled={marks === 0 && !isHard} onPress={clean}>
          Clean
        </Button>
      )}
      <Button onPress={() => store.getState().checkMask(null, 0)}>Done</Button>
    </Line>
  );
}
