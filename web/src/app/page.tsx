import { databaseId, listShoots } from '@umbo/data';
import { load } from '@/http/page';
import { db } from '@/http/server';
import { Shoots } from '@/shoots/Shoots';

export default async function ShootsPage() {
  return <Shoots {...await load(async () => ({ shoots: await listShoots(db()), database: await databaseId(db()) }))} />;
}
