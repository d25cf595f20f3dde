'use client';
import type { LikenessPart } from '@umbo/core/mask';
import { Minus, Plus } from 'lucide-react';
import { useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { useShallow } from 'zustand/react/shallow';
import { Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem } from '@/ui/controls/Menu';
import { cssOf, hexOf } from '@/ui/hexOf';
import { RoundButton } from '../../desk/Chips';
import { useBench, useBenchStore, useSpace } from '../../state/context';
import { sampleRegion } from '../../state/sampling';
import type { PartProps } from '../partProps';
import { PartLine } from './PartLine';

const Colours = styled.ul`
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin: 2px 0 6px;
  padding: 0;
  .swatch {
    display: grid;
    place-items: center;
    width: 26px;
    height: 26px;
    border: 1px solid var(--edge);
    border-radius: var(--radius);
    color: #fff;
    padding: 0;
    cursor: default;
    svg {
      filter: drop-shadow(0 0 1px #000) drop-shadow(0 0 1px #000);
    }
  }
`;

export function LikenessEditor({ layer, part, commit }: PartProps<LikenessPart>) {
  return (
    <>
      {part.colours.length === 0 ? (
        <PartLine>
          <p>Click or drag on the photograph to catch its colours.</p>
        </PartLine>
      ) : (
        <CaughtColours part={part} commit={commit} />
      )}
      <OfRegion owner={layer.id} part={part} />
    </>
  );
}

/** So many colours stand on one line; the others are counted, and shown when that is pressed. */
const SHOWN = 6;

function CaughtColours({ part, commit }: Pick<PartProps<LikenessPart>, 'part' | 'commit'>) {
  const space = useSpace();
  const [isOpen, setOpen] = useState(false);
  const { colours } = part;
  const away = colours.filter((one) => one.away).length;
  const folds = colours.length > SHOWN;
  const first = folds && !isOpen ? colours.length - SHOWN : 0;
  return (
    <Colours aria-label="Colours">
      {/* The newest are in sight. */}
      {colours.slice(first).map((one, k) => (
        <li key={first + k}>
          <button
            type="button"
            className="swatch"
            style={{ background: cssOf(one.colour, space) }}
            title={`${hexOf(one.colour, space)}, ${one.away ? 'left out' : 'caught'}; press to forget it`}
            aria-label={`Forget ${hexOf(one.colour, space)}, ${one.away ? 'left out' : 'caught'}`}
            onClick={() => commit('Colour forgotten', { colours: colours.filter((_, i) => i !== first + k) })}
          >
            {one.away ? <Minus size={14} aria-hidden /> : <Plus size={14} aria-hidden />}
          </button>
        </li>
      ))}
      {folds && (
        <li>
          <RoundButton aria-expanded={isOpen} onPress={() => setOpen(!isOpen)}>
            {isOpen ? 'Fewer' : `All: +${colours.length - away} −${away}`}
          </RoundButton>
        </li>
      )}
    </Colours>
  );
}

/** Takes the colours of a region, and takes them anew on every photograph that the part is carried to. */
function OfRegion({ owner, part }: { owner: string; part: LikenessPart }) {
  const store = useBenchStore();
  const regions = useBench(useShallow((state) => (state.committed.regions ?? []).filter(({ id }) => id !== owner)));
  if (regions.length === 0) return null;
  const from = regions.find(({ id }) => id === part.sampled);
  return (
    <PartLine>
      <p>{from ? `As the photograph has them in ${from.name}.` : ''}</p>
      <MenuTrigger>
        <Button>Of a region…</Button>
        <Floating>
          <Menu onAction={(key) => void sampleRegion(store.getState, owner, part.id, String(key))}>
            {regions.map(({ id, name }) => (
              <MenuItem key={id} id={id}>
                {name}
              </MenuItem>
            ))}
          </Menu>
        </Floating>
      </MenuTrigger>
    </PartLine>
  );
}
