'use client';
import type { Layer } from '@umbo/core/document';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Progress } from '@/ui/controls/Progress';
import { Switch } from '@/ui/controls/Switch';
import { useKept } from '@/ui/useKept';
import { useBench, useBenchStore } from '../../state/context';
import { alignLayers, cropToAll, frameLayers, stopAligning } from './aligning';

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  margin-top: 8px;
  > [role='progressbar'] {
    flex: 1;
  }
`;

/** Lays the photographs that a layer shows exactly over the one in work, or those of all layers at once. */
export function Align({ layer, children }: { layer: Layer; children?: ReactNode }) {
  const store = useBenchStore();
  const aligning = useBench((state) => state.aligning);
  const count = useBench((state) => frameLayers(state).length);
  const [leans, setLeans] = useKept<'yes' | 'no'>('align-leans', 'no');
  const now = store.getState;
  if (aligning !== null)
    return (
      <Row>
        <Progress label="Aligned so far" share={aligning} />
        <Button onPress={() => stopAligning(now)}>Stop</Button>
      </Row>
    );
  const all = (): string[] => frameLayers(now()).map(({ id }) => id);
  return (
    <Row>
      <Button onPress={() => void alignLayers(now, [layer.id], leans === 'yes')}>Align to the photograph</Button>
      {count > 1 && <Button onPress={() => void alignLayers(now, all(), leans === 'yes')}>Align all {count} layers</Button>}
      <Switch value={leans === 'yes'} onChange={(on) => setLeans(on ? 'yes' : 'no')}>
        Perspective too
      </Switch>
      {children}
      <Button onPress={() => cropToAll(now)}>Crop to what {count > 1 ? 'all' : 'both'} cover</Button>
    </Row>
  );
}
