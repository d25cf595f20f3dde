'use client';
import { DialogTrigger, Dialog as AriaDialog, Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Num } from '@/ui/controls/Num';
import { setStackStrength } from '../state/actions';
import { useBench } from '../state/context';
import { ShareSlider } from '../desk/ShareSlider';

const Face = styled(AriaButton)`
  width: 46px;
  height: var(--card);
  flex: none;
  margin-left: 4px;
  padding: 0;
  border: 0;
  border-radius: var(--radius);
  background: none;
  color: var(--ink2);
  &[data-hovered] {
    background: var(--raised);
    color: var(--ink);
  }
`;
const Box = styled(AriaDialog)`
  width: 320px;
  padding: 10px 12px;
  font-size: 12px;
  line-height: 16px;
  outline: none;
`;

/** How much of all layers together is seen. */
export function StackStrength() {
  const share = useBench(({ document }) => document.strength ?? 1);
  const percent = Math.round(share * 100);
  return (
    <DialogTrigger>
      <Hint text="Strength of the whole stack">
        <Face aria-label={`Strength of the whole stack, ${percent} %`}>
          <Num>{percent} %</Num>
        </Face>
      </Hint>
      <Floating>
        <Box aria-label="Strength of the whole stack">
          <ShareSlider label="Whole stack" value={share} words={(percent) => `Whole stack ${percent}`} recipe={setStackStrength} />
        </Box>
      </Floating>
    </DialogTrigger>
  );
}
