import { databaseId, findPhotograph, photographContent, readDocument, readShoot } from '@umbo/data';
import type { Metadata } from 'next';
import { Bench } from '@/bench/Bench';
import { load, pageNumber } from '@/http/page';
import { db } from '@/http/server';

interface Props {
  params: Promise<{ id: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const id = pageNumber((await params).id);
  return { title: (await load(() => findPhotograph(id))).name };
}

export default async function PhotographPage({ params }: Props) {
  const id = pageNumber((await params).id);
  const { photograph, sha256, shoot, edit, database } = await load(async () => {
    const photograph = await findPhotograph(id);
    return {
      photograph,
      sha256: await photographContent(db(), photograph),
      shoot: await readShoot(db(), photograph.shootId),
      edit: await readDocument(db(), id),
      database: await databaseId(db()),
    };
  });
  const { name, width, height, bits, profile } = photograph;
  // The others of the shoot: as references, and for layers that show one.
  const photographs = shoot.photographs
    .filter((other) => other.id !== id)
    .map((other) => ({ id: other.id, sha256: other.sha256, name: other.name, width: other.width, height: other.height }));
  return (
    <Bench
      key={id}
      database={database}
      photograph={{ id, sha256, name, width, height, bits, profile }}
      shoot={{ id: shoot.id, name: shoot.name, photographs, masks: shoot.masks }}
      edit={edit}
    />
  );
}
