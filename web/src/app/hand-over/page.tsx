import type { Metadata } from 'next';
import { HandOvers } from '@/handOver/HandOvers';
import { listHandOvers } from '@umbo/data';
import { db } from '@/http/server';
import { load } from '@/http/page';

export const metadata: Metadata = { title: 'Hand-over' };

export default async function HandOverPage() {
  return <HandOvers initial={await load(() => listHandOvers(db()))} />;
}
