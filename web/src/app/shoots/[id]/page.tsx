import { databaseId, readShoot } from '@umbo/data';
import type { Metadata } from 'next';
import { load, pageNumber } from '@/http/page';
import { db } from '@/http/server';
import { ContactSheet } from '@/shoots/ContactSheet';

interface Props {
  params: Promise<{ id: string }>;
}

const read = async ({ params }: Props) => {
  const id = pageNumber((await params).id);
  return load(async () => ({ shoot: await readShoot(db(), id), database: await databaseId(db()) }));
};

export async function generateMetadata(props: Props): Promise<Metadata> {
  return { title: (await read(props)).shoot.name };
}

export default async function ShootPage(props: Props) {
  return <ContactSheet {...await read(props)} />;
}
