'use client';
import { percent } from '@umbo/core/base';
import { ChevronUp, Trash2, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import { DialogTrigger, Heading } from 'react-aria-components';
import styled from 'styled-components';
import { INTENTS } from '@/profiles/intents';
import { fetchGamut } from '@/profiles/proofTables';
import { DISPLAYS, useProfiles } from '@/profiles/useProfiles';
import { FileInput } from '@/ui/FileInput';
import { Button, IconButton } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Num } from '@/ui/controls/Num';
import { Select } from '@/ui/controls/Select';
import { Slider } from '@/ui/controls/Slider';
import { Switch } from '@/ui/controls/Switch';
import type { ProofChoice } from '../workers/protocol';
import { FooterBox, FooterOpener } from './footerParts';
import type { BenchState } from './state/benchState';
import { useBench, useBenchStore } from './state/context';
import { addOnTop } from './state/measuring';

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  > :first-child {
    flex: 1;
    min-width: 0;
  }
`;
const Actions = styled.div`
  display: flex;
  justify-content: flex-end;
  gap: 6px;
`;
const FIRST: ProofChoice = { profile: DISPLAYS[0][0], intent: 'relative', black: true, paper: false, warnFrom: 3 };

/** Adds the layer that takes from what is out of gamut as much as it has to give, and says what is left. */
async function bringIntoGamut(now: () => BenchState, { profile, warnFrom }: ProofChoice, name: string): Promise<void> {
  try {
    const gamut = await fetchGamut(profile, name, now().committed.workingSpace);
    const found = await now().measure({ kind: 'intoGamut', settings: { gamut, from: warnFrom ?? FIRST.warnFrom! } }, null);
    if (found.full === null)
      return now().set({
        notice: found.before === 0 ? `Nothing is out of ${name}.` : `What is out of ${name} cannot be brought in by less colour.`,
      });
    addOnTop(now(), 'intoGamut', found, `Bring into ${name}`);
    const left = found.after === 0 ? 'nothing is now' : `${percent(found.after)} still are`;
    now().set({
      notice: `${percent(found.before)} were out of ${name}, ${left}: saturation ${found.saturation} %, lightness ${found.lightness} %${found.steps > 1 ? `, ${found.steps} times` : ''}.`,
    });
  } catch (error) {
    now().set({ notice: (error as Error).message });
  }
}

/** Shows the picture as a press or another display would, and what of it they do not hold. */
export function Proof() {
  const store = useBenchStore();
  const proof = useBench((state) => state.look.proof);
  const out = useBench((state) => state.outOfGamut);
  const shootId = useBench((state) => state.shoot.id);
  const kept = useBench((state) => state.proofChoice);
  const profiles = useProfiles(shootId);
  const [isBringing, setBringing] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const list = profiles.list ?? [];
  const choice = proof ?? kept ?? { ...FIRST, profile: list[0] ? String(list[0].id) : FIRST.profile };
  const show = (next: ProofChoice | null): void => {
    if (next) store.getState().set({ proofChoice: next });
    store.getState().setLook({ proof: next });
  };
  const change = (values: Partial<ProofChoice>): void => show({ ...choice, ...values });
  const choices = [...list.map(({ id, name }) => [String(id), name] as const), ...DISPLAYS];
  const nameOf = (id: string): string => choices.find(([one]) => one === id)?.[1] ?? 'a profile that is gone';
  const add = async (file: File): Promise<void> => {
    const added = await profiles.add(file);
    if (added) change({ profile: String(added.id) });
  };
  return (
    <>
      <DialogTrigger>
        <FooterOpener aria-label={proof ? `Proof: ${nameOf(proof.profile)}` : 'Proof: off'}>
          {proof ? `Proof: ${nameOf(proof.profile)}` : 'Proof'} <ChevronUp size={12} strokeWidth={1.75} aria-hidden />
        </FooterOpener>
        <Floating placement="top start">
          <FooterBox>
            <Row>
              <Heading slot="title" level={3}>
                Soft proof
              </Heading>
              <Switch value={proof !== null} onChange={(on) => show(on ? choice : null)}>
                Shown
              </Switch>
            </Row>
            <ProfileRow
              {...{ choices, profile: choice.profile, name: nameOf(choice.profile) }}
              onChange={(profile) => change({ profile })}
              onAdd={() => picker.current?.click()}
              onTake={() => {
                void profiles.remove(Number(choice.profile));
                store.getState().set({ proofChoice: null });
                store.getState().setLook({ proof: null });
              }}
            />
            {profiles.problem && <p role="alert">{profiles.problem}</p>}
            <Choice label="Rendering intent" value={choice.intent} options={INTENTS} onChange={(intent) => change({ intent })} />
            <Switch value={choice.black} onChange={(black) => change({ black })}>
              Black becomes the darkest there is
            </Switch>
            <Switch value={choice.paper} onChange={(paper) => change({ paper })}>
              White as the paper is
            </Switch>
            <Switch value={choice.warnFrom !== null} onChange={(on) => change({ warnFrom: on ? FIRST.warnFrom : null })}>
              Outline what is out of gamut
            </Switch>
            {choice.warnFrom !== null && (
              <Slider
                label="From"
                value={choice.warnFrom}
                min={1}
                max={10}
                step={0.5}
                neutral={3}
                unit="ΔE"
                onPreview={() => undefined}
                onCommit={(warnFrom) => change({ warnFrom })}
              />
            )}
            {proof && (
              <Actions>
                <Button onPress={() => void store.getState().compareWith('before', 'unproofed')}>Compare without the proof</Button>
                <Button
                  onPress={() => {
                    if (isBringing) return;
                    setBringing(true);
                    void bringIntoGamut(store.getState, proof, nameOf(proof.profile)).finally(() => setBringing(false));
                  }}
                >
                  Bring into gamut
                </Button>
              </Actions>
            )}
          </FooterBox>
        </Floating>
      </DialogTrigger>
      <FileInput input={picker} label="An ICC profile" accept=".icc,.icm" onFile={(file) => void add(file)} />
      {proof && out && (
        <Num role="status" title="Of what is on the stage">
          {out.share === 0 ? 'nothing out of gamut' : `${percent(out.share)} out, up to ΔE ${out.most.toFixed(0)}`}
        </Num>
      )}
    </>
  );
}

interface ProfileRowProps {
  choices: readonly (readonly [string, string])[];
  profile: string;
  /** Of the profile. */
  name: string;
  onChange: (profile: string) => void;
  onAdd: () => void;
  onTake: () => void;
}

function ProfileRow({ choices, profile, name, onChange, onAdd, onTake }: ProfileRowProps) {
  return (
    <Row>
      <Select label="Profile" hideLabel value={profile} options={choices} onChange={onChange} />
      <Hint text="Add an ICC profile to the shoot">
        <IconButton aria-label="Add an ICC profile" onPress={onAdd}>
          <Upload size={14} strokeWidth={1.5} />
        </IconButton>
      </Hint>
      <Hint text="Take this profile from the shoot">
        <IconButton aria-label={`Take ${name} from the shoot`} isDisabled={DISPLAYS.some(([id]) => id === profile)} onPress={onTake}>
          <Trash2 size={14} strokeWidth={1.5} />
        </IconButton>
      </Hint>
    </Row>
  );
}
