'use client';
import type { BatchSummary, HandOverSummary } from '@umbo/data';
import { ChevronDown, ChevronUp, FolderArchive, RotateCcw, Trash2, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { IconButton, LinkButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Num } from '@/ui/controls/Num';
import { Progress } from '@/ui/controls/Progress';
import { request } from '@/ui/request';
import { timeWords, waitsWords } from '@/ui/waits';
import { HandOverRow } from './HandOverRow';
import { describeBytes } from './options';

const Row = styled.li`
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  line-height: 16px;
  > div {
    display: grid;
    grid-template-columns: minmax(0, 1.2fr) minmax(0, 1.5fr) auto;
    gap: 4px 18px;
    align-items: center;
    padding: 9px 2px;
    min-height: 50px;
  }
  b {
    font-weight: 600;
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  span {
    color: var(--ink2);
  }
  .actions {
    display: flex;
    gap: 6px;
    justify-content: flex-end;
  }
  > ul {
    list-style: none;
    margin: 0;
    padding: 0 0 0 18px;
    border: 0;
  }
`;

/** Such as "3 min" or "20 s". */
/** Files that were asked for together: how far they are, and all of them in one. */
export function BatchRow({ batch, refresh }: { batch: BatchSummary; refresh: () => Promise<void> }) {
  const { id, files, done, failed, cancelled, progress, bytes, secondsLeft, shoots, waits } = batch;
  const [problem, setProblem] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const [list, setList] = useState<readonly HandOverSummary[]>([]);
  const address = `/api/hand-overs/batches/${id}`;
  const left = files - done - failed - cancelled;
  useEffect(() => {
    if (open) request<HandOverSummary[]>('GET', address).then(setList, () => undefined);
  }, [open, address, batch]);
  const act = (method: 'POST' | 'DELETE', path: string): void =>
    void request(method, path)
      .then(
        () => setProblem(null),
        (error: Error) => setProblem(error.message),
      )
      .finally(refresh);
  const ended = [failed > 0 && `${failed} failed`, cancelled > 0 && `${cancelled} cancelled`].filter(Boolean).join(', ');
  return (
    <Row aria-label={`${files} files`}>
      <div>
        <div style={{ minWidth: 0 }}>
          <b>
            {files} {files === 1 ? 'file' : 'files'}
          </b>
          <span>{shoots.join(', ')}</span>
        </div>
        <div>
          {left > 0 ? (
            <>
              <Progress label={`Rendering ${files} files`} share={progress} />
              <Num>
                {done} of {files}
              </Num>
              {secondsLeft !== null && ` · ${timeWords(secondsLeft)} left`}
              {waits && <> · {waitsWords(waits)}</>}
              {ended && ` · ${ended}`}
            </>
          ) : (
            <span role="status">
              <Num>{describeBytes(bytes)}</Num>
              {ended ? ` · ${done} done, ${ended}` : ' · all done'}
            </span>
          )}
        </div>
        <div className="actions">
          <LinkButton $primary={left === 0} href={`${address}/zip`} download>
            <FolderArchive size={14} strokeWidth={1.5} aria-hidden /> ZIP
          </LinkButton>
          {failed + cancelled > 0 && (
            <Hint text="Render what failed or was cancelled after all">
              <IconButton aria-label={`Try ${failed + cancelled} again`} onPress={() => act('POST', `${address}/retry`)}>
                <RotateCcw size={14} strokeWidth={1.5} />
              </IconButton>
            </Hint>
          )}
          {left > 0 ? (
            <Hint text="Cancel what is left">
              <IconButton aria-label={`Cancel ${left} files`} onPress={() => act('POST', `${address}/cancel`)}>
                <X size={14} />
              </IconButton>
            </Hint>
          ) : (
            <Hint text="Remove from the list, with the files">
              <IconButton aria-label={`Remove ${files} files`} onPress={() => act('DELETE', address)}>
                <Trash2 size={14} strokeWidth={1.5} />
              </IconButton>
            </Hint>
          )}
          <Hint text={open ? 'Hide the files' : 'Show the files'}>
            <IconButton aria-label={open ? 'Hide the files' : 'Show the files'} onPress={() => setOpen(!open)}>
              {open ? <ChevronUp size={14} /> : <ChevronDown size={14} />}
            </IconButton>
          </Hint>
        </div>
      </div>
      {problem && <p role="alert">{problem}</p>}
      {open && (
        <ul aria-label="Files of these">
          {list.map((item) => (
            <HandOverRow key={item.id} item={item} refresh={refresh} />
          ))}
        </ul>
      )}
    </Row>
  );
}
