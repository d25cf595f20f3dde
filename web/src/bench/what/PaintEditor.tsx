'use client';
import type { Colour } from '@umbo/core/colour';
import { coloursOf, swapColour, type PaintSettings } from '@umbo/core/content';
import { findLayer, onLayer, type Recipe } from '@umbo/core/document';
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { ColourFields } from '../colour/ColourFields';
import { hexOf } from '@/ui/hexOf';
import { ColourPicker } from '../colour/ColourPicker';
import { useBench, useBenchStore, useSpace } from '../state/context';
import { Palettes } from '../colour/Palettes';
import type { ContentProps } from './contentProps';

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
`;

/** A paint layer: the brush and its colour, and the colours that are painted already. */
export function PaintEditor({ layer }: ContentProps<PaintSettings>) {
  const space = useSpace();
  const store = useBenchStore();
  const colour = useBench((state) => state.paintColour);
  // As they are kept: while one of them is dragged, the list stays.
  const kept = useBench((state) => findLayer(state.committed, layer.id)?.what);
  const used = useMemo(() => (kept?.kind === 'paint' ? coloursOf(kept.settings) : []), [kept]);
  const recolour = (from: Colour, to: Colour): Recipe =>
    onLayer(layer.id, ({ what }) => {
      if (what.kind === 'paint') swapColour(what.settings, from, to);
    });
  /** The painted colour that is being dragged, as it is meanwhile. */
  const [live, setLive] = useState<{ i: number; colour: Colour } | null>(null);
  const own = useBench((state) => state.partId === null);
  const setColour = (paintColour: typeof colour): void => store.getState().set({ paintColour });
  return (
    <>
      {!own && (
        <LabelledLine>
          <span />
          <Button onPress={() => store.getState().select(layer.id, null)}>Paint colour, not the mask</Button>
        </LabelledLine>
      )}
      <ColourFields label="Paint colour" colour={colour} onPreview={setColour} onCommit={setColour} />
      {used.length > 0 && (
        <LabelledLine>
          Painted
          <Row>
            {used.slice(0, 24).map((from, i) => (
              <ColourPicker
                key={i}
                name={`Painted colour ${hexOf(from, space)}`}
                label="Painted colour"
                colour={live?.i === i ? live.colour : from}
                onPreview={(to) => {
                  setLive({ i, colour: to });
                  store.getState().preview(recolour(from, to));
                }}
                onCommit={(to) => {
                  setLive(null);
                  store.getState().commit(`Painted colour ${hexOf(to, space)} on ${layer.name}`, recolour(from, to));
                }}
              >
                <Button onPress={() => setColour(from)}>Paint with it</Button>
                <Button onPress={() => store.getState().commit(`Colour swapped on ${layer.name}`, recolour(from, colour))}>
                  Swap it for the paint colour
                </Button>
              </ColourPicker>
            ))}
          </Row>
        </LabelledLine>
      )}
      <Palettes colour={colour} />
    </>
  );
}
