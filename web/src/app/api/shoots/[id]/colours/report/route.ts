import { Problem } from '@umbo/core/base';
import { colourFacts, findShoot, readPreview } from '@umbo/data';
import { comparisonPdf } from '@umbo/files';
import { handler, number } from '@/http/handler';
import { db } from '@/http/server';
import { compare, subjectsOf } from '@/shoots/consistency/compare';

/** The colours compared, as a PDF: `what` by its key, `to` a photograph or the middle, `tolerance`, and `of` where not all are meant. */
export const GET = handler<{ id: string }>(
  async (request, { id }) => {
    const query = new URL(request.url).searchParams;
    const of = query.get('of');
    const to = query.get('to');
    const tolerance = Number(query.get('tolerance'));
    if (!(tolerance > 0 && tolerance <= 50)) throw new Problem('invalid', 'The tolerance is not of the right kind.');
    const { name: shoot } = await findShoot(number(id));
    const facts = await colourFacts(db(), number(id), of ? of.split(',').map(number) : []);
    const subject = subjectsOf(facts).find(({ key }) => key === query.get('what'));
    const found = subject && compare(facts, subject.key, to === null ? null : number(to));
    if (!subject || !found) throw new Problem('not-found', 'Nothing of this is on at least two of the photographs (any more).');
    const rows = await Promise.all(
      found.rows.map(async (row) => ({ ...row, preview: (await readPreview(db(), row.photographId))?.data ?? null })),
    );
    const against = facts.find(({ photographId }) => String(photographId) === to)?.name ?? 'the middle of all';
    const body = await comparisonPdf({ shoot, subject: subject.words, against, tolerance, middle: found.middle, mean: found.mean, rows });
    return new Response(new Uint8Array(body), {
      headers: {
        'Content-Type': 'application/pdf',
        'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${shoot} ${subject.words}.pdf`)}`,
        'Cache-Control': 'private, no-store',
      },
    });
  },
  { patient: true },
);
