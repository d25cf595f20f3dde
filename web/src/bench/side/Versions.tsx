'use client';
import { replaceWith, type UmboDocument } from '@umbo/core/document';
import { MoreHorizontal } from 'lucide-react';
import { useEffect, useState } from 'react';
import { MenuTrigger } from 'react-aria-components';
import styled from 'styled-components';
import type { VersionSummary } from '@umbo/data';
import { AskSure, type Warning } from '@/ui/AskSure';
import { AskWords, type Question } from '@/ui/AskWords';
import { BareButton, Button } from '@/ui/controls/Button';
import { Floating } from '@/ui/controls/Floating';
import { Menu, MenuItem } from '@/ui/controls/Menu';
import { request, requestOnce } from '@/ui/request';
import { useBench, useBenchStore } from '../state/context';
import { SideList } from './SideList';

const List = styled(SideList)`
  li {
    display: flex;
    align-items: center;
    padding: 0 6px 0 14px;
    min-height: 28px;
    border-bottom: 1px solid var(--line);
  }
  span {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  li[aria-current='true'] span {
    font-weight: 650;
  }
`;

/** Named states of the edit: kept beside its history, so that nothing done later touches them. */
export function Versions() {
  const store = useBenchStore();
  const versions = useBench((state) => state.versions);
  const compared = useBench(({ look: { against } }) => (against.kind === 'told' ? against.key : null));
  const photographId = useBench((state) => state.photograph.id);
  const [question, setQuestion] = useState<Question | null>(null);
  const [warning, setWarning] = useState<Warning | null>(null);
  useEffect(() => void store.getState().refreshVersions(), [store]);

  const attempt = async (work: () => Promise<unknown>): Promise<void> => {
    try {
      await work();
    } catch (error) {
      store.getState().set({ notice: (error as Error).message });
    }
    await store.getState().refreshVersions();
  };
  const askKeep = (): void =>
    setQuestion({
      title: 'Keep a version',
      label: 'Name',
      text: `Version ${versions.length + 1}`,
      button: 'Keep',
      then: (name) =>
        void attempt(async () => {
          // What is seen must be on the server before it can be kept there.
          await store.getState().whenKept();
          return requestOnce(`/api/photographs/${photographId}/versions`, { name });
        }),
    });
  const askRename = ({ id, name: text }: VersionSummary): void =>
    setQuestion({
      title: 'Rename the version',
      label: 'Name',
      text,
      button: 'Rename',
      then: (name) => void attempt(() => request('PATCH', `/api/versions/${id}`, { name })),
    });
  const restore = ({ id, name }: VersionSummary): Promise<void> =>
    attempt(async () => {
      const { document } = await request<{ document: UmboDocument }>('GET', `/api/versions/${id}`);
      store.getState().commit(`Version ${name} restored`, replaceWith(document));
    });
  const act = (version: VersionSummary, key: string): void => {
    if (key === 'compare') void store.getState().compareWith('before', `version ${version.id}`);
    else if (key === 'restore') void restore(version);
    else if (key === 'rename') askRename(version);
    else askDelete(version);
  };
  const askDelete = ({ id, name }: VersionSummary): void =>
    setWarning({
      title: `Delete the version “${name}”?`,
      words: 'The edit itself stays as it is.',
      button: 'Delete',
      then: () => {
        if (`version ${id}` === compared) store.getState().setLook({ compare: 'after', against: { kind: 'photograph' } });
        void attempt(() => request('DELETE', `/api/versions/${id}`));
      },
    });
  return (
    <>
      <Button style={{ marginTop: 6 }} onPress={askKeep}>
        Keep a version…
      </Button>
      {versions.length === 0 && (
        <p style={{ color: 'var(--ink2)', marginTop: 6 }}>A version is a named state of the edit that nothing done later can touch.</p>
      )}
      <List aria-label="Versions">
        {versions.map((version) => (
          <li key={version.id} aria-current={`version ${version.id}` === compared}>
            <span title={`${version.name}, ${new Date(version.createdAt).toLocaleString()}`}>{version.name}</span>
            <MenuTrigger>
              <BareButton aria-label={`More about ${version.name}`}>
                <MoreHorizontal size={13} strokeWidth={1.5} />
              </BareButton>
              <Floating>
                <Menu onAction={(key) => act(version, String(key))}>
                  <MenuItem id="compare">Compare with it</MenuItem>
                  <MenuItem id="restore">Restore</MenuItem>
                  <MenuItem id="rename">Rename…</MenuItem>
                  <MenuItem id="delete">Delete…</MenuItem>
                </Menu>
              </Floating>
            </MenuTrigger>
          </li>
        ))}
      </List>
      <AskWords question={question} onDone={() => setQuestion(null)} />
      <AskSure warning={warning} onDone={() => setWarning(null)} />
    </>
  );
}
