'use client';
import { shorten } from '@umbo/core/base';
import { isLayer, type MaskOwner } from '@umbo/core/document';
import { Ellipsis } from 'lucide-react';
import { useRef, useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import { AskSure, type Warning } from '@/ui/AskSure';
import { AskWords, type Question } from '@/ui/AskWords';
import { Floating } from '@/ui/controls/Floating';
import { Hint } from '@/ui/controls/Hint';
import { Menu, MenuItem, MenuSection } from '@/ui/controls/Menu';
import { FileInput } from '@/ui/FileInput';
import { request } from '@/ui/request';
import { addPart } from '../state/masks';
import { makeRegion } from '../state/regions';
import { RoundButton } from '../desk/Chips';
import { useBench, useBenchStore } from '../state/context';
import { SMALL } from './MaskHealth';
import { useKeptMasks } from './useKeptMasks';
import type { KeptMask } from '@umbo/data';
import { exportMask, importMask, keepMask, takeMask } from './maskFiles';

/** Masks kept with the shoot, and masks as files. */
export function MaskMenu({ layer }: { layer: MaskOwner }) {
  const store = useBenchStore();
  const shoot = useBench((state) => state.shoot);
  const [kept, refresh] = useKeptMasks();
  const [question, setQuestion] = useState<Question | null>(null);
  const [warning, setWarning] = useState<Warning | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const now = store.getState;
  const hasMask = layer.where.parts.length > 0;
  const forget = ({ id, name }: KeptMask): void =>
    setWarning({
      title: `Forget “${name}”?`,
      words: 'The shoot no longer has this mask; layers that took it keep theirs.',
      button: 'Forget it',
      then: () => void request('DELETE', `/api/masks/${id}`).catch((error: Error) => now().set({ notice: error.message })),
    });
  const askName = (): void =>
    setQuestion({
      title: 'Keep the mask with the shoot',
      label: 'Name',
      text: layer.name,
      button: 'Keep it',
      then: (name) => void keepMask(now, layer, name),
    });
  return (
    <>
      <MenuTrigger onOpenChange={(isOpen) => isOpen && refresh()}>
        <Hint text="Kept masks, and masks as files">
          <RoundButton aria-label="Kept masks and files">
            <Ellipsis size={13} aria-hidden />
          </RoundButton>
        </Hint>
        <Floating>
          <Menu>
            <MenuSection title="The mask">
              <MenuItem isDisabled={!hasMask} onAction={() => now().checkMask(layer.id, SMALL)}>
                Look the mask over
              </MenuItem>
              {isLayer(layer) && (
                <MenuItem isDisabled={!hasMask} onAction={() => makeRegion(now(), layer.id)}>
                  Make it a region
                </MenuItem>
              )}
            </MenuSection>
            <MenuSection title="With the shoot">
              <MenuItem isDisabled={!hasMask} onAction={askName}>
                Keep this mask…
              </MenuItem>
              {kept.map((one) => (
                <MenuItem key={`take ${one.id}`} onAction={() => void takeMask(now, layer.id, one)}>
                  Use “{one.name}”
                </MenuItem>
              ))}
              {kept.map((one) => (
                <MenuItem key={`forget ${one.id}`} onAction={() => forget(one)}>
                  Forget “{one.name}”…
                </MenuItem>
              ))}
            </MenuSection>
            <MenuSection title="As greyscale files">
              <MenuItem isDisabled={!hasMask} onAction={() => void exportMask(now, layer, 16)}>
                Export as PNG, 16 bit
              </MenuItem>
              <MenuItem isDisabled={!hasMask} onAction={() => void exportMask(now, layer, 8)}>
                Export as PNG, 8 bit
              </MenuItem>
              <MenuItem onAction={() => file.current?.click()}>Import a mask…</MenuItem>
              {shoot.masks
                .filter(({ isFound }) => !isFound)
                .map(({ id, sha256, name }) => (
                  <MenuItem
                    key={`picture ${id}`}
                    onAction={() => addPart(now(), 'picture', { photograph: sha256, name: shorten(name, 60) })}
                  >
                    Add {name}
                  </MenuItem>
                ))}
            </MenuSection>
          </Menu>
        </Floating>
      </MenuTrigger>
      <FileInput
        input={file}
        label="Mask to import"
        accept="image/png,image/tiff,image/jpeg"
        onFile={(chosen) => void importMask(now, chosen)}
      />
      <AskWords question={question} onDone={() => setQuestion(null)} />
      <AskSure warning={warning} onDone={() => setWarning(null)} />
    </>
  );
}
