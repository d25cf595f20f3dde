'use client';
import { AlertTriangle } from 'lucide-react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { saveFile } from '@/ui/saveFile';
import { useBench, useBenchStore } from './state/context';

const List = styled(Dialog)`
  width: 340px;
  padding: 10px 12px;
  outline: none;
  font-size: 12px;
  line-height: 16px;
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    max-height: 50vh;
    overflow-y: auto;
  }
  li {
    padding: 8px 0;
    border-top: 1px solid var(--line);
  }
  p {
    margin: 0 0 6px;
  }
  li > div {
    display: flex;
    gap: 6px;
  }
`;

/** Changes that the server refused: each can be saved as a file. Nothing where there are none. */
export function SetAside() {
  const store = useBenchStore();
  const asides = useBench((state) => state.asides);
  const name = useBench((state) => state.photograph.name);
  if (asides.length === 0) return null;
  return (
    <DialogTrigger>
      <Button>
        <AlertTriangle size={13} strokeWidth={1.75} aria-hidden />
        {asides.length === 1 ? '1 change set aside' : `${asides.length} changes set aside`}
      </Button>
      <Floating placement="top end">
        <List aria-label="Changes set aside">
          <p>These could not be kept. Everything before and after them is kept.</p>
          <ul>
            {asides.map(({ id, label, reason, document }) => (
              <li key={id}>
                <p>
                  <b>{label}</b>: {reason}
                </p>
                <div>
                  <Button
                    onPress={() =>
                      saveFile(
                        `${name.replace(/\.[^.]+$/, '')}, set aside.umbo.json`,
                        JSON.stringify(document, null, 1),
                        'application/json',
                      )
                    }
                  >
                    Save the edit with it
                  </Button>
                  <Button onPress={() => void store.getState().forget(id)}>Let go of it</Button>
                </div>
              </li>
            ))}
          </ul>
        </List>
      </Floating>
    </DialogTrigger>
  );
}
