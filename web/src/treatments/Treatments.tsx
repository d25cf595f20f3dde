'use client';
import type { TreatmentSummary } from '@umbo/data';
import { FileInput as FileIcon } from 'lucide-react';
import { useCallback, useRef, useState } from 'react';
import { Header as SectionHeader, ListBox, ListBoxItem, ListBoxSection } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '@/ui/controls/Button';
import { FileInput } from '@/ui/FileInput';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import { request } from '@/ui/request';
import { TreatmentDesk } from './TreatmentDesk';

const Page = styled.main`
  display: grid;
  grid-template-columns: 264px minmax(0, 1fr);
  min-height: calc(100vh - 44px);
  font-size: 12px;
  line-height: 16px;
`;
const List = styled(ListBox)`
  border-right: 1px solid var(--line);
  padding: 10px 0;
  outline: none;
  header {
    padding: 10px 24px 4px;
    font-weight: 650;
    color: var(--ink2);
  }
` as typeof ListBox;
const Item = styled(ListBoxItem)`
  padding: 6px 24px;
  cursor: default;
  outline: none;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  &[data-hovered] {
    background: var(--well);
  }
  &[data-selected] {
    background: var(--ink);
    color: var(--on-ink);
  }
  &[data-focus-visible] {
    box-shadow: inset 0 0 0 2px var(--edge);
  }
`;

interface Props {
  initial: readonly TreatmentSummary[];
  database: string;
  shoots: readonly { id: number; name: string }[];
  /** The shoot that they are tried on; null: there is none. */
  shootId: number | null;
  /** The photographs of it that are meant; none: all. */
  of: readonly number[];
  /** The treatment that is shown first. */
  show: string;
}

/** Ways of working that are kept: what each does, where it is used, and what would come of it. */
export function Treatments({ initial, database, shoots, shootId, of, show }: Props) {
  const [list, setList] = useState(initial);
  const [shown, setShown] = useState(list.find(({ id }) => id === show)?.id ?? list[0]?.id ?? null);
  const [problem, setProblem] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const refresh = useCallback(async (): Promise<readonly TreatmentSummary[]> => {
    const next = await request<TreatmentSummary[]>('GET', '/api/treatments');
    setList(next);
    return next;
  }, []);
  const open = async (file: File): Promise<void> => {
    setProblem(null);
    try {
      let content: unknown;
      try {
        content = JSON.parse(await file.text());
      } catch {
        throw new Error(`“${file.name}” is not a file of a treatment.`);
      }
      const { id } = await request<{ id: string }>('POST', '/api/treatments/file', { key: crypto.randomUUID(), file: content });
      await refresh();
      setShown(id);
    } catch (error) {
      setProblem(`“${file.name}” was not opened. ${(error as Error).message}`);
    }
  };
  const named = shoots.find(({ id }) => id === shootId);
  const own = list.filter(({ isStarter }) => !isStarter);
  const starters = list.filter(({ isStarter }) => isStarter);
  const current = list.find(({ id }) => id === shown) ?? list[0];
  return (
    <>
      <Header crumbs={[['Shoots', '/'], ...(named ? [[named.name, `/shoots/${named.id}`] as const] : []), ['Treatments', '/treatments']]}>
        <FileInput input={input} label="A treatment’s file" accept=".json,application/json" onFile={(file) => void open(file)} />
        <Button onPress={() => input.current?.click()}>
          <FileIcon size={14} strokeWidth={1.5} aria-hidden /> Open a file…
        </Button>
      </Header>
      <Page>
        <List
          aria-label="Treatments"
          selectionMode="single"
          disallowEmptySelection
          selectedKeys={current ? [current.id] : []}
          onSelectionChange={(keys) => keys !== 'all' && setShown(String([...keys][0]))}
        >
          {own.length > 0 && (
            <ListBoxSection>
              <SectionHeader>Our own</SectionHeader>
              {own.map(({ id, name }) => (
                <Item key={id} id={id} textValue={name}>
                  {name}
                </Item>
              ))}
            </ListBoxSection>
          )}
          <ListBoxSection>
            <SectionHeader>To begin with</SectionHeader>
            {starters.map(({ id, name }) => (
              <Item key={id} id={id} textValue={name}>
                {name}
              </Item>
            ))}
          </ListBoxSection>
        </List>
        <div>
          {problem && <p role="alert">{problem}</p>}
          {current ? (
            <TreatmentDesk
              key={current.id}
              summary={current}
              database={database}
              shoots={shoots}
              shootId={shootId}
              of={of}
              onChanged={() => void refresh().catch((error: Error) => setProblem(error.message))}
            />
          ) : (
            <Message title="There is no treatment yet">
              <p>Select layers on the bench and choose “Save as a treatment…” in a card’s menu.</p>
            </Message>
          )}
        </div>
      </Page>
    </>
  );
}
