'use client';
import { percent } from '@umbo/core/base';
import type { CarriedMask } from '@umbo/core/carry';
import type { CarriedTo, CarryDetail, CarryManner } from '@umbo/data';
import { RotateCcw, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { useCallback, useState } from 'react';
import styled from 'styled-components';
import { PreviewPicture } from '@/shoots/PreviewPicture';
import { Button, IconButton, LinkButton } from '@/ui/controls/Button';
import { Choice } from '@/ui/controls/Choice';
import { Hint } from '@/ui/controls/Hint';
import { Num } from '@/ui/controls/Num';
import { PageTitle } from '@/ui/controls/PageTitle';
import { Progress } from '@/ui/controls/Progress';
import { Header } from '@/ui/Header';
import { request } from '@/ui/request';
import { useServerEvents } from '@/ui/serverEvents';
import { useSoon } from '@/ui/useSoon';
import { carriedWords, reachedOf, remarksOf, wordsOf } from './outcomes';
import { leftOf } from './useCarries';

const Page = styled.main`
  padding: 22px 24px 60px;
  font-size: 12px;
  line-height: 16px;
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 16px;
  > div:first-child {
    flex: 1;
  }
  p {
    color: var(--ink2);
  }
`;
const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  th {
    text-align: left;
    font-weight: 600;
    color: var(--ink2);
    padding: 4px 12px 4px 0;
    border-bottom: 1px solid var(--line);
  }
  td {
    padding: 8px 12px 8px 0;
    vertical-align: top;
    border-bottom: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  th:first-child {
    width: 270px;
  }
  th:last-child {
    width: 190px;
  }
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    display: grid;
    gap: 3px;
  }
  tr[data-quiet] td {
    color: var(--ink2);
  }
`;
const Which = styled.div`
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  gap: 12px;
  > span {
    height: 62px;
    background: var(--well);
    display: grid;
    overflow: hidden;
  }
  img {
    width: 92px;
    height: 62px;
    object-fit: contain;
  }
  b {
    font-weight: 600;
    display: block;
  }
`;
const Actions = styled.div`
  display: flex;
  gap: 6px;
  justify-content: flex-end;
`;
const MaskLine = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 104px;
  gap: 8px;
  > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  &[data-remark] > span {
    font-weight: 600;
    color: var(--ink);
  }
`;

const HOW: Record<CarryManner, string> = {
  add: 'Added on top',
  replace: 'Replaced an earlier copy',
  changes: 'Only what changed since',
  whole: 'Replaced the whole edit',
};
const LOOK_AFTER_MS = 300;

/** Where something was carried to, what each mask covers there, and what is worth a look; that comes first. */
export function CarryReportPage({ initial, shoot, database }: { initial: CarryDetail; shoot: string; database: string }) {
  const [carry, setCarry] = useState(initial);
  const [only, setOnly] = useState<'all' | 'remarks'>('all');
  const [problem, setProblem] = useState<string | null>(null);
  const address = `/api/carries/${initial.id}`;
  const look = useCallback(async (): Promise<void> => {
    await request<CarryDetail>('GET', address).then(setCarry, (error: Error) => setProblem(error.message));
  }, [address]);
  useServerEvents(
    ({ kind, subject }) =>
      (kind === 'carry' && subject === initial.shootId) || (kind === 'document' && initial.to.some((one) => one.photographId === subject)),
    useSoon(() => void look(), LOOK_AFTER_MS),
  );
  const act = async (path: string, body?: unknown): Promise<void> => {
    setProblem(null);
    try {
      await request('POST', `${address}/${path}`, body);
      await look();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };

  const left = leftOf(carry);
  const again = carry.failed + carry.cancelled;
  const rows = carry.to
    .filter((one) => only === 'all' || remarksOf(one) > 0)
    .toSorted((a, b) => remarksOf(b) - remarksOf(a) || a.jobId - b.jobId);
  return (
    <>
      <Header
        crumbs={[
          ['Shoots', '/'],
          [shoot, `/shoots/${carry.shootId}`],
          ['Carried', `/carries/${carry.id}`],
        ]}
      />
      <Page>
        <Head>
          <div>
            <PageTitle>{carriedWords(carry)}</PageTitle>
            <p>
              {HOW[carry.how]}
              {left === 0 &&
                ` · ${carry.here === 0 ? 'none of it is there now' : carry.remarks === 0 ? 'nothing to look at' : `${carry.remarks} to look at`}`}
            </p>
          </div>
          <Choice
            label="Which photographs"
            value={only}
            options={[
              ['all', 'All'],
              ['remarks', 'To look at'],
            ]}
            onChange={setOnly}
          />
          {left > 0 && <Button onPress={() => void act('cancel')}>Cancel what is left</Button>}
          {again > 0 && (
            <Button onPress={() => void act('retry')}>
              <RotateCcw size={14} strokeWidth={1.5} aria-hidden /> Try {again} again
            </Button>
          )}
          <Button isDisabled={carry.here === 0} onPress={() => void act('back', { photographId: null })}>
            <Undo2 size={14} strokeWidth={1.5} aria-hidden /> Take back on all
          </Button>
        </Head>
        {left > 0 && <Progress label="Carried so far" share={carry.progress} />}
        {problem && <p role="alert">{problem}</p>}
        <Table>
          <thead>
            <tr>
              <th>Photograph</th>
              <th>Area under the masks, there and here</th>
              <th>To check</th>
              <th aria-label="What to do" />
            </tr>
          </thead>
          <tbody>
            {rows.map((one) => (
              <ReportRow
                key={one.jobId}
                one={one}
                carryId={carry.id}
                database={database}
                onBack={() => void act('back', { photographId: one.photographId })}
              />
            ))}
          </tbody>
        </Table>
        {rows.length === 0 && <p>There is nothing to look at.</p>}
      </Page>
    </>
  );
}

function Line({ mask: { name, before, now, words } }: { mask: CarriedMask }) {
  return (
    <MaskLine data-remark={words !== null || undefined}>
      <span>{name}</span>
      <Num>
        {before !== null && `${percent(before)} → `}
        {percent(now)}
      </Num>
    </MaskLine>
  );
}

interface ReportRowProps {
  one: CarriedTo;
  carryId: string;
  database: string;
  onBack: () => void;
}

/** What became of it on one photograph. */
function ReportRow({ one, carryId, database, onBack }: ReportRowProps) {
  const isToMend = remarksOf(one) > 0 && one.isHere;
  return (
    <tr data-quiet={one.outcome !== null && !one.isHere}>
      <td>
        <Which>
          <span>
            <PreviewPicture database={database} id={one.photographId} revision={one.revision} />
          </span>
          <div>
            <b>{one.name}</b>
            {one.outcome?.changed && !one.isHere && 'Taken back'}
          </div>
        </Which>
      </td>
      <td>
        <ul>
          {one.outcome?.report.masks.map((mask) => (
            <Line key={mask.id} mask={mask} />
          ))}
        </ul>
      </td>
      <td>
        <ul>
          {[...wordsOf(one), ...reachedOf(one)].map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      </td>
      <td>
        <Actions>
          <LinkButton as={Link} $primary={isToMend} href={`/photographs/${one.photographId}?carry=${carryId}`}>
            {isToMend ? 'Mend' : 'Open'}
          </LinkButton>
          <Hint text="Take back on this photograph">
            <IconButton aria-label={`Take back on ${one.name}`} isDisabled={!one.isHere} onPress={onBack}>
              <Undo2 size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        </Actions>
      </td>
    </tr>
  );
}
