'use client';
import { MOST_FRAMES, type JoinedSettings } from '@umbo/core/content';
import styled from 'styled-components';
import { Switch } from '@/ui/controls/Switch';
import { useBench } from '../state/context';
import { Align } from './exposures/Align';
import type { ContentProps } from './contentProps';

const List = styled.div`
  max-height: 168px;
  overflow-y: auto;
  margin: 4px 0;
  border: 1px solid var(--line);
  border-radius: 2px;
  padding: 2px 8px;
`;

/** Which photographs of the shoot are joined with the one in work. */
export function JoinedEditor({ layer, settings, commit }: ContentProps<JoinedSettings>) {
  const photographs = useBench((state) => state.shoot.photographs);
  const { frames } = settings;
  if (photographs.length === 0) return <p>The shoot has no other photograph. Import some to join them with this one.</p>;
  const gone = frames.filter(({ photograph }) => !photographs.some(({ sha256 }) => sha256 === photograph));
  const isJoined = (sha256: string): boolean => frames.some(({ photograph }) => photograph === sha256);
  const isFull = frames.length >= MOST_FRAMES;
  const lies = { x: 0, y: 0, rotate: 0, scale: 100 };
  return (
    <>
      <List role="group" aria-label="Joined with this photograph">
        {photographs.map(({ sha256, name }) => (
          <div key={sha256}>
            <Switch
              value={isJoined(sha256)}
              isDisabled={isFull && !isJoined(sha256)}
              onChange={(on) =>
                commit(on ? `${name} joined` : `${name} left out`, {
                  frames: on ? [...frames, { photograph: sha256, ...lies }] : frames.filter(({ photograph }) => photograph !== sha256),
                })
              }
            >
              {name}
            </Switch>
          </div>
        ))}
      </List>
      {isFull && <p>No more than {MOST_FRAMES} are joined with it.</p>}
      {gone.length > 0 && <p>{gone.length} of those that are joined are not in this shoot.</p>}
      {frames.length > 0 && <Align layer={layer} />}
    </>
  );
}
