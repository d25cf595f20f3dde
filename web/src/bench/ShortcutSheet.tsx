'use client';
import { useState } from 'react';
import styled from 'styled-components';
import { Dialog } from '@/ui/controls/Dialog';
import { TextField } from '@/ui/controls/TextField';
import { shortcuts, showKeys } from './shortcuts';

const Table = styled.dl`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 5px 20px;
  margin: 0;
  max-height: 52vh;
  overflow: auto;
  font-size: 12px;
  line-height: 18px;
  h3 {
    grid-column: 1 / 3;
    font: 650 12px/18px var(--sans);
    margin-top: 8px;
    border-bottom: 1px solid var(--line);
  }
  dd {
    margin: 0;
  }
  dt {
    text-align: right;
  }
  kbd {
    font: 400 11px/16px var(--mono);
    border: 1px solid var(--edge);
    border-radius: var(--radius);
    padding: 0 6px;
    background: var(--raised);
  }
`;

/** All keys, searchable. */
export function ShortcutSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const [search, setSearch] = useState('');
  const found = shortcuts.filter(({ words, keys, group }) =>
    `${words} ${showKeys(keys)} ${group}`.toLowerCase().includes(search.toLowerCase()),
  );
  const groups = [...new Set(found.map(({ group }) => group))];
  return (
    <Dialog title="Keys" isOpen={isOpen} onClose={onClose}>
      <TextField label="Search" value={search} onChange={setSearch} autoFocus />
      {found.length === 0 && <p>No key does that.</p>}
      <Table>
        {groups.map((group) => (
          <div key={group} style={{ display: 'contents' }}>
            <h3>{group}</h3>
            {found
              .filter((shortcut) => shortcut.group === group)
              .map(({ keys, words }) => (
                <div key={keys} style={{ display: 'contents' }}>
                  <dd>{words}</dd>
                  <dt>
                    <kbd>{showKeys(keys)}</kbd>
                  </dt>
                </div>
              ))}
          </div>
        ))}
      </Table>
      <p style={{ color: 'var(--ink2)', fontSize: 12, lineHeight: '16px' }}>
        Sliders: arrows, with Shift in big steps, with Alt in fine ones; double-click to reset; type a number or a sum.
      </p>
    </Dialog>
  );
}
