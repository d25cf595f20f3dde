'use client';
import { onMaskOwner, type MaskOwner, type Recipe } from '@umbo/core/document';
import { refineKind, refineKinds, type Mask, type RefineStep } from '@umbo/core/mask';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { IconButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Menu, MenuItem, MenuLine } from '@/ui/controls/Menu';
import { Switch } from '@/ui/controls/Switch';
import { Slider } from '@/ui/controls/Slider';
import { AddMenu, Chip, Chips } from '../desk/Chips';
import { useBenchStore } from '../state/context';
import { Settings } from '../desk/Settings';

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 28px;
`;

const First = styled.div`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px;
  align-items: center;
`;

interface Refined {
  layer: MaskOwner;
  /** What the first slider is called: of the whole mask, or of a part's own. */
  label?: string;
  /** Whose steps they are, and where it stands in a layer's mask. */
  mask: Mask;
  find: (where: Mask) => Mask | undefined;
}

const onSteps = ({ layer, find }: Pick<Refined, 'layer' | 'find'>, change: (steps: RefineStep[]) => void): Recipe =>
  onMaskOwner(layer.id, ({ where }) => {
    const mask = find(where);
    if (mask) change(mask.refine);
  });

/** What is done to the combined mask, step by step. Without any step, the one that is wanted most is at hand. */
export function RefineEditor({ layer, label = 'Feather', mask, find }: Refined) {
  const store = useBenchStore();
  const [chosen, setChosen] = useState(0);
  const { refine } = mask;
  const index = Math.min(chosen, refine.length - 1);
  const step = refine[index];
  const commit = (words: string, change: (steps: RefineStep[]) => void): void =>
    void store.getState().commit(`${words} on ${layer.name}`, onSteps({ layer, find }, change));
  const add = (kind: RefineStep['kind']): void => {
    commit(refineKind(kind).name, (steps) => void steps.push({ ...refineKind(kind).create() }));
    setChosen(refine.length);
  };
  const move = (by: -1 | 1): void => {
    commit(`${refineKind(step!.kind).name} ${by < 0 ? 'earlier' : 'later'}`, (steps) => {
      const [moved] = steps.splice(index, 1);
      steps.splice(index + by, 0, moved!);
    });
    setChosen(index + by);
  };
  return (
    <div role="group" aria-label={label === 'Feather' ? 'Refine' : 'Refine the part'}>
      {refine.length === 0 ? (
        <First>
          <FirstFeather layer={layer} label={label} find={find} />
          <AddMenu label="refine" kinds={refineKinds} onAdd={add} />
        </First>
      ) : (
        <Chips>
          {refine.map((item, i) => (
            <Chip key={i} aria-pressed={i === index} data-off={item.off === true} onClick={() => setChosen(i)}>
              {refineKind(item.kind).name}
            </Chip>
          ))}
          <AddMenu label="refine" kinds={refineKinds} onAdd={add} />
        </Chips>
      )}
      {step && (
        <>
          <Settings
            settings={step}
            defaults={refineKind(step.kind).create()}
            schema={refineKind(step.kind).schema}
            controls={refineKind(step.kind).controls}
            preview={(values) => store.getState().preview(onSteps({ layer, find }, (steps) => void Object.assign(steps[index]!, values)))}
            commit={(words, values) => commit(words, (steps) => void Object.assign(steps[index]!, values))}
          />
          <Line>
            <Switch
              value={step.off !== true}
              onChange={(on) =>
                commit(`${refineKind(step.kind).name} switched ${on ? 'on' : 'off'}`, (steps) => {
                  if (on) delete steps[index]!.off;
                  else steps[index]!.off = true;
                })
              }
            >
              On
            </Switch>
            <span style={{ flex: 1 }} />
            <MenuTrigger>
              <Hint text="More for this step">
                <IconButton aria-label="More for this step">
                  <Ellipsis size={14} strokeWidth={1.5} />
                </IconButton>
              </Hint>
              <Floating>
                <Menu
                  disabledKeys={[...(index === 0 ? ['earlier'] : []), ...(index === refine.length - 1 ? ['later'] : [])]}
                  onAction={(key) => {
                    if (key === 'remove') commit(`${refineKind(step.kind).name} removed`, (steps) => void steps.splice(index, 1));
                    else move(key === 'earlier' ? -1 : 1);
                  }}
                >
                  <MenuItem id="earlier">Earlier</MenuItem>
                  <MenuItem id="later">Later</MenuItem>
                  <MenuLine />
                  <MenuItem id="remove">Remove</MenuItem>
                </Menu>
              </Floating>
            </MenuTrigger>
          </Line>
        </>
      )}
    </div>
  );
}

function FirstFeather({ layer, label, find }: Omit<Refined, 'mask' | 'label'> & { label: string }) {
  const store = useBenchStore();
  const feather = (radius: number) =>
    onSteps({ layer, find }, (steps) => {
      const step = steps.find(({ kind }) => kind === 'feather');
      if (step?.kind === 'feather') step.radius = radius;
      else steps.push({ kind: 'feather', radius });
    });
  return (
    <Slider
      label={label}
      value={0}
      min={0}
      max={300}
      step={1}
      neutral={0}
      unit="px"
      onPreview={(v) => store.getState().preview(feather(v))}
      onCommit={(v) => store.getState().commit(`Feather ${Number(v.toFixed(1))} px on ${layer.name}`, feather(v))}
    />
  );
}
