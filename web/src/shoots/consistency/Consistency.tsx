'use client';
import type { ColourFacts } from '@umbo/data';
import Link from 'next/link';
import { useState } from 'react';
import styled from 'styled-components';
import { Button, LinkButton } from '@/ui/controls/Button';
import { numberRange } from '@/ui/controls/numberRange';
import { NumberText } from '@/ui/controls/NumberText';
import { PageTitle } from '@/ui/controls/PageTitle';
import { Select } from '@/ui/controls/Select';
import { Header } from '@/ui/Header';
import { Message } from '@/ui/Message';
import { saveFile } from '@/ui/saveFile';
import { useKept } from '@/ui/useKept';
import { CarryRow } from '@/carry/CarryRow';
import { useCarries } from '@/carry/useCarries';
import { asCsv, compare, subjectsOf, type Comparison, type Subject } from './compare';
import { ComparedTable } from './ComparedTable';
import { InShort } from './InShort';
import { TogetherDialog } from './TogetherDialog';
import { useFacts } from './useFacts';

const Page = styled.main`
  padding: 22px 24px 60px;
  font-size: 12px;
  line-height: 16px;
  @media print {
    padding: 0;
    [data-screen] {
      display: none;
    }
  }
`;
const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  margin: 10px 0 16px;
  > p {
    flex: 1;
    color: var(--ink2);
  }
  label {
    display: flex;
    align-items: center;
    gap: 6px;
  }
`;
const Rows = styled.ul`
  list-style: none;
  margin: 0 0 14px;
  padding: 0;
`;
/** A difference that a practised eye sees side by side; common practice, no source. */
const TOLERANCE = 2;
const RANGE = numberRange({ min: 0.1, max: 50, step: 0.5, unit: 'ΔE' });
/** As many as the line-up shows. */
const SURVEYED = 12;

interface Props {
  shoot: { id: number; name: string };
  initial: readonly ColourFacts[];
  /** The photographs that are compared; none: all of the shoot. */
  of: readonly number[];
  database: string;
}

/** How alike one thing is on many photographs: outliers first, each one press from the bench. */
export function Consistency({ shoot, initial, of, database }: Props) {
  const facts = useFacts(shoot.id, of, initial);
  const [wanted, setWanted] = useState<string | null>(null);
  const [to, setTo] = useState('middle');
  const [bringing, setBringing] = useState(false);
  const [brought, setBrought] = useState<readonly string[]>([]);
  const { list, refresh } = useCarries(shoot.id);
  const asked = list.filter(({ id }) => brought.includes(id));
  const [kept, keepTolerance] = useKept<string>('consistency-tolerance', String(TOLERANCE));
  const tolerance = Number(kept) || TOLERANCE;
  const subjects = subjectsOf(facts);
  const subject = subjects.find(({ key }) => key === wanted) ?? subjects[0];
  const found = subject && compare(facts, subject.key, to === 'middle' ? null : Number(to));
  const waiting = facts.filter(({ isCurrent }) => !isCurrent).length;
  const outliers = found?.rows.filter(({ off }) => off > tolerance) ?? [];
  const pdf = new URLSearchParams({
    what: subject?.key ?? '',
    tolerance: String(tolerance),
    ...(to === 'middle' ? {} : { to }),
    ...(of.length > 0 ? { of: of.join(',') } : {}),
  });
  const lineUp = outliers
    .slice(0, SURVEYED)
    .map(({ photographId }) => photographId)
    .join(',');
  return (
    <>
      <Header
        crumbs={[
          ['Shoots', '/'],
          [shoot.name, `/shoots/${shoot.id}`],
          ['Colours compared', `/shoots/${shoot.id}/colours`],
        ]}
      />
      <Page>
        <PageTitle>Colours compared</PageTitle>
        {!subject || !found ? (
          <Message title={waiting > 0 ? 'Looking…' : 'There is nothing to compare yet'}>
            <p>
              {waiting > 0
                ? `The regions and readings of ${waiting === 1 ? 'one photograph' : `${waiting} photographs`} are being measured.`
                : 'What several photographs have in common is compared: regions of one role or name, readings of one name. Find regions, or pin readings, on at least two of them.'}
            </p>
          </Message>
        ) : (
          <>
            <Head data-screen>
              <Wishes {...{ subjects, subject, found, to, tolerance }} onSubject={setWanted} onTo={setTo} onTolerance={keepTolerance} />
              <p role="status">{waiting > 0 && `${waiting} still to be measured`}</p>
              {lineUp && (
                <LinkButton as={Link} href={`/shoots/${shoot.id}/line-up?of=${lineUp}`}>
                  Outliers in the line-up
                </LinkButton>
              )}
              {outliers.length > 0 && subject.region && (
                <Button $primary onPress={() => setBringing(true)}>
                  Bring together…
                </Button>
              )}
              <Button onPress={() => saveFile(`${shoot.name} ${subject.words}.csv`, asCsv(found, tolerance), 'text/csv')}>CSV</Button>
              <LinkButton href={`/api/shoots/${shoot.id}/colours/report?${pdf}`} download>
                PDF
              </LinkButton>
              <Button onPress={() => print()}>Print</Button>
            </Head>
            {asked.length > 0 && (
              <Rows data-screen aria-label="Brought together">
                {asked.map((one) => (
                  <CarryRow key={one.id} carry={one} refresh={refresh} />
                ))}
              </Rows>
            )}
            <InShort words={subject.words} found={found} outliers={outliers.length} tolerance={tolerance} />
            <ComparedTable rows={found.rows} tolerance={tolerance} database={database} />
          </>
        )}
        {subject?.region && found && (
          <TogetherDialog
            database={database}
            subject={subject.region}
            lab={found.middle}
            tolerance={tolerance}
            photographs={outliers.map(({ photographId }) => photographId)}
            isOpen={bringing}
            onClose={() => setBringing(false)}
            onDone={(id) => {
              setBringing(false);
              setBrought((before) => [id, ...before]);
              void refresh();
            }}
          />
        )}
      </Page>
    </>
  );
}

interface WishesProps {
  subjects: readonly Subject[];
  subject: Subject;
  found: Comparison;
  to: string;
  tolerance: number;
  onSubject: (key: string) => void;
  onTo: (to: string) => void;
  onTolerance: (tolerance: string) => void;
}

/** What is compared, with what, and how far off is too far. */
function Wishes({ subjects, subject, found, to, tolerance, onSubject, onTo, onTolerance }: WishesProps) {
  return (
    <>
      <Select
        label="What"
        value={subject.key}
        options={subjects.map(({ key, words, count }) => [key, `${words}, on ${count}`] as const)}
        onChange={onSubject}
      />
      <Select
        label="Against"
        value={found.rows.some(({ photographId }) => String(photographId) === to) ? to : 'middle'}
        options={[['middle', 'The middle of all'], ...found.rows.map(({ photographId, name }) => [String(photographId), name] as const)]}
        onChange={onTo}
      />
      <label>
        Tolerance
        <NumberText name="Tolerance" value={tolerance} range={RANGE} onCommit={(value) => onTolerance(String(value))} />
      </label>
    </>
  );
}
