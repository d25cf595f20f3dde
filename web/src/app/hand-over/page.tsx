import type { Metadata } from 'next';
import { HandOvers } from '@/handOver/HandOvers';
import { listBatches, listHandOvers } from '@umbo/data';
import { db } from '@/http/server';
import { load } from '@/http/page';

export const metadata: Metadata = { title: 'Hand-over' };

export default async function HandOverPage() {
  const [initial, batches] = await load(() => Promise.all([listHandOvers(db()), listBatches(db())]));
  return <HandOvers initial={initial} batches={batches} />;
}
