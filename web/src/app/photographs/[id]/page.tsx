import { databaseId, findPhotograph, photographContent, readCarry, readDocument, readShoot, type CarryDetail } from '@umbo/data';
import type { Metadata } from 'next';
import { Bench } from '@/bench/Bench';
import type { CameAlong } from '@/bench/state/copied';
import { load, pageNumber } from '@/http/page';
import { db } from '@/http/server';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ carry?: string }>;
}

export async function generateMetadata({ params }: Pick<Props, 'params'>): Promise<Metadata> {
  const id = pageNumber((await params).id);
  return { title: (await load(() => findPhotograph(id))).name };
}

/** What came of carrying to one photograph, and where there is something to look at after it. */
function carriedTo({ id, to }: CarryDetail, photographId: number): CameAlong | null {
  const report = to.find((one) => one.photographId === photographId)?.outcome?.report;
  if (!report) return null;
  const open = to.filter(({ outcome, photographId: other }) => other === photographId || (outcome?.remarks ?? 0) > 0);
  const next = open[open.findIndex((one) => one.photographId === photographId) + 1];
  return {
    masks: report.masks.map(({ id: owner, before, now }) => ({ id: owner, before, now })),
    words: report.words,
    report: { id, next: next?.photographId ?? null },
  };
}

export default async function PhotographPage({ params, searchParams }: Props) {
  const id = pageNumber((await params).id);
  const { carry } = await searchParams;
  const { photograph, sha256, shoot, edit, database, carried } = await load(async () => {
    const photograph = await findPhotograph(id);
    return {
      photograph,
      sha256: await photographContent(db(), photograph),
      shoot: await readShoot(db(), photograph.shootId),
      edit: await readDocument(db(), id),
      database: await databaseId(db()),
      // One that is not known any more leaves the photograph as it is.
      carried: carry ? await readCarry(db(), carry).catch(() => null) : null,
    };
  });
  const { name, width, height, bits, profile } = photograph;
  // The others of the shoot: as references, and for layers that show one.
  const photographs = shoot.photographs
    .filter((other) => other.id !== id)
    .map((other) => ({ id: other.id, sha256: other.sha256, name: other.name, width: other.width, height: other.height }));
  return (
    <Bench
      key={`${id} ${carry ?? ''}`}
      database={database}
      photograph={{ id, sha256, name, width, height, bits, profile }}
      shoot={{ id: shoot.id, name: shoot.name, photographs, masks: shoot.masks }}
      edit={edit}
      carried={carried && carriedTo(carried, id)}
    />
  );
}
