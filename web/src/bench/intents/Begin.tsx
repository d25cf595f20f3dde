'use client';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { NewLayerMenu } from '../cards/NewLayerMenu';
import { useBenchStore } from '../state/context';
import { beginIntent } from './intent';
import { intents } from './intents';

const Box = styled.section`
  h2 {
    font: 650 14px/20px var(--sans);
    margin: 0;
    padding: 14px 14px 8px;
  }
`;
const Sentence = styled(AriaButton)`
  display: block;
  width: 100%;
  padding: 7px 14px;
  border: 0;
  border-top: 1px solid var(--line);
  background: none;
  text-align: left;
  cursor: default;
  b {
    display: block;
    font-weight: 600;
  }
  span {
    color: var(--ink2);
  }
  &[data-hovered] {
    background: var(--well);
  }
  &[data-focus-visible] {
    outline-offset: -2px;
  }
  &:last-child {
    border-bottom: 1px solid var(--line);
  }
`;

/** The desk while no layer is chosen: what people come for, as sentences; and all kinds of layers by name. */
export function Begin() {
  const store = useBenchStore();
  return (
    <Box aria-labelledby="what-is-to-be-done">
      <h2 id="what-is-to-be-done">What is to be done?</h2>
      {intents.map((intent) => (
        <Sentence key={intent.id} onPress={() => beginIntent(store.getState, intent)}>
          <b>{intent.words}</b>
          <span>{intent.explains}</span>
        </Sentence>
      ))}
      <NewLayerMenu>
        <Sentence aria-label="New layer">
          <b>New layer</b>
          <span>all kinds, by name</span>
        </Sentence>
      </NewLayerMenu>
    </Box>
  );
}
