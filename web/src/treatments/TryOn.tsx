'use client';
import { useState } from 'react';
import styled from 'styled-components';
import { CarryRow } from '@/carry/CarryRow';
import { countOf } from '@/carry/outcomes';
import { TrialCards } from '@/carry/TrialCards';
import { leftOf, useCarries } from '@/carry/useCarries';
import { usePhotographs } from '@/carry/usePhotographs';
import { ALL_OF_IT, useTrial } from '@/carry/useTrial';
import { Button } from '@/ui/controls/Button';
import { Select } from '@/ui/controls/Select';
import { Slider } from '@/ui/controls/Slider';
import { request } from '@/ui/request';

const Section = styled.section`
  display: grid;
  gap: 12px;
  border-top: 1px solid var(--line);
  padding-top: 14px;
  h2 {
    font: 650 12px/16px var(--sans);
    margin: 0;
  }
`;
const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  align-items: center;
  p {
    flex: 1;
    color: var(--ink2);
  }
  > div {
    width: 230px;
  }
`;
const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;

/** So many are tried at once. */
const AT_ONCE = 12;

interface Props {
  treatmentId: string;
  version: number;
  database: string;
  shoots: readonly { id: number; name: string }[];
  shootId: number;
  /** The photographs that are meant; none: all of the shoot. */
  of: readonly number[];
  onRun: () => void;
}

/** What there is to say of a trial beside its button. @param wanted how many photographs it is of @param areNamed whether somebody chose them */
function wordsOfTrial(waiting: number, isThere: boolean, wanted: number, all: number, areNamed: boolean): string {
  if (waiting > 0) return `${waiting} to go; regions that are not there yet are found, which takes a while…`;
  if (isThere) return 'Nothing is changed yet.';
  return all > wanted ? `${areNamed ? 'Those' : 'The first'} of ${all}; others are chosen on the contact sheet.` : '';
}

/** Shows what would come of a treatment before anything is changed, more or less of it, and does it. */
export function TryOn({ treatmentId, version, database, shoots, shootId: meant, of, onRun }: Props) {
  const [shootId, setShootId] = useState(meant);
  const [strength, setStrength] = useState(100);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [problem, setProblem] = useState<string | null>(null);
  const photographs = usePhotographs(shootId, setProblem);
  const [ran, setRan] = useState<readonly string[]>([]);
  // Another version does something else.
  const { detail, problem: failed, start, stop } = useTrial(`${treatmentId}-${version}-${shootId}`);
  const { list, refresh } = useCarries(shootId);

  const named = shootId === meant ? photographs.filter(({ id }) => of.includes(id)) : [];
  const wanted = (named.length > 0 ? named : photographs).slice(0, AT_ONCE);
  const chosen = wanted.filter(({ id }) => !left.has(id)).map(({ id }) => id);
  const run = async (): Promise<void> => {
    setProblem(null);
    try {
      const key = crypto.randomUUID();
      await request('POST', '/api/carries', {
        key,
        from: { kind: 'treatment', id: treatmentId },
        photographs: chosen,
        choice: { ...ALL_OF_IT, strength: strength / 100 },
        how: 'replace',
        isTrial: false,
      });
      setRan((before) => [key, ...before]);
      stop();
      await refresh();
      onRun();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const mine = list.filter(({ id }) => ran.includes(id));
  const waiting = detail ? leftOf(detail) : 0;
  return (
    <Section aria-labelledby="try-on">
      <h2 id="try-on">Try it on</h2>
      <Line>
        <Select
          label="Shoot"
          value={String(shootId)}
          options={shoots.map(({ id, name }) => [String(id), name] as const)}
          onChange={(id) => {
            setShootId(Number(id));
            setLeft(new Set());
          }}
        />
        <Button
          isDisabled={wanted.length === 0 || waiting > 0}
          onPress={() =>
            void start(
              { kind: 'treatment', id: treatmentId },
              wanted.map(({ id }) => id),
            )
          }
        >
          Try on {countOf(wanted.length)}
        </Button>
        <p role="status">{wordsOfTrial(waiting, detail !== null, wanted.length, photographs.length, named.length > 0)}</p>
        {waiting > 0 && <Button onPress={stop}>Stop</Button>}
        {detail && waiting === 0 && (
          <>
            <Strength value={strength} onChange={setStrength} />
            <Button $primary isDisabled={chosen.length === 0} onPress={() => void run()}>
              Run on {countOf(chosen.length)}
            </Button>
          </>
        )}
      </Line>
      {(problem ?? failed) && <p role="alert">{problem ?? failed}</p>}
      {mine.length > 0 && (
        <Rows aria-label="Run now">
          {mine.map((one) => (
            <CarryRow key={one.id} carry={one} refresh={refresh} />
          ))}
        </Rows>
      )}
      {detail && (
        <TrialCards
          detail={detail}
          database={database}
          strength={strength / 100}
          chosen={new Set(chosen)}
          onChoose={(now) => setLeft(new Set(wanted.map(({ id }) => id).filter((id) => !now.has(id))))}
        />
      )}
    </Section>
  );
}

function Strength({ value, onChange }: { value: number; onChange: (value: number) => void }) {
  return (
    <div>
      <Slider label="Strength" value={value} min={0} max={100} step={1} unit="%" neutral={100} onPreview={onChange} onCommit={onChange} />
    </div>
  );
}
