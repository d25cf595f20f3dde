'use client';
import type { SpaceId } from '@umbo/core/base';
import { spaceIds, spaces } from '@umbo/core/colour';
import { inSpace, replaceWith } from '@umbo/core/document';
import { ChevronUp } from 'lucide-react';
import { useSyncExternalStore } from 'react';
import { DialogTrigger, Heading } from 'react-aria-components';
import styled from 'styled-components';
import { Floating } from '@/ui/controls/Floating';
import { Select } from '@/ui/controls/Select';
import { Switch } from '@/ui/controls/Switch';
import { FooterBox, FooterOpener } from './footerParts';
import { useBench, useBenchStore } from './state/context';

const Box = styled(FooterBox)`
  label {
    font: inherit;
    min-width: 84px;
  }
  div {
    display: grid;
    gap: 4px;
  }
`;

/** The least difference that is seen: about one ΔE00. */
const VISIBLE = 1;
const AS_IT_SAYS = 'file';
const SPACES = spaceIds.map((id) => [id, spaces[id].name] as const);

/** Displays of more than sRGB. */
const WIDE = '(color-gamut: p3)';
const useWideDisplay = (): boolean =>
  useSyncExternalStore(
    (changed) => {
      const query = matchMedia(WIDE);
      query.addEventListener('change', changed);
      return () => query.removeEventListener('change', changed);
    },
    () => matchMedia(WIDE).matches,
    () => false,
  );

/** What the display leaves out of a space; null where it shows all of it. */
function leftOut(space: SpaceId, isWide: boolean): string | null {
  if (space === 'srgb' || (isWide && space === 'display-p3')) return null;
  return `${spaces[space].name} holds more than this display shows: the most saturated colours look alike on it. Files keep them.`;
}

/** The space that the photograph is worked on in, and how its file is read. */
export function WorkingSpace() {
  const store = useBenchStore();
  const profile = useBench((state) => state.photograph.profile);
  const space = useBench((state) => state.committed.workingSpace);
  const readAs = useBench((state) => state.committed.readAs);
  const proof = useBench((state) => state.look.proof);
  const isWide = useWideDisplay();
  const display = isWide ? 'display-p3' : 'srgb';
  const words = leftOut(space, isWide);
  const { name } = spaces[space];
  const work = (to: SpaceId): void => {
    const { committed, commit } = store.getState();
    if (to !== space) commit(`Work in ${spaces[to].name}`, replaceWith(inSpace(committed, to)));
  };
  const read = (as: SpaceId | typeof AS_IT_SAYS): void => {
    store.getState().commit(as === AS_IT_SAYS ? 'File read as it says' : `File read as ${spaces[as].name}`, (draft) => {
      if (as === AS_IT_SAYS) delete draft.readAs;
      else draft.readAs = as;
    });
  };
  return (
    <DialogTrigger>
      <FooterOpener aria-label={`Working space: ${name}`}>
        {name}
        {words && ' · the display shows less'} <ChevronUp size={12} strokeWidth={1.75} aria-hidden />
      </FooterOpener>
      <Floating placement="top start">
        <Box>
          <Heading slot="title" level={3}>
            Colours of the photograph
          </Heading>
          <div>
            <Select label="Worked on in" value={space} options={SPACES} onChange={work} />
            <p>Colours stay what they are, as far as the space holds them. Curves and levels act on its channels.</p>
          </div>
          <div>
            <Select
              label="File read as"
              value={readAs ?? AS_IT_SAYS}
              options={[[AS_IT_SAYS, `As it says: ${profile}`] as const, ...SPACES]}
              onChange={read}
            />
            <p>For a file without a profile, or with a wrong one: the same numbers are taken for other colours.</p>
          </div>
          {words && (
            <div>
              <p role="note">{words}</p>
              <Switch
                value={proof?.profile === display}
                onChange={(on) =>
                  store.getState().setLook({
                    proof: on ? { profile: display, intent: 'relative', black: false, paper: false, warnFrom: VISIBLE } : null,
                  })
                }
              >
                Outline what it does not show
              </Switch>
            </div>
          )}
        </Box>
      </Floating>
    </DialogTrigger>
  );
}
