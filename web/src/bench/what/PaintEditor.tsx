'use client';
import { coloursOf, swapColour, type PaintSettings } from '@umbo/core/content';
import { onLayer } from '@umbo/core/document';
import { useMemo } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Menu, MenuItem } from '@/ui/controls/Menu';
import { ColourFields } from '../colour/ColourFields';
import { hexOf } from '@/ui/hexOf';
import { cssOf } from '../colour/colourModels';
import { useBench, useBenchStore } from '../state/context';
import { Palettes } from '../colour/Palettes';
import type { ContentProps } from './contentProps';
import { Swatch } from '../colour/Swatch';

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
`;

/** A paint layer: the brush and its colour, and the colours that are painted already. */
export function PaintEditor({ layer, settings }: ContentProps<PaintSettings>) {
  const store = useBenchStore();
  const colour = useBench((state) => state.paintColour);
  const used = useMemo(() => coloursOf(settings), [settings]);
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
            {used.slice(0, 24).map((from) => (
              <MenuTrigger key={from.join()}>
                <Swatch aria-label={`Painted colour ${hexOf(from)}`} style={{ background: cssOf(from) }} />
                <Floating>
                  <Menu
                    onAction={(key) =>
                      key === 'take'
                        ? setColour(from)
                        : store.getState().commit(
                            `Colour swapped on ${layer.name}`,
                            onLayer(layer.id, ({ what }) => {
                              if (what.kind === 'paint') swapColour(what.settings, from, colour);
                            }),
                          )
                    }
                  >
                    <MenuItem id="take">Paint with it</MenuItem>
                    <MenuItem id="swap">Swap it for the paint colour</MenuItem>
                  </Menu>
                </Floating>
              </MenuTrigger>
            ))}
          </Row>
        </LabelledLine>
      )}
      <Palettes colour={colour} />
    </>
  );
}
