'use client';
import type { PhotographSummary } from '@umbo/data';
import { GridList, GridListItem, ListLayout, Virtualizer, type Selection } from 'react-aria-components';
import styled from 'styled-components';
import { PreviewPicture } from '@/shoots/PreviewPicture';
import { Button } from '@/ui/controls/Button';

const Targets = styled(GridList)`
  height: 318px;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  background: var(--raised);
  outline: none;
` as typeof GridList;
const Target = styled(GridListItem)`
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  height: 44px;
  padding: 0 10px 0 4px;
  cursor: default;
  outline: none;
  border-bottom: 1px solid var(--line);
  > span:first-child {
    display: grid;
    height: 38px;
    overflow: hidden;
    background: var(--well);
  }
  img {
    width: 56px;
    height: 38px;
    object-fit: cover;
  }
  b {
    font-weight: 400;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &[data-selected] b {
    font-weight: 650;
  }
  i {
    width: 14px;
    height: 14px;
    border: 1px solid var(--edge);
    border-radius: 3px;
  }
  &[data-selected] i {
    background: var(--ink);
    border-color: var(--ink);
    box-shadow: inset 0 0 0 2.5px var(--raised);
  }
  &[data-hovered] {
    background: var(--well);
  }
  &[data-focus-visible] {
    box-shadow: inset 0 0 0 2px var(--ink);
  }
`;
const Head = styled.div`
  display: flex;
  gap: 8px;
  align-items: center;
  h3 {
    flex: 1;
  }
`;
const ROW = { rowSize: 44 };

interface Props {
  database: string;
  photographs: readonly PhotographSummary[];
  chosen: ReadonlySet<number>;
  onChoose: (chosen: ReadonlySet<number>) => void;
}

/** The photographs that it goes to. */
export function CarryTargets({ database, photographs, chosen, onChoose }: Props) {
  const choose = (selection: Selection): void =>
    onChoose(new Set(selection === 'all' ? photographs.map(({ id }) => id) : [...selection].map(Number)));
  return (
    <>
      <Head>
        <h3 id="carry-to">To</h3>
        <Button onPress={() => choose('all')}>All</Button>
        <Button onPress={() => choose(new Set())}>None</Button>
      </Head>
      <Virtualizer layout={ListLayout} layoutOptions={ROW}>
        <Targets
          aria-labelledby="carry-to"
          items={photographs}
          selectionMode="multiple"
          selectionBehavior="toggle"
          selectedKeys={[...chosen]}
          onSelectionChange={choose}
          renderEmptyState={() => 'There is no other photograph in this shoot.'}
        >
          {({ id, name, revision }) => (
            <Target id={id} textValue={name}>
              <span>
                <PreviewPicture database={database} id={id} revision={revision} />
              </span>
              <b>{name}</b>
              <i aria-hidden />
            </Target>
          )}
        </Targets>
      </Virtualizer>
    </>
  );
}
