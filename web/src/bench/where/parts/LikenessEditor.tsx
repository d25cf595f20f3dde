'use client';
import type { LikenessPart } from '@umbo/core/mask';
import { Minus, Plus } from 'lucide-react';
import styled from 'styled-components';
import { hexOf } from '@/ui/hexOf';
import { cssOf } from '../../colour/colourModels';
import type { PartProps } from '../partProps';
import { PartLine } from './PartLine';

const Colours = styled.ul`
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin: 2px 0 6px;
  padding: 0;
  button {
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

export function LikenessEditor({ part, commit }: PartProps<LikenessPart>) {
  if (part.colours.length === 0)
    return (
      <PartLine>
        <p>Click or drag on the photograph to catch its colours.</p>
      </PartLine>
    );
  return (
    <Colours aria-label="Colours">
      {part.colours.map(({ colour, away }, i) => (
        <li key={i}>
          <button
            type="button"
            style={{ background: cssOf(colour) }}
            title={`${hexOf(colour)}, ${away ? 'left out' : 'caught'}; press to forget it`}
            aria-label={`Forget ${hexOf(colour)}, ${away ? 'left out' : 'caught'}`}
            onClick={() => commit('Colour forgotten', { colours: part.colours.filter((_, k) => k !== i) })}
          >
            {away ? <Minus size={14} aria-hidden /> : <Plus size={14} aria-hidden />}
          </button>
        </li>
      ))}
    </Colours>
  );
}
