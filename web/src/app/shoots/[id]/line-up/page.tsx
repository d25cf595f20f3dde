import { readShoot } from '@umbo/data';
import type { Metadata } from 'next';
import { load, pageNumber } from '@/http/page';
import { db } from '@/http/server';
import { LineUp } from '@/shoots/lineUp/LineUp';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ of?: string | string[] }>;
}

export const metadata: Metadata = { title: 'Line-up' };

/** As many as can be told apart. */
const MOST = 12;

export default async function LineUpPage({ params, searchParams }: Props) {
  const id = pageNumber((await params).id);
  const { of = '' } = await searchParams;
  const shoot = await load(() => readShoot(db(), id));
  const wanted = String(of).split(',').map(Number).slice(0, MOST);
  return <LineUp shoot={shoot} of={wanted.filter((one) => shoot.photographs.some((photograph) => photograph.id === one))} />;
}
