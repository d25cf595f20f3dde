import { databaseId, findShoot, readCarry } from '@umbo/data';
import type { Metadata } from 'next';
import { CarryReportPage } from '@/carry/CarryReportPage';
import { load } from '@/http/page';
import { db } from '@/http/server';

export const metadata: Metadata = { title: 'Carried' };

export default async function CarryPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const { carry, shoot, database } = await load(async () => {
    const carry = await readCarry(db(), id);
    return { carry, shoot: (await findShoot(carry.shootId)).name, database: await databaseId(db()) };
  });
  return <CarryReportPage initial={carry} shoot={shoot} database={database} />;
}
