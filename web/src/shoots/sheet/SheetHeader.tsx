'use client';
import { ImagePlus, MoreHorizontal } from 'lucide-react';
import { FileTrigger, MenuTrigger } from 'react-aria-components';
import { Button, IconButton, LinkButton } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem } from '@/ui/controls/Menu';
import { Header } from '@/ui/Header';

const ACCEPTED = ['image/jpeg', 'image/png', 'image/tiff', 'image/webp', 'image/avif'];

interface Props {
  shoot: { id: number; name: string; removed: number };
  photographs: number;
  onAdd: (files: File[]) => void;
  onFind: () => void;
  onColours: () => void;
  onCarried: () => void;
  onBin: () => void;
  onRename: () => void;
  onRemove: () => void;
}

/** Where one is, and what is done with a whole shoot. */
export function SheetHeader({ shoot, photographs, onAdd, ...actions }: Props) {
  return (
    <Header
      crumbs={[
        ['Shoots', '/'],
        [shoot.name, `/shoots/${shoot.id}`],
      ]}
    >
      <LinkButton href={`/treatments?shoot=${shoot.id}`}>Treatments</LinkButton>
      <LinkButton href="/hand-over">Hand-over</LinkButton>
      <FileTrigger allowsMultiple acceptedFileTypes={ACCEPTED} onSelect={(files) => files && onAdd([...files])}>
        <Button $primary>
          <ImagePlus size={15} strokeWidth={1.5} aria-hidden /> Add photographs
        </Button>
      </FileTrigger>
      <MenuTrigger>
        <IconButton aria-label={`More about ${shoot.name}`}>
          <MoreHorizontal size={15} />
        </IconButton>
        <Floating>
          <Menu>
            <MenuItem isDisabled={photographs === 0} onAction={actions.onFind}>
              Find regions in all photographs
            </MenuItem>
            <MenuItem isDisabled={photographs < 2} onAction={actions.onColours}>
              Compare colours
            </MenuItem>
            <MenuItem onAction={actions.onCarried}>What was carried</MenuItem>
            <MenuItem onAction={actions.onBin}>Bin{shoot.removed > 0 ? ` (${shoot.removed})` : ''}…</MenuItem>
            <MenuItem onAction={actions.onRename}>Rename the shoot…</MenuItem>
            <MenuItem onAction={actions.onRemove}>Remove the shoot…</MenuItem>
          </Menu>
        </Floating>
      </MenuTrigger>
    </Header>
  );
}
