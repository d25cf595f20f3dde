'use client';
import type { OutOfGamutPart } from '@umbo/core/mask';
import { fetchGamut } from '@/profiles/proofTables';
import { DISPLAYS, useProfiles } from '@/profiles/useProfiles';
import { LabelledLine } from '@/ui/controls/LabelledLine';
import { Select } from '@/ui/controls/Select';
import { useBench, useBenchStore } from '../../state/context';
import type { PartProps } from '../partProps';

const PRINT = 'print';
/** A profile that the edit holds, and the shoot does not. */
const HELD = 'held';

/** Out of what: of print in general, of a profile of the shoot, or of a plain display. */
export function OutOfGamutEditor({ part, commit }: PartProps<OutOfGamutPart>) {
  const store = useBenchStore();
  const { list, problem } = useProfiles(useBench((state) => state.shoot.id));
  const profiles = [...(list ?? []).map(({ id, name }) => [String(id), name] as const), ...DISPLAYS];
  const { gamut } = part;
  const known = profiles.find(([, name]) => name === gamut?.name)?.[0];
  const choose = async (id: string): Promise<void> => {
    if (id === HELD) return;
    const name = profiles.find(([one]) => one === id)?.[1];
    if (name === undefined) return commit('Out of print gamut', { gamut: undefined });
    try {
      commit(`Out of ${name}`, { gamut: await fetchGamut(id, name, store.getState().committed.workingSpace) });
    } catch (error) {
      store.getState().set({ notice: (error as Error).message });
    }
  };
  return (
    <>
      <LabelledLine>
        Out of
        <Select
          label="Out of"
          hideLabel
          value={gamut ? (known ?? HELD) : PRINT}
          options={[[PRINT, 'print in general'], ...profiles, ...(gamut && !known ? [[HELD, gamut.name] as const] : [])]}
          onChange={(id) => void choose(id)}
        />
      </LabelledLine>
      {problem && <p role="alert">{problem}</p>}
    </>
  );
}
