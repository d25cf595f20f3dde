'use client';
import type { PhotographSummary, ShootSummary } from '@umbo/data';
import { useEffect, useState } from 'react';
import { Menu, MenuItem, MenuLine, MenuSection } from '@/ui/controls/Menu';
import { request } from '@/ui/request';
import type { Changes } from './useChanges';

interface Props {
  photographs: readonly PhotographSummary[];
  shootId: number;
  changes: Changes;
  onOpen: () => void;
  onHandOver: () => void;
  onFind: () => void;
  onCompare: () => void;
  onTreat: () => void;
  onCarryFrom: () => void;
  onCarryTo: () => void;
  onRename: () => void;
  onRemoved: () => void;
}

/** Everything that is done with photographs of a sheet. */
export function ActionsMenu({
  photographs,
  shootId,
  changes,
  onOpen,
  onHandOver,
  onFind,
  onCompare,
  onTreat,
  onCarryFrom,
  onCarryTo,
  onRename,
  onRemoved,
}: Props) {
  const [shoots, setShoots] = useState<readonly ShootSummary[]>([]);
  useEffect(() => {
    // Without the list everything else is there.
    request<ShootSummary[]>('GET', '/api/shoots').then(setShoots, () => undefined);
  }, []);
  const others = shoots.filter(({ id }) => id !== shootId);
  const sheet = (as: 'pdf' | 'picture'): string => `/api/shoots/${shootId}/sheet?as=${as}&of=${photographs.map(({ id }) => id).join(',')}`;
  const act = (key: string): void => {
    const shoot = others.find(({ id }) => key === `move ${id}`);
    if (shoot) void changes.move(photographs, shoot).then(onRemoved);
    else if (key === 'open') onOpen();
    else if (key === 'hand over') onHandOver();
    else if (key === 'find') onFind();
    else if (key === 'compare') onCompare();
    else if (key === 'treat') onTreat();
    else if (key === 'carry from') onCarryFrom();
    else if (key === 'carry to') onCarryTo();
    else if (key === 'rename') onRename();
    else if (key === 'remove') void changes.remove(photographs).then(onRemoved);
    else if (key === 'untouched' || key === 'in work' || key === 'done') void changes.mark(photographs, key);
  };
  const are = (state: PhotographSummary['state']): boolean => photographs.every((one) => one.state === state);
  return (
    <Menu onAction={(key) => act(String(key))}>
      <MenuItem id="open">Open</MenuItem>
      <MenuItem id="untouched" isDisabled={are('untouched')}>
        Mark as untouched
      </MenuItem>
      <MenuItem id="in work" isDisabled={are('in work')}>
        Mark as in work
      </MenuItem>
      <MenuItem id="done" isDisabled={are('done')}>
        Mark as done
      </MenuItem>
      <MenuItem id="hand over">Hand over…</MenuItem>
      <MenuSection title="A sheet of them">
        <MenuItem id="pdf" href={sheet('pdf')} download>
          As PDF
        </MenuItem>
        <MenuItem id="picture" href={sheet('picture')} download>
          As a picture
        </MenuItem>
      </MenuSection>
      <MenuItem id="find">Find regions</MenuItem>
      {photographs.length === 1 && <MenuItem id="carry from">Carry its edit to others…</MenuItem>}
      {photographs.length > 1 && <MenuItem id="compare">Compare colours</MenuItem>}
      <MenuItem id="treat">Try treatments</MenuItem>
      <MenuItem id="carry to">{photographs.length === 1 ? 'Carry an edit to it…' : 'Carry an edit to them…'}</MenuItem>
      <MenuItem id="rename" isDisabled={photographs.length !== 1}>
        Rename…
      </MenuItem>
      {others.length > 0 ? (
        <MenuSection title="Move to">
          {others.map(({ id, name }) => (
            <MenuItem key={id} id={`move ${id}`}>
              {name}
            </MenuItem>
          ))}
        </MenuSection>
      ) : null}
      <MenuLine />
      <MenuItem id="remove">Remove</MenuItem>
    </Menu>
  );
}
