import { colourFacts, databaseId, findShoot } from '@umbo/data';
import type { Metadata } from 'next';
import { load, pageNumber } from '@/http/page';
import { db } from '@/http/server';
import { Consistency } from '@/shoots/consistency/Consistency';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ of?: string | string[] }>;
}

export const metadata: Metadata = { title: 'Colours compared' };

export default async function ColoursPage({ params, searchParams }: Props) {
  const id = pageNumber((await params).id);
  const { of = '' } = await searchParams;
  const wanted = String(of)
    .split(',')
    .map(Number)
    .filter((one) => Number.isInteger(one) && one > 0);
  const { shoot, facts, database } = await load(async () => ({
    shoot: await findShoot(id),
    facts: await colourFacts(db(), id, wanted),
    database: await databaseId(db()),
  }));
  return <Consistency shoot={{ id, name: shoot.name }} initial={facts} of={wanted} database={database} />;
}
