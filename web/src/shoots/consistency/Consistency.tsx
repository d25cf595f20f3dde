'use client';
import { labToRgb, srgb, type Lab } from '@umbo/core/colour';
import type { ColourFacts } from '@umbo/data';
import Link from 'next/link';
import { useState } from 'react';
import { Bar, BarChart, Cell, ReferenceLine, ResponsiveContainer, YAxis } from 'recharts';
import styled from 'styled-components';
import { Button, LinkButton } from '@/ui/controls/Button';
import { Num } from '@/ui/controls/Num';
import { numberRange } from '@/ui/controls/numberRange';
import { NumberText } from '@/ui/controls/NumberText';
import { PageTitle } from '@/ui/controls/PageTitle';
import { Select } from '@/ui/controls/Select';
import { Header } from '@/ui/Header';
import { hexOf } from '@/ui/hexOf';
import { Message } from '@/ui/Message';
import { saveFile } from '@/ui/saveFile';
import { useKept } from '@/ui/useKept';
import { CarryRow } from '@/carry/CarryRow';
import { useCarries } from '@/carry/useCarries';
import { PreviewPicture } from '../PreviewPicture';
import { asCsv, compare, subjectsOf, type Compared } from './compare';
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
const Overview = styled.div`
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr);
  gap: 24px;
  align-items: end;
  margin-bottom: 14px;
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 4px 14px;
    margin: 0;
  }
  dd {
    margin: 0;
  }
  dt {
    color: var(--ink2);
  }
`;
const Swatch = styled.i`
  display: inline-block;
  width: 28px;
  height: 16px;
  border: 1px solid var(--edge);
  vertical-align: -4px;
  margin-right: 8px;
`;
const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  th {
    text-align: right;
    font-weight: 600;
    color: var(--ink2);
    padding: 4px 12px 4px 0;
    border-bottom: 1px solid var(--line);
  }
  th:first-child,
  td:first-child {
    text-align: left;
  }
  td {
    padding: 6px 12px 6px 0;
    text-align: right;
    border-bottom: 1px solid var(--line);
  }
  tr[data-outlier] td:first-child,
  tr[data-outlier] [data-off] {
    font-weight: 650;
  }
`;
const Rows = styled.ul`
  list-style: none;
  margin: 0 0 14px;
  padding: 0;
`;
const Which = styled.span`
  display: flex;
  align-items: center;
  gap: 12px;
  > span {
    width: 66px;
    height: 44px;
    background: var(--well);
    display: grid;
    overflow: hidden;
  }
  img {
    width: 66px;
    height: 44px;
    object-fit: cover;
  }
`;

/** A difference that a practised eye sees side by side; common practice, no source. */
const TOLERANCE = 2;
const RANGE = numberRange({ min: 0.1, max: 50, step: 0.5, unit: 'ΔE' });
/** As many as the survey shows. */
const SURVEYED = 12;

const triple = ({ l, a, b }: Lab): string => `${l.toFixed(1)}  ${a.toFixed(1)}  ${b.toFixed(1)}`.replaceAll('-', '−');
const cssOf = (lab: Lab): string => hexOf(labToRgb(srgb, lab), srgb);

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
  const survey = outliers
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
              <Select
                label="What"
                value={subject.key}
                options={subjects.map(({ key, words, count }) => [key, `${words}, on ${count}`] as const)}
                onChange={setWanted}
              />
              <Select
                label="Against"
                value={found.rows.some(({ photographId }) => String(photographId) === to) ? to : 'middle'}
                options={[
                  ['middle', 'The middle of all'],
                  ...found.rows.map(({ photographId, name }) => [String(photographId), name] as const),
                ]}
                onChange={setTo}
              />
              <label>
                Tolerance
                <NumberText name="Tolerance" value={tolerance} range={RANGE} onCommit={(value) => keepTolerance(String(value))} />
              </label>
              <p role="status">{waiting > 0 && `${waiting} still to be measured`}</p>
              {survey && (
                <LinkButton as={Link} href={`/shoots/${shoot.id}/survey?of=${survey}`}>
                  Outliers in the survey
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
            <Overview>
              <dl>
                <dt>{subject.words}</dt>
                <dd>
                  <Swatch style={{ background: cssOf(found.middle) }} aria-hidden />
                  <Num>{triple(found.middle)}</Num>
                </dd>
                <dt>Off, in the mean</dt>
                <dd>
                  <Num>{found.mean.toFixed(1)} ΔE00</Num>
                </dd>
                <dt>The farthest</dt>
                <dd>
                  <Num>{found.farthest.toFixed(1)} ΔE00</Num>
                </dd>
                <dt>Outside</dt>
                <dd>
                  {outliers.length} of {found.rows.length}
                </dd>
              </dl>
              <Bars rows={found.rows} tolerance={tolerance} />
            </Overview>
            <Table>
              <thead>
                <tr>
                  <th>Photograph</th>
                  <th>ΔE00</th>
                  <th>L* a* b*</th>
                  <th>Spread of L*</th>
                  <th>of C*</th>
                  <th>of h</th>
                </tr>
              </thead>
              <tbody>
                {found.rows.map(({ photographId, name, revision, lab, spread, off }) => (
                  <tr key={photographId} data-outlier={off > tolerance || undefined}>
                    <td>
                      <Which>
                        <span>
                          <PreviewPicture database={database} id={photographId} revision={revision} />
                        </span>
                        <Link href={`/photographs/${photographId}`}>{name}</Link>
                      </Which>
                    </td>
                    <td data-off>
                      <Num>{off.toFixed(1)}</Num>
                    </td>
                    <td>
                      <Swatch style={{ background: cssOf(lab) }} aria-hidden />
                      <Num style={{ whiteSpace: 'pre' }}>{triple(lab)}</Num>
                    </td>
                    {(['lightness', 'chroma', 'hue'] as const).map((axis) => (
                      <td key={axis}>
                        <Num>{spread ? `${spread[axis].toFixed(1)}${axis === 'hue' ? '°' : ''}` : '–'}</Num>
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </Table>
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

/** How far each is off, the farthest first, and the tolerance as a line. */
function Bars({ rows, tolerance }: { rows: readonly Compared[]; tolerance: number }) {
  const data = rows.map(({ name, off }) => ({ name, off }));
  return (
    <div role="img" aria-label={`ΔE00 of ${rows.length} photographs, the farthest first; tolerance ${tolerance}`}>
      <ResponsiveContainer width="100%" height={110}>
        <BarChart data={data} margin={{ top: 6, right: 0, bottom: 0, left: 0 }} barCategoryGap={2}>
          <YAxis
            width={34}
            domain={[0, (most: number) => Math.max(most, tolerance * 1.2)]}
            tickCount={3}
            tickFormatter={(v: number) => v.toFixed(1)}
            tick={{ fontSize: 10 }}
            stroke="var(--ink2)"
          />
          <Bar dataKey="off" isAnimationActive={false} maxBarSize={40}>
            {data.map(({ name, off }) => (
              <Cell key={name} fill={off > tolerance ? 'var(--ink)' : 'var(--edge)'} />
            ))}
          </Bar>
          <ReferenceLine y={tolerance} stroke="var(--ink)" strokeDasharray="4 3" />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
