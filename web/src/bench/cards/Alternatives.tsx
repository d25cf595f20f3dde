'use client';
import { childrenOf, findLayer } from '@umbo/core/document';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { Progress } from '@/ui/controls/Progress';
import { chooseColourway } from '../state/actions';
import { useBench, useBenchStore } from '../state/context';
import { Picture } from '../desk/Thumbnails';

const Grid = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  justify-content: center;
  max-height: calc(100vh - 220px);
  overflow: auto;
  padding: 12px;
  background: var(--stage);
`;
const Way = styled(AriaButton)`
  display: grid;
  gap: 6px;
  padding: 6px;
  border: 0;
  border-radius: var(--radius);
  background: none;
  color: #fff;
  text-shadow: 0 0 3px #000;
  canvas {
    display: block;
    max-width: 260px;
    max-height: 300px;
  }
  &[data-hovered] {
    background: #fff3;
  }
  &[aria-pressed='true'] {
    background: var(--ink);
    color: var(--on-ink);
    text-shadow: none;
  }
`;

/** All alternatives of a colourway set, beside each other. */
export function Alternatives() {
  const store = useBenchStore();
  const alternatives = useBench((state) => state.alternatives);
  const set = useBench((state) => findLayer(state.committed, state.alternatives?.setId ?? null));
  const layers = set ? childrenOf(set) : [];
  const shown = set?.what.kind === 'colourways' ? set.what.settings.shown : null;
  const close = (): void => store.getState().showAlternatives(null);
  return (
    <Dialog
      title={set?.name ?? 'Colourways'}
      isOpen={alternatives !== null}
      onClose={close}
      width={300 * Math.min(4, Math.max(2, layers.length)) + 66}
    >
      <Grid>
        {alternatives?.pictures.map(({ id, picture }) => (
          <Way
            key={id}
            aria-pressed={id === shown}
            onPress={() => {
              chooseColourway(store.getState(), id);
              close();
            }}
          >
            <Picture picture={picture} />
            {layers.find((layer) => layer.id === id)?.name}
          </Way>
        ))}
      </Grid>
      <DialogActions>
        <Button onPress={close}>Close</Button>
      </DialogActions>
      {alternatives && alternatives.pictures.length < alternatives.wanted && (
        <Progress label="Rendering the alternatives" share={alternatives.pictures.length / alternatives.wanted} />
      )}
    </Dialog>
  );
}
