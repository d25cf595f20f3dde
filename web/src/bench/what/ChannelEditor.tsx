'use client';
import { channelWords } from '@umbo/core/colour';
import type { ChannelSettings } from '@umbo/core/content';
import { CHANNEL_MODES, type TriedChannel } from '@umbo/core/measure';
import { useEffect, useState } from 'react';
import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';
import { Choice } from '@/ui/controls/Choice';
import { Picture } from '../desk/Thumbnails';
import { setBlendMode } from '../state/actions';
import { useBench, useBenchStore } from '../state/context';
import type { ContentProps } from './contentProps';
import { Quiet } from './editorParts';
import { chooseChannel, sameChannel, triedMode, tryChannels } from './tryingChannels';

const Tried = styled(ToggleButtonGroup)`
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
  margin-top: 8px;
`;
const Tile = styled(ToggleButton)`
  display: block;
  min-width: 0;
  padding: 0 0 2px;
  border: 1px solid var(--line);
  border-radius: 2px;
  background: var(--raised);
  color: var(--ink);
  font-size: 11px;
  line-height: 16px;
  canvas {
    display: block;
    width: 100%;
    height: 60px;
    object-fit: contain;
    background: var(--stage);
  }
  span {
    display: flex;
    justify-content: space-between;
    padding: 1px 5px 0;
  }
  &[data-selected] {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--on-ink);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--ink);
    outline-offset: 1px;
  }
`;
const MODE_WORDS: Record<(typeof CHANNEL_MODES)[number], string> = {
  normal: 'Grey',
  'soft-light': 'Soft',
  overlay: 'Overlay',
  'hard-light': 'Hard',
  'linear-light': 'Linear',
};

/** Every channel of what the mask lets in, small, by how much contrast it gives there. */
export function ChannelEditor({ layer, settings }: ContentProps<ChannelSettings>) {
  const store = useBenchStore();
  const [tried, setTried] = useState<readonly TriedChannel[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const committed = useBench((state) => state.committed);
  const mode = triedMode(layer);
  useEffect(() => {
    let isWanted = true;
    tryChannels(store.getState(), layer).then(
      (found) => {
        if (!isWanted) return;
        setTried(found);
        setProblem(null);
      },
      (error: Error) => isWanted && setProblem(error.message),
    );
    return () => void (isWanted = false);
    // The picture below may have changed with anything in the edit.
  }, [store, committed, layer]);
  const chosen = tried.find(({ channel }) => sameChannel(channel, settings));
  return (
    <>
      <Choice
        label="Tried as"
        value={mode}
        options={CHANNEL_MODES.map((id) => [id, MODE_WORDS[id]] as const)}
        onChange={(id) => setBlendMode(store.getState(), layer.id, id)}
      />
      <Tried
        aria-label="Channels, by contrast"
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={chosen ? [channelWords(chosen.channel)] : []}
        onSelectionChange={(keys) => {
          const next = tried.find(({ channel }) => keys.has(channelWords(channel)));
          if (next) chooseChannel(store.getState(), layer, next.channel);
        }}
      >
        {tried.map(({ channel, contrast, picture }) => (
          <Tile
            key={channelWords(channel)}
            id={channelWords(channel)}
            aria-label={`${channelWords(channel)}, contrast ${contrast.toFixed(1)} %`}
          >
            <Picture picture={picture} />
            <span aria-hidden>
              <b>{channelWords(channel)}</b> {contrast.toFixed(1)}
            </span>
          </Tile>
        ))}
      </Tried>
      {problem ? <p role="alert">The channels could not be tried. {problem}</p> : tried.length === 0 && <Quiet>Trying the channels…</Quiet>}
    </>
  );
}
