'use client';
import type { ShootSummary } from '@umbo/data';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { FolderPlus } from 'lucide-react';
import styled from 'styled-components';
import { Button, LinkButton } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { TextField } from '@/ui/controls/TextField';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import { requestOnce } from '@/ui/request';
import { DropArea } from './DropArea';
import { ImportPanel } from './ImportPanel';
import { useImports } from './imports';
import { PreviewPicture } from './PreviewPicture';

const Page = styled.main`
  padding: 26px 24px 60px;
  max-width: 1320px;
  width: 100%;
`;
const Title = styled.div`
  display: flex;
  align-items: baseline;
  gap: 16px;
  margin-bottom: 22px;
  h1 {
    font: 650 26px/32px var(--sans);
    letter-spacing: -0.015em;
  }
  span {
    color: var(--ink2);
  }
`;
const Grid = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 24px;
`;
const Card = styled(Link)`
  display: block;
  text-decoration: none;
  border-radius: var(--radius);
  .cover {
    display: grid;
    grid-template-columns: 2fr 1fr;
    grid-template-rows: repeat(3, 1fr);
    gap: 2px;
    aspect-ratio: 3 / 2;
    background: var(--stage);
    border-radius: var(--radius);
    overflow: hidden;
    border: 1px solid var(--edge);
  }
  .cover img {
    width: 100%;
    height: 100%;
    object-fit: cover;
    min-height: 0;
    display: block;
  }
  .cover > span {
    min-height: 0;
  }
  .cover > span:first-child {
    grid-row: 1 / 4;
  }
  .cover.one > span:first-child {
    grid-column: 1 / 3;
  }
  .cover.none {
    color: #fff;
    display: grid;
    place-items: center;
  }
  .words {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    padding: 8px 1px 0;
  }
  b {
    font-weight: 650;
  }
  span {
    color: var(--ink2);
  }
  &:hover b {
    text-decoration: underline;
  }
`;

const count = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;

/** All shoots. */
export function Shoots({ database, shoots }: { database: string; shoots: ShootSummary[] }) {
  const router = useRouter();
  const add = useImports((state) => state.add);
  const [name, setName] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  const create = async (shootName: string): Promise<number | null> => {
    try {
      return (await requestOnce<{ id: number }>('/api/shoots', { name: shootName.trim() })).id;
    } catch (error) {
      setProblem((error as Error).message);
      return null;
    }
  };
  const begin = async (): Promise<void> => {
    const id = await create(name!);
    if (id !== null) router.push(`/shoots/${id}`);
  };
  const drop = async (files: File[]): Promise<void> => {
    const id = await create(`Shoot of ${new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })}`);
    if (id === null) return;
    add(id, files);
    router.push(`/shoots/${id}`);
  };

  return (
    <DropArea words="Drop photographs to begin a new shoot" onFiles={(files) => void drop(files)}>
      <Header crumbs={[['Shoots', '/']]}>
        <LinkButton href="/treatments">Treatments</LinkButton>
        <LinkButton href="/hand-over">Hand-over</LinkButton>
        <Button
          $primary
          onPress={() => {
            setProblem(null);
            setName('');
          }}
        >
          <FolderPlus size={15} strokeWidth={1.5} aria-hidden /> New shoot
        </Button>
      </Header>
      <Page>
        <Title>
          <h1>Shoots</h1>
          <span>
            {count(
              shoots.reduce((sum, shoot) => sum + shoot.photographs, 0),
              'photograph',
            )}{' '}
            · drop files anywhere to begin a new shoot
          </span>
        </Title>
        {problem && name === null && <p role="alert">{problem}</p>}
        {shoots.length === 0 ? (
          <Message title="No shoot yet">
            <p>Drop photographs here, or begin an empty shoot with “New shoot”.</p>
          </Message>
        ) : (
          <Grid>
            {shoots.map((shoot) => (
              <li key={shoot.id}>
                <ShootCard database={database} shoot={shoot} />
              </li>
            ))}
          </Grid>
        )}
      </Page>
      <ImportPanel />
      <Dialog title="New shoot" isOpen={name !== null} onClose={() => setName(null)}>
        <form
          style={{ display: 'grid', gap: 14 }}
          onSubmit={(event) => {
            event.preventDefault();
            void begin();
          }}
        >
          <TextField label="Name" value={name ?? ''} onChange={setName} autoFocus />
          {problem && <p role="alert">{problem}</p>}
          <DialogActions>
            <Button onPress={() => setName(null)}>Cancel</Button>
            <Button $primary type="submit" isDisabled={!name?.trim()}>
              Begin
            </Button>
          </DialogActions>
        </form>
      </Dialog>
    </DropArea>
  );
}

function ShootCard({ database, shoot }: { database: string; shoot: ShootSummary }) {
  return (
    <Card href={`/shoots/${shoot.id}`}>
      <div className={`cover ${shoot.cover.length === 0 ? 'none' : shoot.cover.length < 4 ? 'one' : ''}`}>
        {shoot.cover.length === 0
          ? 'No photographs yet'
          : shoot.cover
              .slice(0, shoot.cover.length < 4 ? 1 : 4)
              .map(({ id, revision }) => <PreviewPicture key={id} database={database} id={id} revision={revision} />)}
      </div>
      <div className="words">
        <b>{shoot.name}</b>
        <span>
          {count(shoot.photographs, 'photograph')}
          {shoot.inWork > 0 && ` · ${shoot.inWork} in work`}
          {shoot.done > 0 && ` · ${shoot.done} done`}
        </span>
      </div>
    </Card>
  );
}
