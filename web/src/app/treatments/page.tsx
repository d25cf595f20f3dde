import { databaseId, listShoots, listTreatments } from '@umbo/data';
import type { Metadata } from 'next';
import { load } from '@/http/page';
import { db } from '@/http/server';
import { Treatments } from '@/treatments/Treatments';

interface Props {
  searchParams: Promise<{ shoot?: string | string[]; of?: string | string[]; show?: string | string[] }>;
}

export const metadata: Metadata = { title: 'Treatments' };

export default async function TreatmentsPage({ searchParams }: Props) {
  const { shoot = '', of = '', show = '' } = await searchParams;
  const { treatments, shoots, database } = await load(async () => ({
    treatments: await listTreatments(),
    shoots: await listShoots(db()),
    database: await databaseId(db()),
  }));
  const wanted = String(of)
    .split(',')
    .map(Number)
    .filter((id) => Number.isInteger(id) && id > 0);
  const at = shoots.find(({ id }) => String(id) === shoot) ?? shoots.find(({ photographs }) => photographs > 0);
  return (
    <Treatments
      initial={treatments}
      database={database}
      shoots={shoots.map(({ id, name }) => ({ id, name }))}
      shootId={at?.id ?? null}
      of={at && String(at.id) === shoot ? wanted : []}
      show={String(show)}
    />
  );
}
