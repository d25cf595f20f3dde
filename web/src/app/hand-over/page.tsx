import type { Metadata } from 'next';
import { HandOvers } from '@/handOver/HandOvers';
import { describeHandOvers } from '@/http/handOvers';
import { load } from '@/http/page';

export const metadata: Metadata = { title: 'Hand-over' };

export default async function HandOverPage() {
  return <HandOvers initial={await load(() => describeHandOvers())} />;
}
