import { readShoot } from '@umbo/data';
import type { Metadata } from 'next';
import { load, pageNumber } from '@/http/page';
import { ContactSheet } from '@/shoots/ContactSheet';

interface Props {
  params: Promise<{ id: string }>;
}

const read = async ({ params }: Props) => {
  const id = pageNumber((await params).id);
  return load(() => readShoot(id));
};

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: (await read(props)).name };
}

export default async function ShootPage(props: Props) {
  return <ContactSheet shoot={await read(props)} />;
}
