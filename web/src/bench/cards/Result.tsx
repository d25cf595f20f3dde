'use client';
import { DialogTrigger, Dialog as AriaDialog, Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Picture } from '../desk/Thumbnails';
import { ending } from './CardFace';
import { setStackStrength } from '../state/actions';
import { useBench } from '../state/context';
import { ShareSlider } from '../desk/ShareSlider';

const Face = styled(AriaButton)`
  ${ending}
  width: 142px;
  &[data-hovered] {
    background: var(--well);
  }
`;
const Box = styled(AriaDialog)`
  width: 320px;
  padding: 10px 12px;
  font-size: 12px;
  line-height: 16px;
  outline: none;
`;

/** What comes of all layers, and how much of them together is seen. */
export function Result() {
  const picture = useBench((state) => state.thumbnails.result);
  const share = useBench(({ document }) => document.strength ?? 1);
  const percent = Math.round(share * 100);
  return (
    <DialogTrigger>
      <Hint text="Strength of the whole edit">
        <Face aria-label={`Strength of the whole edit, ${percent} %`}>
          <Picture picture={picture} />
          <b>Result</b>
          <span>whole edit {percent} %</span>
        </Face>
      </Hint>
      <Floating>
        <Box aria-label="Strength of the whole edit">
          <ShareSlider label="Whole edit" value={share} words={(percent) => `Whole edit ${percent}`} recipe={setStackStrength} />
        </Box>
      </Floating>
    </DialogTrigger>
  );
}
